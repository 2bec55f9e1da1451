/**
 * What other windows change, as it happens. One window of a browser listens and tells the rest: a browser has few connections
 * to a server, and each stream holds one.
 */
import type { LimitsChanged, SceneChanged } from "./generated";

const ADDRESS = "/api/events";
const CHANNEL = "eddyfield.changes";
const LISTENER = "eddyfield.listener";
const AGAIN_MS = 5000;

/** A change of a scene, or of the production's limits; or, where some may have been missed, that one listens from now on. */
export type Heard = SceneChanged | LimitsChanged | "listening";

/** Calls `heard` until the function that it answers is called. */
export function followChanges(heard: (what: Heard) => void): () => void {
  const end = new AbortController();
  const channel = new BroadcastChannel(CHANNEL);
  channel.onmessage = (message: MessageEvent<Heard>) => heard(message.data);
  end.signal.addEventListener("abort", () => channel.close());
  const tell = (what: Heard) => {
    heard(what);
    channel.postMessage(what);
  };
  const listen = () => new Promise<void>((resolve) => listenUntil(end.signal, tell, resolve));
  if (navigator.locks) {
    navigator.locks.request(LISTENER, { signal: end.signal }, listen).catch(() => undefined); // aborted before its turn
  } else void listen();
  return () => end.abort();
}

function listenUntil(ended: AbortSignal, tell: (what: Heard) => void, done: () => void): void {
  let source: EventSource;
  let again: ReturnType<typeof setTimeout> | undefined;
  const open = () => {
    source = new EventSource(ADDRESS);
    source.addEventListener("listening", () => tell("listening"));
    const tellOf = (event: Event) =>
      tell(JSON.parse((event as MessageEvent<string>).data) as SceneChanged | LimitsChanged);
    source.addEventListener("changed", tellOf);
    source.addEventListener("limits", tellOf);
    source.onerror = () => {
      // It comes again by itself, unless it was refused.
      if (source.readyState === EventSource.CLOSED) again = setTimeout(open, AGAIN_MS);
    };
  };
  ended.addEventListener("abort", () => {
    clearTimeout(again);
    source.close();
    done();
  });
  open();
}

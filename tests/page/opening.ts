/** Opening the demo scene as it was loaded, and the page anew. */
import type { Root } from "react-dom/client";
import { mount } from "@/mount";
import { closeScene } from "@/state/edits";
import { fresh, setSession } from "@/state/session";
import {
  Unheard,
  Upload,
  address,
  ask,
  base,
  network,
  postJson,
  signedIn,
} from "./network";
import { byId, text, wait } from "./seeing";

const DEMO = "Crossing";
let root: Root | null = null;

/** Of the scene that tests open, whatever they call it. */
let demo = "";

/** Undo whatever earlier tests did to the demo's scenes. */
async function undoAll(): Promise<void> {
  const { scenes } = (await (await ask("/api/scenes")).json()) as {
    scenes: { id: string; name: string; revision: number }[];
  };
  demo ||= scenes.find(({ name }) => name === DEMO)!.id;
  for (const scene of scenes) {
    let now = scene.revision;
    while (now > 1) {
      const answer = await postJson(`/api/scenes/${scene.id}/undo`, {
        revision: now,
        view: { judged: false },
      });
      if (answer.status === 422) break;
      if (answer.status === 409) {
        // What was undone in another scene changed this one as well.
        now = ((await answer.json()) as { revision: number }).revision;
        continue;
      }
      if (!answer.ok) throw new Error(await answer.text());
      now += 1;
    }
  }
}

/** The page anew, as when it is reloaded. */
export async function load(path: string): Promise<void> {
  // What a window keeps is there before it is left: a page that is reloaded is not taken down piece by piece.
  const kept = JSON.parse(
    localStorage.getItem("eddyfield.window") ?? "{}",
  ) as object;
  leave();
  history.replaceState(null, "", path);
  setSession({ ...fresh, parts: new Map(), ...kept });
  const element = document.body.appendChild(document.createElement("div"));
  root = mount(element);
}

export function leave(): void {
  root?.unmount();
  root = null;
  closeScene();
  document.body.replaceChildren();
}

/** The demo scene is opened as it was loaded, at its first frame. */
export async function openDemo(): Promise<void> {
  (
    window as unknown as { happyDOM: { setURL(url: string): void } }
  ).happyDOM.setURL(base);
  vi.stubGlobal("fetch", ask);
  vi.stubGlobal("EventSource", Unheard);
  vi.stubGlobal("XMLHttpRequest", Upload);
  if (!signedIn()) await ask(address.slice(base.length));
  network.without = false;
  localStorage.clear();
  sessionStorage.clear();
  await undoAll();
  await load(`/scenes/${demo}`);
  await byId("sheet-rows");
  await wait(
    () =>
      document.querySelector<HTMLElement>("[data-testid=picture] canvas")!
        .dataset.drawn,
    "a first picture",
  );
  await wait(
    () => !text(".readings-pane").includes("Being judged"),
    "its readings",
  );
}

/** Playing: in real time, dropping frames rather than slowing, or every frame, slower if need be. */
import { clockMs } from "./clock";
import { hearFrom, stopHearing } from "./hearing";
import { getReadyToGoOn, goOn, placeIn } from "./sequence";
import { type Session, playRange, session, setSession } from "./session";

let startedAt = 0;
let startedOn = 0;
let handle = 0;
let tickedAt = 0;
/** A refresh of a usual screen. */
const MOST_AHEAD_MS = 17;

export function goTo(frame: number): void {
  const { scene } = session();
  if (!scene) return;
  setSession({ frame: Math.max(scene.first, Math.min(scene.last, Math.round(frame))) });
  startedAt = clockMs();
  startedOn = session().frame;
  if (session().playing) void hearFrom(startedOn);
}

export function togglePlay(): void {
  if (session().playing) return stop();
  const { scene, frame } = session();
  if (!scene) return;
  const [first, last] = playRange(session());
  const from = frame < first || frame >= last ? first : frame;
  setSession({ playing: true, frame: from, dropped: 0 });
  startedAt = clockMs();
  startedOn = from;
  tickedAt = startedAt;
  getReadyToGoOn();
  void hearFrom(from);
  handle = requestAnimationFrame(tick);
}

export function stop(): void {
  cancelAnimationFrame(handle);
  if (session().playing) stopHearing();
  setSession({ playing: false });
}

/** Whether the last scene of a sequence is played that does not begin anew. */
function isAtTheEnd(state: Session): boolean {
  return !state.loop && placeIn(state) + 1 === state.sequence?.scenes.length;
}

function tick(): void {
  const now = clockMs();
  const state = session();
  const { scene } = state;
  if (!state.playing || !scene) return;
  const [first, last] = playRange(state);
  const rate = scene.rate_float;
  // What is set now is drawn with the next refresh: it goes by the time that it will be then.
  const seenAt = now + Math.max(0, Math.min(now - tickedAt, MOST_AHEAD_MS));
  tickedAt = now;
  const due = startedOn + Math.floor(((seenAt - startedAt) * rate) / 1000 + 1e-6);
  let next = state.frame;
  if (state.everyFrame) {
    // The next frame as soon as it is due, and one at a time however late it is.
    if (due > state.frame) {
      next = state.frame + 1;
      startedAt = now;
      startedOn = next;
    }
  } else if (due > state.frame) {
    next = due;
    if (next - state.frame > 1)
      setSession({ dropped: state.dropped + Math.min(next, last) - state.frame - 1 });
  }
  if (next > last && state.sequence && state.through && !state.range && !isAtTheEnd(state)) {
    const first = goOn();
    if (first !== null) {
      // The clock runs on: the first frame of the next scene is due when the one after the last would have been.
      startedAt += ((last + 1 - startedOn) * 1000) / rate;
      startedOn = first;
      void hearFrom(first);
      handle = requestAnimationFrame(tick);
      return;
    }
  }
  if (next > last) {
    if (!state.loop) {
      stopHearing();
      setSession({ frame: last, playing: false });
      return;
    }
    next = first;
    startedAt = now;
    startedOn = first;
    void hearFrom(first);
  }
  if (next !== state.frame) setSession({ frame: next });
  handle = requestAnimationFrame(tick);
}

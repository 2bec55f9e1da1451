/** Playing: in real time, dropping frames rather than slowing, or every frame, slower if need be. */
import { playRange, session, setSession } from "./session";

let startedAt = 0;
let startedOn = 0;
let handle = 0;

export function goTo(frame: number): void {
  const { scene } = session();
  if (!scene) return;
  setSession({ frame: Math.max(scene.first, Math.min(scene.last, Math.round(frame))) });
  startedAt = performance.now();
  startedOn = session().frame;
}

export function togglePlay(): void {
  if (session().playing) return stop();
  const { scene, frame } = session();
  if (!scene) return;
  const [first, last] = playRange(session());
  const from = frame < first || frame >= last ? first : frame;
  setSession({ playing: true, frame: from, dropped: 0 });
  startedAt = performance.now();
  startedOn = from;
  handle = requestAnimationFrame(tick);
}

export function stop(): void {
  cancelAnimationFrame(handle);
  setSession({ playing: false });
}

function tick(now: number): void {
  const state = session();
  const { scene } = state;
  if (!state.playing || !scene) return;
  const [first, last] = playRange(state);
  const rate = scene.rate_float;
  const due = startedOn + Math.floor(((now - startedAt) * rate) / 1000 + 1e-6);
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
  if (next > last) {
    if (!state.loop) {
      setSession({ frame: last, playing: false });
      return;
    }
    next = first;
    startedAt = now;
    startedOn = first;
  }
  if (next !== state.frame) setSession({ frame: next });
  handle = requestAnimationFrame(tick);
}

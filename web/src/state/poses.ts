/** New poses: the frames on which the shown performance changes. */
import type { ShownPart } from "../api/generated";
import { goTo } from "./playback";
import { chosenCharacter, part, session } from "./session";

/** The frames that start an exposure, in order. */
export function newPoseFrames(starts: Int32Array, first: number): number[] {
  const out: number[] = [];
  for (let row = 0; row < starts.length; row++) if (starts[row] === first + row) out.push(first + row);
  return out;
}

let flippedFrom: number | null = null;

function frames(): number[] {
  const state = session();
  const shown = part<ShownPart>(state, chosenCharacter(state)?.shown);
  return shown && state.scene ? newPoseFrames(shown.exposure_start, state.scene.first) : [];
}

export function goToNewPose(direction: 1 | -1): void {
  const here = session().frame;
  const all = frames();
  const next = direction > 0 ? all.find((f) => f > here) : all.findLast((f) => f < here);
  if (next === undefined) return;
  flippedFrom = all.findLast((f) => f <= here) ?? here;
  goTo(next);
}

/** Flip between this new pose and the one before it (or the one last come from). */
export function flipPoses(): void {
  const all = frames();
  const here = all.findLast((f) => f <= session().frame);
  if (here === undefined) return;
  const other = flippedFrom !== null && flippedFrom !== here ? flippedFrom : all.findLast((f) => f < here);
  if (other === undefined) return;
  flippedFrom = here;
  goTo(other);
}

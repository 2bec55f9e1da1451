/** New poses: the frames on which the shown performance changes. */
import type { ShownPart } from "../api/generated";
import { goTo } from "./playback";
import { chosenCharacter, notify, part, session } from "./session";

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

let keptFrame: { scene: string; frame: number } | null = null;

/** Keep this frame to flip to; from then on between the two. On the kept frame itself it is let go. */
export function flipFrames(): void {
  const { frame, scene } = session();
  if (!scene) return;
  const kept = keptFrame?.scene === scene.id ? keptFrame.frame : null;
  if (kept === frame) {
    keptFrame = null;
    return notify(`${frame} is kept no longer.`);
  }
  keptFrame = { scene: scene.id, frame };
  if (kept === null) notify(`${frame} is kept: go to another frame, then Shift F flips between the two.`);
  else goTo(kept);
}

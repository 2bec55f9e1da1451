/** How one shot takes over from the one before, as it is seen on a frame. */
import type { BlendPart, CameraView, SceneView } from "../api/generated";
import { TRANSITION_KINDS } from "../api/tables";
import type { Sight } from "../optics/lens";
import { matrixAt } from "../optics/lens";
import { edit } from "./edits";
import { type Session, notify, part, session } from "./session";
import { type Shot, shotAt } from "./cutting";

export type Transition = Shot["transition"];
const USUAL_FRAMES = 12;

export interface MixNow {
  from: Shot;
  to: Shot;
  transition: Transition;
  /** Of the later shot, 0 to 1. */
  share: number;
  /** Which of its frames this is, counted from 1, and of how many. */
  number: number;
  count: number;
}

/** The transition that is under way on a frame. */
export function mixAt(scene: SceneView | null, frame: number): MixNow | null {
  const index = scene?.cut.findIndex((shot) => shot.mix && shot.mix.first <= frame && frame <= shot.mix.last);
  if (!scene || !index || index < 0) return null;
  const to = scene.cut[index]!;
  const mix = to.mix!;
  return {
    from: scene.cut[index - 1]!,
    to,
    transition: to.transition,
    share: mix.shares[frame - mix.first]!,
    number: frame - mix.first + 1,
    count: mix.shares.length,
  };
}

/** How much of a dip's colour lies over the picture. */
export const veilOf = (share: number) => 1 - Math.abs(2 * share - 1);

/** Where the blended move stands on a frame; null where none is under way. */
export function blendAt(
  state: Pick<Session, "scene" | "parts">,
  frame: number,
): { blend: BlendPart; row: number } | null {
  const blend = part<BlendPart>(state, state.scene?.blend);
  const row = blend?.frames.indexOf(frame) ?? -1;
  return blend && row >= 0 ? { blend, row } : null;
}

export function blendSight({ blend, row }: { blend: BlendPart; row: number }, camera: CameraView): Sight {
  return {
    world: matrixAt(blend.world_from_camera, row),
    slopeX: blend.pixels_per_slope[row * 2]!,
    slopeY: blend.pixels_per_slope[row * 2 + 1]!,
    near: blend.near_m[row]!,
    far: camera.glass.far_m,
    shiftX: blend.shifts[row * 2]!,
    shiftY: blend.shifts[row * 2 + 1]!,
    parallelHeight: blend.view_height_m[row] || null,
    by: camera.id,
  };
}

/** What the caption says of it. */
export function mixText({ transition, number, count }: MixNow): string {
  return `${transition.kind} ${number} of ${count}`;
}

/** The shot at the playhead begins with the next kind of transition. */
export function nextTransition(): void {
  const { scene, frame } = session();
  const shot = mixAt(scene, frame)?.to ?? shotAt(scene, frame);
  if (!shot) return;
  if (shot.first === scene!.first)
    return notify("Before the first shot there is none to come from. Go to a later one.");
  const kind =
    TRANSITION_KINDS[(TRANSITION_KINDS.indexOf(shot.transition.kind) + 1) % TRANSITION_KINDS.length]!;
  setTransition(shot, { kind });
  notify(
    kind === "cut" ? `Shot ${shot.title} begins with a cut.` : `Shot ${shot.title} begins with a ${kind}.`,
  );
}

/** Say how a shot begins; a kind that takes frames gets some, around the cut. */
export function setTransition(shot: Shot, changes: Partial<Transition>): void {
  const wanted = { ...shot.transition, ...changes };
  if (wanted.kind === "cut") wanted.frames = wanted.before = 0;
  else if (!wanted.frames) {
    wanted.frames = USUAL_FRAMES;
    wanted.before = USUAL_FRAMES / 2;
    wanted.ease = wanted.kind === "blend" ? "slow in and out" : "even";
  } else if (changes.frames && changes.before === undefined)
    // It grows and shrinks about the cut.
    wanted.before = Math.round((shot.transition.before / shot.transition.frames) * changes.frames);
  wanted.before = Math.min(wanted.before, wanted.frames);
  edit({ edit: "set transition", first: shot.begins, transition: wanted });
}

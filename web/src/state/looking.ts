/** What is looked through: the cut, or the free view of Roam. */
import { Vector3 } from "three";
import type { CameraPart, MotionPart, ShownPart } from "../api/generated";
import { bakedPose } from "../picture/lens";
import { type Pose, around } from "../picture/pose";
import { chosenCharacter, cutCamera, part, session, setSession } from "./session";

const ROAM_FOCAL_MM = 35;
const SIDES = { front: [0, 4], side: [90, 4], "three-quarter": [40, 14], top: [0, 89] } as const;
export type Side = keyof typeof SIDES;
export const SIDE_NAMES = Object.keys(SIDES) as Side[];

/** Middle and radius, metres, of the chosen character as shown on this frame. */
export function subjectNow(): { middle: Vector3; radius: number } {
  const state = session();
  const character = chosenCharacter(state);
  const motion = part<MotionPart>(state, character?.motion);
  const shown = part<ShownPart>(state, character?.shown);
  const scene = state.scene;
  if (!motion || !shown || !scene) return { middle: new Vector3(0, 1, 0), radius: 1 };
  const row = (shown.exposure_start[state.frame - scene.first] ?? scene.first) - scene.first;
  const joints = motion.joints.length / (scene.last - scene.first + 1);
  const low = new Vector3(Infinity, Infinity, Infinity);
  const high = low.clone().negate();
  const point = new Vector3();
  for (let at = row * joints; at < (row + 1) * joints; at += 3) {
    point.fromArray(motion.joints, at);
    low.min(point);
    high.max(point);
  }
  return {
    middle: low.clone().add(high).multiplyScalar(0.5),
    radius: Math.max(0.1, low.distanceTo(high) / 2),
  };
}

/** Where the camera of the cut stands on this frame, as baked. */
export function cutPose(): Pose | null {
  const state = session();
  const path = part<CameraPart>(state, cutCamera(state)?.path);
  return path && state.scene ? bakedPose(path, state.frame - state.scene.first) : null;
}

export function toggleRoam(): void {
  const { looking, roam } = session();
  if (looking === "roam") setSession({ looking: "cut" });
  else setSession({ looking: "roam", roam: roam ?? cutPose() });
}

/** Go to Roam and look at the character from a side. */
export function lookFrom(side: Side): void {
  const { middle, radius } = subjectNow();
  const front = chosenCharacter(session())?.front ?? [0, 0, 1];
  const [azimuth, elevation] = SIDES[side];
  // The picture is wider than high: the height decides. 24 mm of film at this focal length, a third to spare.
  const distance = Math.max(0.5, (radius * ROAM_FOCAL_MM * 1.35) / 10);
  setSession({ looking: "roam", roam: around(middle, front, azimuth, elevation, distance, ROAM_FOCAL_MM) });
}

export function toggleFreeze(): void {
  const { frozenFrame, frame } = session();
  setSession({ frozenFrame: frozenFrame === null ? frame : null });
}

/** The joints of a character, as shown on this frame: stepped and riding. */
import { Matrix4, Vector3 } from "three";
import type { CharacterView, MotionPart, RigPart, ShownPart } from "../api/generated";
import { type Session, chosenCharacter, part } from "./session";

export function shownJoints(
  state: Pick<Session, "scene" | "parts" | "frame" | "characterId">,
  character: CharacterView | null = chosenCharacter(state),
): Vector3[] {
  const { scene } = state;
  const rig = part<RigPart>(state, character?.rig);
  const motion = part<MotionPart>(state, character?.motion);
  const shown = part<ShownPart>(state, character?.shown);
  if (!scene || !rig || !motion || !shown) return [];
  const row = state.frame - scene.first;
  const poseRow = (shown.exposure_start[row] ?? scene.first) - scene.first;
  const ride = new Matrix4().fromArray(Array.from(shown.carried.subarray(row * 16, row * 16 + 16)));
  return rig.joints.map((_, joint) =>
    new Vector3().fromArray(motion.joints, (poseRow * rig.joints.length + joint) * 3).applyMatrix4(ride),
  );
}

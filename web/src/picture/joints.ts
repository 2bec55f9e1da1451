/** The joints of the chosen character, as shown on this frame: stepped and riding. */
import { Matrix4, Vector3 } from "three";
import type { MotionPart, RigPart, ShownPart } from "../api/generated";
import { type Session, chosenCharacter, part } from "../state/session";

export function shownJoints(state: Session): Vector3[] {
  const { scene } = state;
  const character = chosenCharacter(state);
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

/** The joints of a character or a prop, as shown on this frame: stepped, carried and riding. */
import { Matrix4, Vector3 } from "three";
import type {
  CarriedPart,
  CharacterView,
  MotionPart,
  PieceMotionPart,
  PieceView,
  RigPart,
  ShownPart,
} from "../api/generated";
import { bentJoints } from "../optics/bent";
import { type Session, chosenCharacter, part } from "./session";

type Seen = Pick<Session, "scene" | "parts" | "frame" | "characterId">;

export function shownJoints(
  state: Seen,
  thing: CharacterView | PieceView | null = chosenCharacter(state),
): Vector3[] {
  const { scene } = state;
  const rig = part<RigPart>(state, thing?.rig);
  if (!scene || !rig || !thing) return [];
  const row = state.frame - scene.first;
  if ("placed" in thing) {
    const motion = part<PieceMotionPart>(state, thing.motion);
    const placed = part<CarriedPart>(state, thing.placed);
    if (!motion || !placed) return [];
    const at = placed.world_from_file.length > 16 ? row * 16 : 0;
    return placesOf(motion.joints, row, rig.joints.length, placed.world_from_file.subarray(at, at + 16));
  }
  const motion = part<MotionPart>(state, thing.motion);
  const shown = part<ShownPart>(state, thing.shown);
  if (!motion || !shown) return [];
  const poseRow = (shown.exposure_start[row] ?? scene.first) - scene.first;
  const size = rig.joints.length * 3;
  const posed = bentJoints(motion.joints.subarray(poseRow * size, (poseRow + 1) * size), shown, row);
  return placesOf(posed, 0, rig.joints.length, shown.carried.subarray(row * 16, row * 16 + 16));
}

function placesOf(joints: Float32Array, row: number, count: number, carried: Float32Array): Vector3[] {
  const matrix = new Matrix4().fromArray(Array.from(carried));
  return Array.from({ length: count }, (_, joint) =>
    new Vector3().fromArray(joints, (row * count + joint) * 3).applyMatrix4(matrix),
  );
}

/** The way of one joint through the world, x y z a row of the scene: of a character on ones, of a prop as it is shown; null where
 * there is none. */
export function worldArc(
  state: Pick<Session, "parts">,
  thing: CharacterView | PieceView | null,
  joint: string | null,
  rows: number,
): Float32Array | null {
  const rig = part<RigPart>(state, thing?.rig);
  const index = joint ? (rig?.joints.indexOf(joint) ?? -1) : -1;
  if (!rig || !thing || index < 0) return null;
  const count = rig.joints.length;
  const motion = part<MotionPart | PieceMotionPart>(state, thing.motion);
  if (!motion) return null;
  const out = new Float32Array(rows * 3);
  const placed = "placed" in thing ? part<CarriedPart>(state, thing.placed) : null;
  if ("placed" in thing && !placed) return null;
  const [matrix, place] = [new Matrix4(), new Vector3()];
  for (let row = 0; row < rows; row++) {
    place.fromArray(motion.joints, (row * count + index) * 3);
    if (placed) {
      const moves = placed.world_from_file.length > 16;
      place.applyMatrix4(matrix.fromArray(placed.world_from_file, moves ? row * 16 : 0));
    }
    place.toArray(out, row * 3);
  }
  return out;
}

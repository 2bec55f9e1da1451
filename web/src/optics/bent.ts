/** Legs that are bent so that a planted foot stays: what the core worked out, laid under what carries the whole body. */
import { Matrix4, Vector3 } from "three";
import type { ShownPart } from "../api/generated";

type Bends = Pick<ShownPart, "group_of_slot" | "group_of_joint" | "bent" | "carried">;

/** The matrix of a group on a row. */
function bendOf({ bent, carried }: Bends, row: number, group: number): Matrix4 {
  const groups = bent.length / carried.length;
  return new Matrix4().fromArray(bent, (row * groups + group) * 16);
}

/** Skin matrices of a pose (slots × 16) as they are on a row; the very same ones where nothing is bent. */
export function bentSkin(skin: Float32Array, shown: Bends, row: number): Float32Array {
  if (!shown.bent.length) return skin;
  const out = skin.slice();
  const matrix = new Matrix4();
  shown.group_of_slot.forEach((group, slot) => {
    if (group < 0) return;
    matrix
      .fromArray(skin, slot * 16)
      .premultiply(bendOf(shown, row, group))
      .toArray(out, slot * 16);
  });
  return out;
}

/** Places of the joints of a pose (joints × 3) as they are on a row. */
export function bentJoints(joints: Float32Array, shown: Bends, row: number): Float32Array {
  if (!shown.bent.length) return joints;
  const out = joints.slice();
  const place = new Vector3();
  shown.group_of_joint.forEach((group, joint) => {
    if (group < 0) return;
    place
      .fromArray(joints, joint * 3)
      .applyMatrix4(bendOf(shown, row, group))
      .toArray(out, joint * 3);
  });
  return out;
}

/**
 * A plain body in the place of a character's mesh, for the pose alone: a tapered limb from each joint to what hangs on it, and a
 * ball for the head. It is a rig of its own, whose limbs are carried by matrices made of where the joints are.
 */
import { Matrix4, Quaternion, Vector3 } from "three";
import type { RigPart } from "../api/generated";
import { PLAIN_BODY } from "./colours";

const SIDES = 8;
/** Along a limb: share of its length, and of its thickness there. */
const LIMB = [
  [-0.04, 0.2],
  [0.0, 0.7],
  [0.18, 1.0],
  [0.75, 0.74],
  [0.97, 0.56],
  [1.03, 0.18],
] as const;
const BALL_ROWS = 6;
/** The thickness of a limb, by its length, and within which shares of the body's height. */
const THICKNESS = 0.16;
const [LEAST_SHARE, MOST_SHARE] = [0.007, 0.035];
const MOST_POSES = 500;
const UP = new Vector3(0, 1, 0);

export class PlainBody {
  readonly rig: RigPart;
  /** Indices of the joints at the ends of each limb; the head's ball is carried after the last of them. */
  private readonly limbs: [number, number][] = [];
  private readonly poses = new Map<number, Float32Array>();
  private readonly count: number;
  private readonly tall: number;

  constructor(
    of: RigPart,
    private readonly joints: Float32Array,
    private readonly head: { joint: number; diameter: number },
  ) {
    of.joint_parents.forEach((parent, joint) => {
      if (parent >= 0) this.limbs.push([parent, joint]);
    });
    this.count = of.joints.length;
    this.tall = tallness(joints.subarray(0, this.count * 3));
    const slots = this.limbs.length + 1;
    const shape = shapeOf(slots);
    const whole = { first: 0, end: shape.triangles.length / 3, look: null, smooth: true };
    this.rig = { ...of, ...shape, slot_count: slots, mesh_parts: [whole], looks: [], images: [], shapes: [] };
  }

  /** What carries the limbs in the pose of a row, (slots, 16). */
  skin(row: number): Float32Array {
    let out = this.poses.get(row);
    if (!out) {
      if (this.poses.size >= MOST_POSES) this.poses.clear(); // a scene may have tens of thousands
      const size = this.count * 3;
      this.poses.set(row, (out = this.skinOf(this.joints.subarray(row * size, (row + 1) * size))));
    }
    return out;
  }

  /** The same of joints at such places, (joints, 3). */
  skinOf(joints: Float32Array): Float32Array {
    const out = new Float32Array(this.rig.slot_count * 16);
    const place = (joint: number) => new Vector3().fromArray(joints, joint * 3);
    const [turn, carrier] = [new Quaternion(), new Matrix4()];
    this.limbs.forEach(([upper, lower], slot) => {
      const from = place(upper);
      const along = place(lower).sub(from);
      const length = Math.max(along.length(), 1e-6);
      const thick = Math.min(Math.max(THICKNESS * length, LEAST_SHARE * this.tall), MOST_SHARE * this.tall);
      turn.setFromUnitVectors(UP, along.normalize());
      carrier.compose(from, turn, new Vector3(thick, length, thick)).toArray(out, slot * 16);
    });
    const { joint, diameter } = this.head;
    const top = place(Math.max(joint, 0));
    const below = this.limbs.find(([, lower]) => lower === joint)?.[0];
    const up = below === undefined ? UP : top.clone().sub(place(below)).normalize();
    carrier.compose(top.addScaledVector(up, diameter * 0.45), turn.identity(), new Vector3(1, 1, 1));
    carrier.scale(new Vector3().setScalar(joint < 0 ? 1e-6 : diameter / 2));
    carrier.toArray(out, this.limbs.length * 16);
    return out;
  }
}

/** How high the joints reach, metres. */
function tallness(joints: Float32Array): number {
  let [low, high] = [Infinity, -Infinity];
  for (let at = 1; at < joints.length; at += 3) {
    low = Math.min(low, joints[at]!);
    high = Math.max(high, joints[at]!);
  }
  return Math.max(high - low, 0.01);
}

/** Limbs of length and thickness 1 along +Y, one a slot, and the ball of the head in the last. */
function shapeOf(
  slots: number,
): Pick<RigPart, "positions" | "normals" | "colors" | "slots" | "weights" | "triangles" | "uvs"> {
  const places: number[] = [];
  const normals: number[] = [];
  const carriers: number[] = [];
  const triangles: number[] = [];
  const ball = Array.from({ length: BALL_ROWS + 1 }, (_, n) => {
    const polar = Math.PI * (1 - n / BALL_ROWS);
    return [Math.cos(polar), Math.sin(polar)] as const;
  });
  for (let slot = 0; slot < slots; slot++) {
    const isHead = slot === slots - 1;
    const profile = isHead ? ball : LIMB;
    const first = places.length / 3;
    profile.forEach(([y, radius]) => {
      for (let side = 0; side < SIDES; side++) {
        const angle = (2 * Math.PI * side) / SIDES;
        const [x, z] = [Math.sin(angle), Math.cos(angle)];
        places.push(x * radius, y, z * radius);
        normals.push(x * (isHead ? radius : 1), isHead ? y : 0, z * (isHead ? radius : 1));
        carriers.push(slot);
      }
    });
    for (let row = 0; row < profile.length - 1; row++)
      for (let side = 0; side < SIDES; side++) {
        const [a, b] = [first + row * SIDES + side, first + row * SIDES + ((side + 1) % SIDES)];
        triangles.push(a, b, b + SIDES, a, b + SIDES, a + SIDES);
      }
  }
  const count = places.length / 3;
  const slotsOf = new Uint16Array(count * 4);
  const weights = new Float32Array(count * 4);
  carriers.forEach((slot, vertex) => {
    slotsOf[vertex * 4] = slot;
    weights[vertex * 4] = 1;
  });
  const colors = new Float32Array(count * 3);
  for (let vertex = 0; vertex < count; vertex++) colors.set(PLAIN_BODY, vertex * 3);
  return {
    positions: new Float32Array(places),
    normals: new Float32Array(normals),
    colors,
    slots: slotsOf,
    weights,
    triangles: new Uint32Array(triangles),
    uvs: new Float32Array(),
  };
}

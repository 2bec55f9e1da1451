/** Points on the mesh of a character, prop or set piece, as shown on this frame; they are followed like joints. */
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
import { bentSkin } from "../optics/bent";
import { type Sight, toScreen } from "../optics/lens";
import { type Session, part } from "./session";

/** Within how much of the nearest one what lies behind it still counts as the same surface, metres. */
const SURFACE_M = 0.04;
export type MeshThing = CharacterView | PieceView;

export interface FoundPoint {
  thing: MeshThing;
  /** What it is called wherever a joint could be named. */
  name: string;
  place: Vector3;
}

export const isMeshPoint = (joint: string) => /^point \d+$/.test(joint);

interface Pose {
  skin: Float32Array;
  shapes: Float32Array;
  carried: Matrix4;
}

/** The point of any mesh that is seen nearest to a place on the delivery frame, in so many pixels of it; null: there is none. */
export function meshPointAt(
  state: Pick<Session, "scene" | "parts" | "frame">,
  at: { x: number; y: number },
  within: number,
  sight: Sight,
): FoundPoint | null {
  const { scene } = state;
  if (!scene) return null;
  const near: { found: FoundPoint; depth: number; away: number }[] = [];
  for (const thing of [...scene.characters, ...scene.pieces]) {
    const rig = part<RigPart>(state, thing.rig);
    const places = rig && meshPlaces(state, thing, rig);
    places?.forEach((place, vertex) => {
      const seen = toScreen(place, sight, scene);
      if (!seen) return;
      const away = Math.hypot(seen.x - at.x, seen.y - at.y);
      if (away < within)
        near.push({ found: { thing, name: `point ${vertex}`, place }, depth: seen.depth, away });
    });
  }
  const front = near.reduce((least, { depth }) => Math.min(least, depth), Infinity) + SURFACE_M;
  const seen = near.filter(({ depth }) => depth <= front);
  return (
    seen.reduce<(typeof seen)[number] | null>(
      (best, one) => (best && best.away <= one.away ? best : one),
      null,
    )?.found ?? null
  );
}

/** Where every vertex is. */
export function meshPlaces(
  state: Pick<Session, "scene" | "parts" | "frame">,
  thing: MeshThing,
  rig: RigPart,
): Vector3[] {
  const pose = poseOf(state, thing, rig);
  if (!pose) return [];
  const rest = rig.positions.slice();
  rig.shapes.forEach(({ vertices, moves }, shape) => {
    const weight = pose.shapes[shape] ?? 0;
    if (weight)
      vertices.forEach((vertex, at) => {
        for (let k = 0; k < 3; k++) rest[vertex * 3 + k]! += weight * moves[at * 3 + k]!;
      });
  });
  const slots = Array.from({ length: rig.slot_count }, (_, slot) =>
    new Matrix4().fromArray(pose.skin, slot * 16).premultiply(pose.carried),
  );
  const [from, moved] = [new Vector3(), new Vector3()];
  return Array.from({ length: rest.length / 3 }, (_, vertex) => {
    const place = new Vector3();
    from.fromArray(rest, vertex * 3);
    for (let k = vertex * 4; k < vertex * 4 + 4; k++) {
      const weight = rig.weights[k]!;
      if (weight) place.addScaledVector(moved.copy(from).applyMatrix4(slots[rig.slots[k]!]!), weight);
    }
    return place;
  });
}

function poseOf(
  state: Pick<Session, "scene" | "parts" | "frame">,
  thing: MeshThing,
  rig: RigPart,
): Pose | null {
  const { first } = state.scene!;
  const row = state.frame - first;
  const [size, count] = [rig.slot_count * 16, rig.shapes.length];
  const matrix = (of: Float32Array, at: number) =>
    new Matrix4().fromArray(Array.from(of.subarray(at, at + 16)));
  if ("holds" in thing) {
    const placed = part<CarriedPart>(state, thing.placed);
    const motion = part<PieceMotionPart>(state, thing.motion);
    if (!placed) return null;
    return {
      skin: motion ? motion.skin.subarray(row * size, (row + 1) * size) : rig.rest_matrices,
      shapes: motion ? motion.shapes.subarray(row * count, (row + 1) * count) : new Float32Array(),
      carried: matrix(placed.world_from_file, placed.world_from_file.length > 16 ? row * 16 : 0),
    };
  }
  const motion = part<MotionPart>(state, thing.motion);
  const shown = part<ShownPart>(state, thing.shown);
  if (!motion || !shown) return null;
  const pose = (shown.exposure_start[row] ?? first) - first;
  return {
    skin: bentSkin(motion.skin.subarray(pose * size, (pose + 1) * size), shown, row),
    shapes: motion.shapes.subarray(pose * count, (pose + 1) * count),
    carried: matrix(shown.carried, row * 16),
  };
}

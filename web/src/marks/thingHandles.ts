/** Where a thing of the scene is taken hold of: its foot on the ground, which moves it, and before it what turns it. */
import { Box3, Matrix4, Vector3 } from "three";
import type { Edit } from "../api/client";
import type {
  CarriedPart,
  CharacterView,
  MotionPart,
  PieceView,
  PlacingPart,
  RigPart,
} from "../api/generated";
import { type Session, part } from "../state/session";
import type { Handle } from "./handles";

const REACH_M = 0.8;
export type Thing = CharacterView | PieceView;
export const isPiece = (thing: Thing): thing is PieceView => "holds" in thing;

/** Where a thing stands on a frame: x, height, z in metres, turn in degrees. */
export interface Stand {
  x: number;
  y: number;
  z: number;
  turn: number;
}

type Seen = Pick<Session, "parts" | "scene" | "frame">;

export function thingsOf(scene: Session["scene"]): Thing[] {
  return scene ? [...scene.characters, ...scene.pieces] : [];
}

export function standOf(state: Seen, thing: Thing): Stand | null {
  const placing = part<PlacingPart>(state, thing.placing);
  if (!placing || !state.scene) return null;
  const at = rowIn(placing.values, 4, state.frame - state.scene.first);
  const [x, y, z, turn] = placing.values.subarray(at, at + 4) as unknown as number[];
  return { x: x!, y: y!, z: z!, turn: turn! };
}

/** Where the row begins; what stands still has only one. */
function rowIn(values: Float32Array, size: number, row: number): number {
  return values.length > size ? row * size : 0;
}

/** Who holds a prop on a frame: null where nobody does, or it was put down. */
export function holderOf(piece: PieceView, frame: number): PieceView["holds"][number] | null {
  return piece.holds.filter((hold) => hold.first <= frame).at(-1) ?? null;
}

export function thingHandles(state: Seen, thing: Thing): Handle[] {
  const stand = standOf(state, thing);
  const { scene, frame } = state;
  if (!stand || !scene) return [];
  const ink = isPiece(thing) ? "graphite" : "red";
  if (isPiece(thing) && thing.holds.some((hold) => hold.first <= frame)) {
    const carried = part<CarriedPart>(state, thing.placed);
    if (!carried) return [];
    const at = rowIn(carried.world_from_file, 16, frame - scene.first);
    const place = new Vector3().fromArray(carried.world_from_file, at + 12);
    return [{ id: "thing", kind: "thing", label: thing.name, place, moved: null, removed: null, ink }];
  }
  const foot = isPiece(thing) ? pieceFoot(state, thing, stand) : footOf(state, thing, stand);
  const place = (values: Record<string, number>): Edit => ({
    edit: "place thing",
    thing_id: thing.id,
    values,
    time: String(frame),
  });
  const moved = (to: Vector3) =>
    place({ x: stand.x + to.x - foot.x, y: stand.y + to.y - foot.y, z: stand.z + to.z - foot.z });
  const turned = (to: Vector3) => {
    const wanted = (Math.atan2(to.x - foot.x, to.z - foot.z) * 180) / Math.PI;
    const turn = stand.turn + ((((wanted - stand.turn) % 360) + 540) % 360) - 180;
    // Around its foot, wherever the axes of its file lie.
    const arm = new Vector3(stand.x - foot.x, 0, stand.z - foot.z);
    arm.applyAxisAngle(new Vector3(0, 1, 0), ((turn - stand.turn) * Math.PI) / 180);
    return place({ turn, x: foot.x + arm.x, z: foot.z + arm.z });
  };
  const angle = (stand.turn * Math.PI) / 180;
  const ahead = new Vector3(Math.sin(angle), 0, Math.cos(angle)).multiplyScalar(REACH_M).add(foot);
  return [
    { id: "thing", kind: "thing", label: thing.name, place: foot, moved, removed: null, ink },
    {
      id: "thing turn",
      kind: "thing turn",
      label: `turn of ${thing.name}`,
      place: ahead,
      moved: turned,
      removed: null,
      ink,
    },
  ];
}

const feet = new WeakMap<RigPart, Vector3>();

/** The middle of a piece, at its lowest, wherever its file has it. */
function pieceFoot(state: Seen, piece: PieceView, { x, y, z, turn }: Stand): Vector3 {
  const rig = part<RigPart>(state, piece.rig);
  const stand = new Vector3(x, y, z);
  if (!rig?.positions.length) return stand;
  let foot = feet.get(rig);
  if (!foot) {
    const bounds = new Box3();
    const [at, matrix] = [new Vector3(), new Matrix4()];
    for (let vertex = 0; vertex * 3 < rig.positions.length; vertex++) {
      matrix.fromArray(rig.rest_matrices, rig.slots[vertex * 4]! * 16);
      bounds.expandByPoint(at.fromArray(rig.positions, vertex * 3).applyMatrix4(matrix));
    }
    foot = bounds.getCenter(new Vector3()).setY(bounds.min.y);
    feet.set(rig, foot);
  }
  return foot
    .clone()
    .applyAxisAngle(new Vector3(0, 1, 0), (turn * Math.PI) / 180)
    .add(stand);
}

/** On the ground below what carries the body. */
function footOf(state: Seen, character: CharacterView, stand: Stand): Vector3 {
  const motion = part<MotionPart>(state, character.motion);
  const rig = part<RigPart>(state, character.rig);
  const joint = rig?.joints.indexOf(character.calm_joint) ?? -1;
  if (!motion || !rig || joint < 0) return new Vector3(stand.x, stand.y, stand.z);
  const row = state.frame - state.scene!.first;
  const at = new Vector3().fromArray(motion.joints, (row * rig.joints.length + joint) * 3);
  return at.setY(stand.y);
}

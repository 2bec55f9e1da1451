/** What the scene holds beside its cameras: choosing, bringing in, and where on the ground that comes to stand. */
import { Vector3 } from "three";
import { makeStandIn } from "../api/client";
import type { Edit } from "../api/client";
import type { Inspection, MakeStandIn } from "../api/generated";
import { rayThrough } from "../optics/lens";
import { report } from "./shown";
import { type Arriving, session, setSession } from "./session";
import { currentSight } from "./sight";

const FARTHEST_M = 30;
export type ThingKind = Inspection["likely"];
export type Shape = MakeStandIn["shape"];

/** Sizes that stand-ins come in with, metres: width, height, depth. */
export const STAND_INS: Record<Shape, [number, number, number]> = {
  box: [1, 1, 1],
  ball: [1, 1, 1],
  slope: [2, 1, 2],
  steps: [1.5, 0.85, 1.2],
  wall: [4, 2.5, 0.2],
  "standing figure": [1, 1.7, 1],
  "seated figure": [1, 1.7, 1],
};

/** Work on a character, prop or set piece, or on a scene that plays inside; null: on the camera. */
export function chooseThing(id: string | null): void {
  const isCharacter = session().scene?.characters.some((c) => c.id === id);
  setSession({ thingId: id, workStage: "set up", ...(isCharacter ? { characterId: id } : {}) });
}

/** Ask for a file that comes in, or takes the place of something. */
export function askForFile(replacing: string | null = null): void {
  setSession({ replacing, choosingFile: session().choosingFile + 1 });
}

/** Where a line of sight through a share of the Picture meets the ground; the middle of the world where it does not. */
export function groundAt(share: { x: number; y: number }): { x: number; z: number } {
  const state = session();
  const sight = currentSight(state);
  if (!state.scene || !sight) return { x: 0, z: 0 };
  const px = { x: share.x * state.scene.width, y: share.y * state.scene.height };
  const { from, along } = rayThrough(px, sight, state.scene);
  const far = along.y < -1e-3 ? Math.max(0, from.y) / -along.y : Infinity;
  const place = from.clone().addScaledVector(along, Math.min(far, FARTHEST_M)) as Vector3;
  return { x: Number(place.x.toFixed(3)), z: Number(place.z.toFixed(3)) };
}

const LOWER_MIDDLE = { x: 0.5, y: 0.75 };

/** A file has come: it is settled on the Card, in its turn. */
export function settle(found: Inspection, at = groundAt(LOWER_MIDDLE)): void {
  setSession({ arriving: [...session().arriving, { found, at }], workStage: "set up" });
}

/** A stand-in comes in at a size; one that is being settled already takes that size on. */
export async function bringStandIn(
  shape: Shape,
  size = STAND_INS[shape],
  at = groundAt(LOWER_MIDDLE),
): Promise<void> {
  try {
    const [width_m, height_m, depth_m] = size;
    const made = await makeStandIn({ shape, width_m, height_m, depth_m });
    const found = { ...made, file_name: made.file_name.replace(/\.\w+$/, "") };
    const others = session().arriving.filter((other) => other.standIn?.shape !== shape);
    setSession({ arriving: [{ found, at, standIn: { shape, size } }, ...others], workStage: "set up" });
  } catch (error) {
    report(error);
  }
}

/** What is known of a file, and how it is to come in. */
export interface Wanted {
  kind: ThingKind;
  name: string;
  scale: number;
  start: number;
  /** One of the file's rigs, null: all that it shows. */
  rig: string | null;
  animation: string | null;
  offsets: "auto" | "add" | "replace";
  /** Where the file has it, rather than where it was let go. */
  asInFile: boolean;
}

/** On the ground, whatever place its file gives it. */
function standingAt(at: Arriving["at"], foot: number[], scale: number): Record<string, number> {
  const [x, y, z] = foot.map((units) => units * scale);
  return { x: at.x - x!, y: -y!, z: at.z - z! };
}

/** What a file holds, or the one rig of it that is wanted. */
export const wantedOf = (found: Inspection, { rig }: Pick<Wanted, "rig">) =>
  found.rigs.find(({ name }) => name === rig) ?? found;

/** `among`: it keeps its place among the other rigs of its file. */
export function bringInEdit(id: string, { found, at }: Arriving, wanted: Wanted, among = false): Edit {
  const { digest, format } = found;
  const { scale, rig, animation, offsets, kind, name, start, asInFile } = wanted;
  const { foot_units } = among ? found : wantedOf(found, wanted);
  return {
    edit: "bring in",
    thing_id: id,
    kind,
    name,
    source: { digest, format, scale, rig, animation, offsets },
    start,
    values: asInFile ? {} : standingAt(at, foot_units, scale),
  };
}

/**
 * The columns of keys in the place of spacing and slip: of the camera by groups of channels, the key poses of each character, and
 * whatever is keyed of where things stand. Each can be folded; which are is remembered.
 */
import type { CameraView, ChannelsPart, PlacingPart, ShownPart } from "../api/generated";
import { type KeyGroup, type KeyMark, keysOfGroups } from "../state/chosenKeys";
import { type Session, part } from "../state/session";
import { COLUMNS, SHEET_WIDTH } from "./columns";

export interface KeyColumn {
  id: string;
  title: string;
  /** Of the camera's keys: their group. The others are looked at here, and changed where they belong. */
  group: KeyGroup | null;
  kind: "keys" | "poses" | "places";
  marks: readonly KeyMark[];
}

export interface LaidOut {
  column: KeyColumn;
  left: number;
  middle: number;
  width: number;
  folded: boolean;
}

const FOLDED_WIDTH = 13;
/** What comes with a scene that plays inside is keyed there. */
const isOwn = (thing: { block_id: string | null }) => !thing.block_id;

export function keyColumns(
  { scene, parts }: Pick<Session, "scene" | "parts">,
  camera: CameraView | null,
): KeyColumn[] {
  const channels = part<ChannelsPart>({ parts }, camera?.channels);
  const groups = [...keysOfGroups(channels ?? undefined)].map(([group, marks]): KeyColumn => ({
    id: `keys ${group}`,
    title: group,
    group,
    kind: "keys",
    marks,
  }));
  const poses = (scene?.characters ?? []).filter(isOwn).map(({ id, name, shown }): KeyColumn => ({
    id: `poses ${id}`,
    title: name,
    group: null,
    kind: "poses",
    marks: marksOf(part<ShownPart>({ parts }, shown)?.key_poses),
  }));
  const placed = [...(scene?.characters ?? []), ...(scene?.pieces ?? [])]
    .filter(isOwn)
    .map(({ id, name, placing }): KeyColumn => ({
      id: `places ${id}`,
      title: `${name}, place`,
      group: null,
      kind: "places",
      marks: marksOf(part<PlacingPart>({ parts }, placing)?.key_frames),
    }));
  return [...groups, ...poses, ...placed].filter(({ marks }) => marks.length > 0);
}

/** Each in its place: folded ones are narrow, the others share what is left. */
export function laidOut(columns: KeyColumn[], folded: readonly string[]): LaidOut[] {
  const narrow = columns.filter(({ id }) => folded.includes(id)).length;
  const room = SHEET_WIDTH - COLUMNS.spacing - 14 - narrow * FOLDED_WIDTH;
  const wide = room / Math.max(1, columns.length - narrow);
  let left = COLUMNS.spacing + 4;
  return columns.map((column) => {
    const isFolded = folded.includes(column.id);
    const width = isFolded ? FOLDED_WIDTH : wide;
    const place = { column, left, middle: left + width / 2, width, folded: isFolded };
    left += width;
    return place;
  });
}

/** Of each list of frames once: there may be thousands. */
const known = new WeakMap<ArrayLike<number>, KeyMark[]>();

function marksOf(frames: ArrayLike<number> | undefined): KeyMark[] {
  if (!frames) return [];
  let marks = known.get(frames);
  if (!marks) {
    marks = Array.from(frames, (frame) => ({ time: String(frame), frame }));
    known.set(frames, marks);
  }
  return marks;
}

/**
 * Hands on the keys: one is clicked, with Ctrl another as well, with Shift all up to it; a drag from an empty place takes what
 * lies in its box. What is chosen is dragged in time, with Alt stretched about the playhead, with Ctrl from pose to pose and cut.
 */
import { useRef, useState } from "react";
import type { CameraView, ShownPart } from "../api/generated";
import { whyLocked } from "../state/actions";
import {
  type ChosenKeys,
  type KeyGroup,
  type KeyMark,
  type Retime,
  choose,
  chooseAlso,
  chooseTo,
  isChosen,
  retimeOf,
  timeAfter,
} from "../state/chosenKeys";
import { chosenCharacter, notify, part, session, setSession, workedCamera } from "../state/session";
import { goTo } from "../state/playback";
import { useHeldEdit } from "../widgets/heldEdit";
import { COLUMNS, KEYS_MIDDLE } from "./columns";
import { keyColumns, laidOut } from "./keyColumns";

const REACH_PX = 8;
const ACROSS_PX = 11;

interface Held {
  camera: CameraView;
  chosen: ChosenKeys;
  from: KeyMark;
  playhead: number;
  how: Partial<Retime> | null;
}

export interface KeyBox {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

interface Modifiers {
  shift: boolean;
  alt: boolean;
  ctrl: boolean;
}

export interface KeyHands {
  /** Takes what is at a place of the columns of keys, px; false where that is none of theirs. */
  take: (x: number, y: number, row: number, keys: Modifiers) => boolean;
  isHeld: () => boolean;
  move: (x: number, y: number, row: number, keys: Modifiers) => void;
  letGo: (saves: boolean, row: number) => void;
  box: KeyBox | null;
}

export function useKeyHands(): KeyHands {
  const hold = useHeldEdit();
  const held = useRef<Held | null>(null);
  const boxing = useRef<KeyBox | null>(null);
  const [box, setBox] = useState<KeyBox | null>(null);
  return {
    box,
    take: (x, y, row, { shift, alt, ctrl }) => {
      const camera = workedCamera(session());
      const column = columnAt(x, camera);
      if (!camera || !column) return false;
      const mark = column.keys
        .map((key) => ({ key, away: Math.abs(heightOf(key.frame, row) - y) }))
        .filter(({ away }) => away <= REACH_PX && Math.abs(x - column.middle) <= ACROSS_PX)
        .sort((a, b) => a.away - b.away)[0]?.key;
      if (!mark) {
        boxing.current = { x0: x, y0: y, x1: x, y1: y };
        return true;
      }
      const { group } = column;
      const { frame: playhead } = session();
      if (!alt) goTo(Math.round(mark.frame));
      if (ctrl) chooseAlso(mark.time, group);
      else if (shift) chooseTo(mark, group);
      else if (!isChosen(session().chosenKeys, mark.time, group)) choose([mark.time], group && [group]);
      const chosen = session().chosenKeys;
      if (ctrl || shift || !chosen) return true;
      const why = whyLocked(camera);
      if (why) notify(why, "warning");
      else {
        held.current = { camera, chosen, from: mark, playhead, how: null };
        hold.take();
      }
      return true;
    },
    isHeld: () => held.current !== null || boxing.current !== null,
    move: (x, y, row, { alt, ctrl }) => {
      if (boxing.current) {
        boxing.current = { ...boxing.current, x1: x, y1: y };
        return setBox(boxing.current);
      }
      const now = held.current!;
      const wanted = Math.round(session().scene!.first + y / row - 0.5);
      const to = ctrl ? nearestNotable(wanted) : wanted;
      now.how = howTo(now, to, alt);
      if (!now.how) {
        hold.show(null);
        setSession({ chosenKeys: now.chosen });
        return;
      }
      const { how } = now;
      hold.show(retimeOf(now.camera, now.chosen, how));
      setSession({
        chosenKeys: { ...now.chosen, times: now.chosen.times.map((time) => timeAfter(time, how)) },
      });
      if (!alt) goTo(to);
    },
    letGo: (saves, row) => {
      if (boxing.current) {
        chooseWithin(boxing.current, row);
        boxing.current = null;
        setBox(null);
      }
      const now = held.current;
      if (!now) return;
      held.current = null;
      if (!saves || !now.how) setSession({ chosenKeys: now.chosen });
      hold.letGo(saves && now.how !== null);
    },
  };
}

function howTo({ from, playhead }: Held, to: number, stretches: boolean): Partial<Retime> | null {
  const frame = Math.round(from.frame);
  if (to === frame) return null;
  if (!stretches) return { by: String(to - frame) };
  if (frame === playhead || to === playhead) return null;
  return { stretch: `${to - playhead}/${frame - playhead}`, about: String(playhead) };
}

interface TakenColumn {
  group: KeyGroup | null;
  middle: number;
  keys: readonly KeyMark[];
}

function columnsOf(camera: CameraView) {
  return laidOut(keyColumns(session(), camera), session().foldedColumns);
}

function columnAt(x: number, camera: CameraView | null): TakenColumn | null {
  if (!camera || x < COLUMNS.camera) return null;
  if (x < COLUMNS.spacing) return { group: null, middle: KEYS_MIDDLE, keys: camera.keys };
  if (session().sheetSide !== "keys") return null;
  const found = columnsOf(camera).findLast(({ left }) => left <= x);
  if (!found?.column.group) return null;
  return { group: found.column.group, middle: found.middle, keys: found.column.marks };
}

const heightOf = (frame: number, row: number) => (frame - session().scene!.first + 0.5) * row;

/** A new pose of the character, the first or last frame of a shot, or a mark. */
function nearestNotable(frame: number): number {
  const state = session();
  const shown = part<ShownPart>(state, chosenCharacter(state)?.shown);
  const frames = [
    ...new Set(shown?.exposure_start ?? []),
    ...state.scene!.cut.flatMap((s) => [s.first, s.last]),
    ...state.scene!.marks.map((mark) => mark.frame),
  ];
  return frames.reduce(
    (best, at) => (Math.abs(at - frame) < Math.abs(best - frame) ? at : best),
    frames[0] ?? frame,
  );
}

/** All keys in the box; where it is a mere click, its frame, and nothing is chosen any more. */
function chooseWithin({ x0, y0, x1, y1 }: KeyBox, row: number): void {
  const { first, last } = session().scene!;
  const camera = workedCamera(session());
  if (!camera) return;
  if (Math.hypot(x1 - x0, y1 - y0) < 4) {
    choose([]);
    return goTo(Math.max(first, Math.min(last, first + Math.floor(y0 / row))));
  }
  const [left, right] = [Math.min(x0, x1), Math.max(x0, x1)];
  const [top, bottom] = [Math.min(y0, y1), Math.max(y0, y1)];
  const inside = (key: KeyMark) => heightOf(key.frame, row) >= top && heightOf(key.frame, row) <= bottom;
  if (left < COLUMNS.spacing) return choose(camera.keys.filter(inside).map((key) => key.time));
  const taken = columnsOf(camera)
    .filter(({ column, middle }) => column.group && left <= middle && middle <= right)
    .filter(({ column }) => column.marks.some(inside));
  const times = new Set(taken.flatMap(({ column }) => column.marks.filter(inside).map((key) => key.time)));
  choose(
    [...times],
    taken.map(({ column }) => column.group!),
  );
}

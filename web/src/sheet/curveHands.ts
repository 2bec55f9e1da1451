/** Hands on the curves: a key is dragged in time and value, a handle bends the way there and on; a double click sets a key. */
import { useRef, useState } from "react";
import type { CameraView } from "../api/generated";
import type { Edit } from "../api/client";
import { whyLocked } from "../state/actions";
import { edit } from "../state/edits";
import { choose } from "../state/chosenKeys";
import { notify, session, workedCamera } from "../state/session";
import { useHeldEdit } from "../widgets/heldEdit";
import { CURVES } from "./columns";
import { CAMERA_SPEED } from "./drawCameraSpeed";
import {
  type ChannelName,
  type Keys,
  type Scale,
  acrossOf,
  chosenCurve,
  handlesOf,
  scaleOf,
  shapeOf,
  valueAt,
} from "./curves";

const REACH_PX = 7;
const LEAST_FRAMES = 0.1;

interface Held {
  camera: CameraView;
  channel: ChannelName;
  keys: Keys;
  index: number;
  side: "key" | "arriving" | "leaving";
  scale: Scale;
}

export interface CurveHands {
  /** Takes hold of what is at a place in the rows, px; false where nothing is. */
  take: (x: number, y: number, row: number) => boolean;
  isHeld: () => boolean;
  move: (x: number, y: number, row: number, keys: { shift: boolean; alt: boolean }) => void;
  letGo: (saves: boolean) => void;
  addAt: (y: number, row: number) => void;
  /** While something is held: how it was, and the scale that stays under the hand. */
  held: { before: Keys; scale: Scale } | null;
}

export function useCurveHands(): CurveHands {
  const hold = useHeldEdit();
  const ref = useRef<Held | null>(null);
  const [held, setHeld] = useState<CurveHands["held"]>(null);
  const chosen = () => {
    const state = session();
    const camera = workedCamera(state);
    if (state.curveChannel === CAMERA_SPEED) return null; // there is nothing in it to take hold of
    const curve = chosenCurve(state.parts, camera, state.curveChannel);
    return camera && curve ? { camera, channel: curve[0], keys: curve[1] } : null;
  };
  return {
    held,
    take: (x, y, row) => {
      const found = chosen();
      if (!found) return false;
      const scale = scaleOf(found.keys, CURVES.left, CURVES.width);
      const at = near(found.keys, scale, x, y, row);
      if (!at) return false;
      choose([found.keys.times[at.index]!]);
      const why = whyLocked(found.camera);
      if (why) {
        notify(why, "warning");
        return true;
      }
      ref.current = { ...found, ...at, scale };
      setHeld({ before: found.keys, scale });
      hold.take();
      return true;
    },
    isHeld: () => ref.current !== null,
    move: (x, y, row, held) => hold.show(moved(ref.current!, x, y, row, held)),
    letGo: (saves) => {
      if (!ref.current) return;
      ref.current = null;
      setHeld(null);
      hold.letGo(saves);
    },
    addAt: (y, row) => {
      const found = chosen();
      const why = found && whyLocked(found.camera);
      if (why) notify(why, "warning");
      if (!found || why) return;
      const frame = session().scene!.first + Math.floor(y / row);
      edit({
        edit: "add curve key",
        camera_id: found.camera.id,
        channel: found.channel,
        time: String(frame),
      });
      choose([String(frame)]);
    },
  };
}

const downOf = (frame: number, row: number) => (frame - session().scene!.first + 0.5) * row;
const frameOf = (y: number, row: number) => session().scene!.first + y / row - 0.5;

function near(
  keys: Keys,
  scale: Scale,
  x: number,
  y: number,
  row: number,
): Pick<Held, "index" | "side"> | null {
  const { chosenKeys } = session();
  let best: (Pick<Held, "index" | "side"> & { away: number }) | null = null;
  const offer = (index: number, side: Held["side"], frame: number, value: number) => {
    const away = Math.hypot(acrossOf(scale, value) - x, downOf(frame, row) - y);
    if (away <= REACH_PX && away < (best?.away ?? Infinity)) best = { index, side, away };
  };
  keys.frames.forEach((frame, index) => {
    const value = keys.values[index]!;
    offer(index, "key", frame, value);
    if (!chosenKeys?.times.includes(keys.times[index]!) && shapeOf(keys, index) !== "curve") return;
    const { arriving, leaving } = handlesOf(keys, index);
    if (arriving) offer(index, "arriving", frame - arriving.frames, value + arriving.value);
    if (leaving) offer(index, "leaving", frame + leaving.frames, value + leaving.value);
  });
  return best;
}

/** What a hand's place means: with Shift a key keeps its frame and a handle is level, with Alt the other side of a handle stays. */
function moved(
  held: Held,
  x: number,
  y: number,
  row: number,
  { shift, alt }: { shift: boolean; alt: boolean },
): Edit {
  const { camera, channel, keys, index, side, scale } = held;
  const [time, frame, value] = [keys.times[index]!, keys.frames[index]!, keys.values[index]!];
  const wanted = Number(valueAt(scale, x).toPrecision(7));
  const base = { edit: "set curve key", camera_id: camera.id, channel, time } as const;
  if (side === "key") {
    const to = Math.round(frameOf(y, row));
    const later = shift || to === Math.round(frame) ? {} : { to: String(to) };
    return { ...base, ...later, value: wanted };
  }
  const way = side === "leaving" ? 1 : -1;
  const own = {
    frames: Math.max(LEAST_FRAMES, way * (frameOf(y, row) - frame)),
    value: shift ? 0 : wanted - value,
  };
  const other = handlesOf(keys, index)[side === "leaving" ? "arriving" : "leaving"];
  const tied =
    other && !alt ? { frames: other.frames, value: (-own.value / own.frames) * other.frames } : null;
  return side === "leaving"
    ? { ...base, leaving: own, arriving: tied }
    : { ...base, arriving: own, leaving: tied };
}

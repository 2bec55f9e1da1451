/** The curves of a camera's keyed channels over the rows of the Sheet: time downwards, values across, each fitted to the column. */
import type { CameraPart, CameraView, ChannelsPart } from "../api/generated";
import { CAMERA_CHANNELS, KEY_SHAPES } from "../api/tables";
import type { Part } from "../api/part";
import { part } from "../state/session";

export type ChannelName = keyof typeof CAMERA_CHANNELS;
export type Keys = ChannelsPart["keyed"][string];
/** Handles of a key: frames and value of how the curve arrives and how it leaves. */
export interface Handles {
  arriving: { frames: number; value: number } | null;
  leaving: { frames: number; value: number } | null;
}

/** From values to places across the column, px. */
export interface Scale {
  least: number;
  most: number;
  left: number;
  width: number;
}

const POSE = ["x", "y", "z", "pan", "tilt", "roll", "focal_mm"];
const MARGIN_SHARE = 0.06;
const LEAST_RANGE = 1e-6;

export function keyedOf(parts: Map<string, Part>, camera: CameraView | null): [ChannelName, Keys][] {
  const channels = part<ChannelsPart>({ parts }, camera?.channels);
  return Object.entries(channels?.keyed ?? {}) as [ChannelName, Keys][];
}

const changes = (keys: Keys) => keys.values.some((value) => value !== keys.values[0]);

/** The channel whose curve is worked on: the one that was chosen, where it has keys, else the first that changes. */
export function chosenCurve(
  parts: Map<string, Part>,
  camera: CameraView | null,
  wanted: string | null,
): [ChannelName, Keys] | null {
  const keyed = keyedOf(parts, camera);
  return (
    keyed.find(([name]) => name === wanted) ?? keyed.find(([, keys]) => changes(keys)) ?? keyed[0] ?? null
  );
}

export function handlesOf(keys: Keys, index: number): Handles {
  const [inFrames, inValue, outFrames, outValue] = keys.handles.subarray(
    index * 4,
    index * 4 + 4,
  ) as unknown as [number, number, number, number];
  return {
    arriving: Number.isNaN(inFrames) ? null : { frames: inFrames, value: inValue },
    leaving: Number.isNaN(outFrames) ? null : { frames: outFrames, value: outValue },
  };
}

export const shapeOf = (keys: Keys, index: number) => KEY_SHAPES[keys.shapes[index]!]!;

/** Fitted to the keys and to where their curves swing. */
export function scaleOf(keys: Keys, left: number, width: number): Scale {
  const { least, most } = ranges.get(keys) ?? rangeOf(keys);
  return { least, most, left, width };
}

/** Of each channel's keys once: there may be thousands. */
const ranges = new WeakMap<Keys, { least: number; most: number }>();

function rangeOf(keys: Keys): { least: number; most: number } {
  let [least, most] = [Infinity, -Infinity];
  keys.values.forEach((value, index) => {
    const { arriving, leaving } = handlesOf(keys, index);
    for (const at of [value, value + (arriving?.value ?? 0), value + (leaving?.value ?? 0)]) {
      least = Math.min(least, at);
      most = Math.max(most, at);
    }
  });
  const range = most - least;
  const around = range < LEAST_RANGE ? Math.max(0.5, Math.abs(most) * 0.05) : range * MARGIN_SHARE;
  const found = { least: least - around, most: most + around };
  ranges.set(keys, found);
  return found;
}

export const acrossOf = ({ least, most, left, width }: Scale, value: number) =>
  left + ((value - least) / (most - least)) * width;

export const valueAt = ({ least, most, left, width }: Scale, across: number) =>
  least + ((across - left) / width) * (most - least);

/** Places of the keys that bear on what lies between two frames: those within, and one more on both sides. */
export function keysBetween(keys: Keys, first: number, last: number): [number, number] {
  const from = keys.frames.findLastIndex((frame) => frame <= first);
  const to = keys.frames.findIndex((frame) => frame >= last);
  return [Math.max(0, from), to < 0 ? keys.frames.length - 1 : to];
}

/** Draw one curve from one key to another; `down` says where a frame is, px. */
export function traceCurve(
  pen: CanvasRenderingContext2D,
  keys: Keys,
  scale: Scale,
  down: (frame: number) => number,
  [firstKey, lastKey]: [number, number] = [0, keys.frames.length - 1],
): void {
  const x = (value: number) => acrossOf(scale, value);
  pen.beginPath();
  for (let index = firstKey; index <= lastKey; index++) {
    const [frame, value] = [keys.frames[index]!, keys.values[index]!];
    if (index === firstKey) {
      pen.moveTo(x(value), down(frame));
      continue;
    }
    const [fromFrame, from] = [keys.frames[index - 1]!, keys.values[index - 1]!];
    const shape = shapeOf(keys, index - 1);
    const [leaving, arriving] = [handlesOf(keys, index - 1).leaving, handlesOf(keys, index).arriving];
    if (shape === "hold") {
      pen.lineTo(x(from), down(frame));
      pen.lineTo(x(value), down(frame));
    } else if (shape === "jump") {
      pen.lineTo(x(value), down(fromFrame));
      pen.lineTo(x(value), down(frame));
    } else if (shape === "linear" || !leaving || !arriving) pen.lineTo(x(value), down(frame));
    else
      pen.bezierCurveTo(
        x(from + leaving.value),
        down(fromFrame + leaving.frames),
        x(value + arriving.value),
        down(frame - arriving.frames),
        x(value),
        down(frame),
      );
  }
  pen.stroke();
}

/** A channel on every frame, as the core has it; null where the camera's place is made of more than its channels. */
export function sampled(
  parts: Map<string, Part>,
  camera: CameraView,
  name: ChannelName,
): Float32Array | null {
  const path = part<CameraPart>({ parts }, camera.path);
  if (!path) return null;
  const own = path.values[name];
  if (own) return own;
  const column = POSE.indexOf(name);
  const isOwn = camera.mount.kind === "free" && !camera.aim && !camera.framing;
  if (column < 0 || (!isOwn && name !== "focal_mm")) return null;
  return Float32Array.from({ length: path.pose.length / 7 }, (_, row) => path.pose[row * 7 + column]!);
}

/** A channel's value on a frame and how fast it changes there, in words. */
export function curveText(name: ChannelName, values: Float32Array | null, row: number, rate: number): string {
  const { sign } = CAMERA_CHANNELS[name];
  const value = values?.[row];
  if (!values || value === undefined) return "";
  const [before, after] = [Math.max(0, row - 1), Math.min(values.length - 1, row + 1)];
  const speed = after > before ? ((values[after]! - values[before]!) / (after - before)) * rate : 0;
  return `${+value.toFixed(2)}${sign}  ${+speed.toFixed(2)}${sign}/s`;
}

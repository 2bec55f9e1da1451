/** Draws the curves in the place of spacing and slip. */
import type { SheetView } from "./drawSheet";
import {
  type Keys,
  acrossOf,
  chosenCurve,
  handlesOf,
  keyedOf,
  keysBetween,
  sampled,
  scaleOf,
  shapeOf,
  traceCurve,
} from "./curves";
import { CURVES } from "./columns";
import { CAMERA_SPEED, drawCameraSpeed } from "./drawCameraSpeed";
import type { SpeedPart } from "../api/generated";
import { part } from "../state/session";

type Ink = (token: string) => string;
const KEY_PX = 4;

export function drawCurves(pen: CanvasRenderingContext2D, ink: Ink, view: SheetView): void {
  const { scene, parts, camera, row, curves } = view;
  if (!curves || !camera) return;
  const down = (frame: number) => (frame - scene.first + 0.5) * row;
  const [top, bottom] = [0, (scene.last - scene.first + 1) * row];
  const inSight = (keys: Keys) =>
    keysBetween(keys, scene.first + view.top / row, scene.first + (view.top + view.height) / row);
  pen.save();
  pen.beginPath();
  pen.rect(CURVES.left - 6, view.top, CURVES.width + 14, view.height);
  pen.clip();
  const speed = curves.channel === CAMERA_SPEED ? part<SpeedPart>({ parts }, scene.speed) : null;
  if (speed) {
    drawCameraSpeed(pen, ink, speed, view);
    pen.restore();
    return;
  }
  const chosen = chosenCurve(parts, camera, curves.channel);
  pen.lineWidth = 1;
  pen.strokeStyle = ink("--blue-tint");
  for (const [name, keys] of keyedOf(parts, camera))
    if (name !== chosen?.[0])
      traceCurve(pen, keys, scaleOf(keys, CURVES.left, CURVES.width), down, inSight(keys));
  if (chosen) {
    const [name, keys] = chosen;
    const scale = curves.scale ?? scaleOf(keys, CURVES.left, CURVES.width);
    drawSpeed(pen, ink, sampled(parts, camera, name), view);
    pen.setLineDash([3, 3]);
    if (curves.before) {
      pen.strokeStyle = ink("--soft");
      traceCurve(pen, curves.before, scale, down, inSight(curves.before));
    }
    pen.strokeStyle = ink("--blue");
    pen.beginPath();
    pen.moveTo(acrossOf(scale, keys.values[0]!), top);
    pen.lineTo(acrossOf(scale, keys.values[0]!), down(keys.frames[0]!));
    pen.moveTo(acrossOf(scale, keys.values.at(-1)!), down(keys.frames.at(-1)!));
    pen.lineTo(acrossOf(scale, keys.values.at(-1)!), bottom);
    pen.stroke();
    pen.setLineDash([]);
    pen.lineWidth = 1.8;
    pen.strokeStyle = ink("--blue-deep");
    const [from, to] = inSight(keys);
    traceCurve(pen, keys, scale, down, [from, to]);
    for (let index = from; index <= to; index++) drawKey(pen, ink, view, keys, index);
  }
  pen.restore();

  function drawKey(
    p: CanvasRenderingContext2D,
    colour: Ink,
    { chosenKeys }: SheetView,
    keys: Keys,
    index: number,
  ) {
    const scale = curves!.scale ?? scaleOf(keys, CURVES.left, CURVES.width);
    const [frame, value] = [keys.frames[index]!, keys.values[index]!];
    const [x, y] = [acrossOf(scale, value), down(frame)];
    const isChosen = !!chosenKeys?.times.includes(keys.times[index]!);
    if (isChosen || shapeOf(keys, index) === "curve") {
      const { arriving, leaving } = handlesOf(keys, index);
      const ends: [number, number][] = [];
      if (arriving) ends.push([acrossOf(scale, value + arriving.value), down(frame - arriving.frames)]);
      if (leaving) ends.push([acrossOf(scale, value + leaving.value), down(frame + leaving.frames)]);
      p.lineWidth = 1;
      p.strokeStyle = p.fillStyle = colour("--graphite");
      for (const [endX, endY] of ends) {
        p.beginPath();
        p.moveTo(x, y);
        p.lineTo(endX, endY);
        p.stroke();
        p.beginPath();
        p.arc(endX, endY, 3, 0, 2 * Math.PI);
        p.fill();
      }
    }
    p.lineWidth = isChosen ? 2.6 : 2;
    p.strokeStyle = colour("--blue-deep");
    p.beginPath();
    p.moveTo(x - KEY_PX, y - KEY_PX);
    p.lineTo(x + KEY_PX, y + KEY_PX);
    p.moveTo(x + KEY_PX, y - KEY_PX);
    p.lineTo(x - KEY_PX, y + KEY_PX);
    p.stroke();
  }
}

/** How fast it changes, from the left edge on: the fastest fills a third of the column. */
function drawSpeed(
  pen: CanvasRenderingContext2D,
  ink: Ink,
  values: Float32Array | null,
  { row, top, height }: SheetView,
): void {
  if (!values || values.length < 2) return;
  const speeds = Array.from(values, (value, at) => (at ? Math.abs(value - values[at - 1]!) : 0));
  const most = Math.max(...speeds);
  if (most < 1e-9) return;
  pen.fillStyle = ink("--rule");
  const [first, last] = [Math.floor(top / row), Math.ceil((top + height) / row)];
  for (let at = Math.max(1, first); at <= Math.min(values.length - 1, last); at++)
    pen.fillRect(CURVES.left, at * row + 1, (speeds[at]! / most) * (CURVES.width / 3), Math.max(1, row - 2));
}

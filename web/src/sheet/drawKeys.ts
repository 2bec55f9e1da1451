/** Draws the keys of a camera: in their own column, all groups together; and, unfolded, a column a group. */
import type { CameraPart, ChannelsPart } from "../api/generated";
import { type KeyGroup, type KeyMark, isChosen, keysOfGroups } from "../state/chosenKeys";
import { part } from "../state/session";
import { COLUMNS, KEYS_MIDDLE, groupColumns } from "./columns";
import type { SheetView } from "./drawSheet";
import { teach } from "./teach";

type Pen = CanvasRenderingContext2D;
type Ink = (token: string) => string;

/** A pencil cross a key; the line between hints at the speed of the move. */
export function drawKeys(pen: Pen, ink: Ink, view: SheetView): void {
  const { scene, parts, row, camera } = view;
  if (!camera) return;
  const middle = KEYS_MIDDLE;
  const path = part<CameraPart>({ parts }, camera.path);
  const y = (frame: number) => (frame - scene.first + 0.5) * row;
  pen.strokeStyle = ink("--blue");
  pen.lineWidth = 1;
  if (path && camera.keys.length > 1) {
    pen.beginPath();
    const speeds = stepLengths(path);
    const most = Math.max(...speeds, 1e-9);
    const [from, to] = [camera.keys[0]!.frame, camera.keys.at(-1)!.frame];
    for (let f = Math.max(scene.first, Math.ceil(from)); f <= Math.min(scene.last, to); f++) {
      const x = middle + (speeds[f - scene.first]! / most) * 13;
      if (f === Math.ceil(from)) pen.moveTo(x, y(f));
      else pen.lineTo(x, y(f));
    }
    pen.stroke();
  }
  drawMarks(pen, ink, view, camera.keys, null, middle);
  drawBox(pen, ink, view);
}

/** The keys by groups of channels, a column each. */
export function drawGroups(pen: Pen, ink: Ink, view: SheetView): void {
  const channels = part<ChannelsPart>({ parts: view.parts }, view.camera?.channels);
  const groups = keysOfGroups(channels ?? undefined);
  if (!groups.size && view.top < view.row)
    teach(pen, ink, COLUMNS.spacing + 4, ["no keys yet:", "K sets one"]);
  const bottom = (view.scene.last - view.scene.first + 1) * view.row;
  for (const { group, middle } of groupColumns([...groups.keys()])) {
    const keys = groups.get(group)!;
    pen.strokeStyle = ink("--blue-tint");
    pen.lineWidth = 1;
    pen.beginPath();
    pen.moveTo(middle, Math.max(0, view.top));
    pen.lineTo(middle, Math.min(bottom, view.top + view.height));
    pen.stroke();
    drawMarks(pen, ink, view, keys, group, middle);
  }
}

function drawMarks(
  pen: Pen,
  ink: Ink,
  view: SheetView,
  keys: readonly KeyMark[],
  group: KeyGroup | null,
  middle: number,
): void {
  const { scene, row, top, height, chosenKeys } = view;
  const size = Math.min(4.5, row * 0.42);
  for (const key of keys) {
    const y = (key.frame - scene.first + 0.5) * row;
    if (y < top - row || y > top + height + row) continue;
    const chosen = isChosen(chosenKeys, key.time, group);
    if (chosen) {
      pen.fillStyle = ink("--blue-tint");
      pen.beginPath();
      pen.arc(middle, y, 8, 0, 2 * Math.PI);
      pen.fill();
    }
    pen.strokeStyle = ink(chosen ? "--blue-deep" : "--blue");
    pen.lineWidth = chosen ? 2.6 : 2;
    pen.beginPath();
    pen.moveTo(middle - size, y - size);
    pen.lineTo(middle + size, y + size);
    pen.moveTo(middle + size, y - size);
    pen.lineTo(middle - size, y + size);
    if (!Number.isInteger(key.frame)) {
      // Between two frames: a stroke through it says that no picture shows it.
      pen.moveTo(middle - 9, y);
      pen.lineTo(middle + 9, y);
    }
    pen.stroke();
  }
}

function drawBox(pen: Pen, ink: Ink, { keyBox }: SheetView): void {
  if (!keyBox) return;
  const [x, y] = [Math.min(keyBox.x0, keyBox.x1), Math.min(keyBox.y0, keyBox.y1)];
  pen.strokeStyle = ink("--blue-deep");
  pen.lineWidth = 1;
  pen.setLineDash([3, 3]);
  pen.strokeRect(x + 0.5, y + 0.5, Math.abs(keyBox.x1 - keyBox.x0), Math.abs(keyBox.y1 - keyBox.y0));
  pen.setLineDash([]);
}

function stepLengths(path: CameraPart): number[] {
  const channels = path.pose;
  const out = [0];
  for (let at = 7; at < channels.length; at += 7)
    out.push(Math.hypot(...[0, 1, 2].map((axis) => channels[at + axis]! - channels[at - 7 + axis]!)));
  if (out.length > 1) out[0] = out[1]!;
  return out;
}

/** Draws the keys of a camera: in their own column, all groups together; and, unfolded, a column a group. */
import type { CameraPart } from "../api/generated";
import { type KeyGroup, type KeyMark, isChosen } from "../state/chosenKeys";
import { part } from "../state/session";
import { COLUMNS, KEYS_MIDDLE } from "./columns";
import type { SheetView } from "./drawSheet";
import { keyColumns, laidOut } from "./keyColumns";
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
    const { lengths, most } = stepLengths(path);
    const [from, to] = [camera.keys[0]!.frame, camera.keys.at(-1)!.frame];
    // What is in sight, and a row more on both sides.
    const seen = scene.first + Math.floor(view.top / row) - 1;
    const start = Math.max(scene.first, Math.ceil(from), seen);
    const end = Math.min(scene.last, to, seen + Math.ceil(view.height / row) + 3);
    for (let f = start; f <= end; f++) {
      const x = middle + (lengths[f - scene.first]! / most) * 13;
      if (f === start) pen.moveTo(x, y(f));
      else pen.lineTo(x, y(f));
    }
    pen.stroke();
  }
  drawMarks(pen, ink, view, camera.keys, null, middle);
  drawBox(pen, ink, view);
}

/** The keys by groups of channels, a column each. */
export function drawGroups(pen: Pen, ink: Ink, view: SheetView): void {
  const columns = keyColumns(view, view.camera);
  if (!columns.some(({ kind }) => kind === "keys") && view.top < view.row)
    teach(pen, ink, COLUMNS.spacing + 4, ["no keys yet:", "K sets one"]);
  const bottom = (view.scene.last - view.scene.first + 1) * view.row;
  for (const { column, middle, folded } of laidOut(columns, view.folded)) {
    pen.strokeStyle = ink(column.kind === "keys" ? "--blue-tint" : "--rule");
    pen.lineWidth = 1;
    pen.beginPath();
    pen.moveTo(middle, Math.max(0, view.top));
    pen.lineTo(middle, Math.min(bottom, view.top + view.height));
    pen.stroke();
    if (column.kind === "poses") drawPoses(pen, ink, view, column.marks, middle);
    else if (column.kind === "places") drawPlaces(pen, ink, view, column.marks, middle);
    else if (folded) drawPlaces(pen, ink, view, column.marks, middle, "--blue");
    else drawMarks(pen, ink, view, column.marks, column.group, middle);
  }
}

/** Key poses: filled boxes, as in the column of exposures. */
function drawPoses(pen: Pen, ink: Ink, view: SheetView, marks: readonly KeyMark[], middle: number): void {
  const size = Math.min(7, view.row * 0.6);
  pen.fillStyle = ink("--red");
  for (const { frame } of inSight(view, marks)) {
    const y = (frame - view.scene.first + 0.5) * view.row;
    pen.fillRect(middle - size / 2, y - size / 2, size, size);
  }
}

/** What is keyed elsewhere: a short stroke a key. */
function drawPlaces(
  pen: Pen,
  ink: Ink,
  view: SheetView,
  marks: readonly KeyMark[],
  middle: number,
  token = "--graphite",
): void {
  pen.fillStyle = ink(token);
  for (const { frame } of inSight(view, marks))
    pen.fillRect(middle - 4, (frame - view.scene.first + 0.5) * view.row - 1, 8, 2);
}

function inSight({ scene, row, top, height }: SheetView, marks: readonly KeyMark[]): KeyMark[] {
  const from = scene.first + top / row - 2;
  const to = from + height / row + 4;
  return marks.filter(({ frame }) => from <= frame && frame <= to);
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

/** How far the camera goes from frame to frame, and the farthest; of each path once. */
const steps = new WeakMap<CameraPart, { lengths: Float32Array; most: number }>();

function stepLengths(path: CameraPart) {
  let found = steps.get(path);
  if (found) return found;
  const { pose } = path;
  const lengths = new Float32Array(pose.length / 7);
  for (let row = 1, at = 7; row < lengths.length; row++, at += 7)
    lengths[row] = Math.hypot(
      pose[at]! - pose[at - 7]!,
      pose[at + 1]! - pose[at - 6]!,
      pose[at + 2]! - pose[at - 5]!,
    );
  if (lengths.length > 1) lengths[0] = lengths[1]!;
  found = { lengths, most: lengths.reduce((a, b) => Math.max(a, b), 1e-9) };
  steps.set(path, found);
  return found;
}

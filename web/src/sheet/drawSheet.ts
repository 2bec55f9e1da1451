/** Draws the rows of the Sheet that are in sight. */
import { READING_TITLES, SEEN_CHANGE_PX } from "../api/tables";
import type {
  ArcJudgementPart,
  ArcPart,
  CameraView,
  ChangedPart,
  CharacterView,
  PieceView,
  SceneView,
  ShownPart,
  StrobingPart,
} from "../api/generated";
import type { JudgingLooks } from "../state/looks";
import { COLUMNS, SHEET_WIDTH } from "./columns";
import type { Keys, Scale } from "./curves";
import { drawCurves } from "./drawCurves";
import { drawLayers } from "./drawLayers";
import { drawMarks, drawSounds } from "./drawSounds";
import { veilOf } from "../state/transitions";
import { teach } from "./teach";
import { drawGroups, drawKeys } from "./drawKeys";
import type { KeyBox } from "./keyHands";
import type { ChosenKeys } from "../state/chosenKeys";
import { exposuresOf } from "../state/exposing";
import { inkOf } from "../state/ink";
import { type Pattern, patternOf, tokenOf } from "../state/lines";
import type { Part } from "../api/part";
import { type SheetSide, part } from "../state/session";

const SPACING_ROOM = COLUMNS.slip - COLUMNS.spacing - 10;
/** Of a span in sight: less has no room for its name. */
const LEAST_NAME = 90;
const SLIP_ROOM = SHEET_WIDTH - COLUMNS.slip - 16;

export interface SheetView {
  scene: SceneView;
  character: CharacterView | null;
  /** Whose exposures are shown. */
  exposed: CharacterView | PieceView | null;
  /** The camera whose keys are shown. */
  camera: CameraView | null;
  parts: Map<string, Part>;
  joint: string | null;
  chosenKeys: ChosenKeys | null;
  /** Where keys are being chosen, px. */
  keyBox: KeyBox | null;
  side: SheetSide;
  strip: JudgingLooks["strip"];
  /** Columns of keys that are folded. */
  folded: readonly string[];
  /** The curves, where they are shown: which one, and how it was while it is held. */
  curves: { channel: string | null; before: Keys | null; scale: Scale | null } | null;
  /** Height of a row, how far it is scrolled, and height in sight, CSS pixels. */
  row: number;
  top: number;
  height: number;
}

export function drawSheet(canvas: HTMLCanvasElement, view: SheetView): void {
  canvas.width = SHEET_WIDTH * devicePixelRatio;
  canvas.height = view.height * devicePixelRatio;
  canvas.style.width = `${SHEET_WIDTH}px`;
  canvas.style.height = `${view.height}px`;
  const pen = canvas.getContext("2d")!;
  pen.scale(devicePixelRatio, devicePixelRatio);
  pen.translate(0, -view.top);
  const ink = inkOf(canvas);
  const { scene, row } = view;
  const rows = {
    first: Math.max(0, Math.floor(view.top / row)),
    last: Math.min(scene.last - scene.first, Math.ceil((view.top + view.height) / row)),
  };
  drawGrid(pen, ink, view, rows);
  drawCut(pen, ink, view);
  drawMarks(pen, ink, view);
  drawExposures(pen, ink, view, rows);
  drawChanged(pen, ink, view, rows);
  if (view.side === "keys") drawGroups(pen, ink, view);
  drawKeys(pen, ink, view);
  if (view.curves) drawCurves(pen, ink, view);
  if (view.side === "layers") drawLayers(pen, ink, view);
  if (view.side === "sound") drawSounds(pen, ink, view);
  if (view.side === "spacing") {
    drawSpacing(pen, ink, view, rows);
    drawSlip(pen, ink, view, rows);
  }
}

type Ink = (token: string) => string;
type Pen = CanvasRenderingContext2D;
interface Rows {
  first: number;
  last: number;
}

function drawGrid(pen: Pen, ink: Ink, { scene, row }: SheetView, rows: Rows): void {
  const second = Math.max(1, Math.round(scene.rate_float));
  pen.font = '11.5px "IBM Plex Mono"';
  pen.textBaseline = "middle";
  for (let r = rows.first; r <= rows.last; r++) {
    const y = r * row;
    const strong = r % 8 === 0;
    if (row >= 8 || strong) {
      pen.fillStyle = ink("--rule");
      pen.globalAlpha = strong ? 1 : 0.45;
      pen.fillRect(0, Math.round(y), SHEET_WIDTH, 1);
      pen.globalAlpha = 1;
    }
    const frame = scene.first + r;
    const every = row >= 11 ? 1 : row >= 6 ? 2 : 8;
    if (r % every !== 0) continue;
    pen.fillStyle = strong ? ink("--graphite") : ink("--soft");
    const full = strong || r % second === 0 || String(frame).length < 3;
    const text = full ? String(frame) : String(Math.abs(frame) % 100).padStart(2, "0");
    pen.textAlign = "right";
    pen.fillText(text, 38, y + row / 2 + 0.5);
  }
}

function drawCut(pen: Pen, ink: Ink, { scene, row, top, height }: SheetView): void {
  scene.cut.forEach((entry) => {
    const [above, below] = [(entry.last + 1 - scene.first) * row, (entry.first - scene.first) * row];
    if (above < top || below > top + height) return;
    const end = entry.last + 1;
    const from = (Math.max(entry.first, scene.first) - scene.first) * row;
    const to = (Math.min(end, scene.last + 1) - scene.first) * row;
    if (to <= from) return;
    const camera = scene.cameras.find((c) => c.id === entry.camera_id);
    if (!camera) return;
    pen.fillStyle = ink("--blue-pale");
    pen.strokeStyle = ink(tokenOf(camera));
    pen.lineWidth = 1.5;
    const box = new Path2D();
    box.roundRect(COLUMNS.cut - 2, from + 1.5, 36, to - from - 3, 3);
    pen.fill(box);
    pen.save();
    pen.clip(box);
    hatch(pen, ink(tokenOf(camera)), patternOf(camera), COLUMNS.cut - 2, from, 36, to - from);
    pen.restore();
    pen.stroke(box);
    if (entry.mix) drawMix(pen, ink, entry, camera, scene.first, row);
    if (entry.locked) {
      pen.fillStyle = ink("--graphite");
      for (const y of [from + 2, to - 5]) pen.fillRect(COLUMNS.cut + 2, y, 28, 3);
    }
    pen.save();
    // The name of a span that began out of sight stands where it can be read.
    const free = Math.max(from, entry.mix ? (entry.mix.last + 1 - scene.first) * row : from);
    const begins = Math.max(free, Math.min(top, to - LEAST_NAME));
    pen.translate(COLUMNS.cut + 17, begins + 10);
    pen.rotate(Math.PI / 2);
    pen.font = '500 13px "Barlow Semi Condensed"';
    pen.textAlign = "left";
    const name = scene.cut.length > 1 || entry.name ? `${entry.title}  ${camera.name}` : camera.name;
    pen.fillStyle = ink("--blue-pale");
    pen.fillRect(-3, -9, Math.min(pen.measureText(name).width + 6, to - begins - 14), 18);
    pen.fillStyle = ink("--blue-deep");
    pen.fillText(name, 0, 0.5, Math.max(10, to - begins - 20));
    pen.restore();
  });
}

/** Of every frame of a transition, from the right as much of the later shot as it shows; of a dip, as much of its colour. */
function drawMix(
  pen: Pen,
  ink: Ink,
  shot: SceneView["cut"][number],
  camera: CameraView,
  first: number,
  row: number,
) {
  const { transition } = shot;
  const mix = shot.mix!;
  const [left, top, bottom] = [COLUMNS.cut - 2, (mix.first - first) * row, (mix.last + 1 - first) * row];
  pen.fillStyle = ink("--sheet");
  pen.fillRect(left, top, 36, bottom - top);
  mix.shares.forEach((share, at) => {
    const amount = transition.kind === "dip" ? veilOf(share) : share;
    pen.fillStyle = transition.kind === "dip" ? transition.colour : ink(tokenOf(camera));
    pen.globalAlpha = transition.kind === "dissolve" ? 0.55 : 1;
    const width = transition.kind === "blend" ? 5 : 36 * amount;
    const x = transition.kind === "blend" ? left + 31 * share : left + 36 - width;
    pen.fillRect(x, top + at * row, width, row + 0.5);
    pen.globalAlpha = 1;
  });
  pen.strokeStyle = ink("--graphite");
  pen.lineWidth = 1;
  pen.strokeRect(left + 0.5, top + 0.5, 35, bottom - top - 1);
}

function hatch(
  pen: Pen,
  color: string,
  pattern: Pattern,
  x: number,
  y: number,
  width: number,
  height: number,
): void {
  pen.strokeStyle = pen.fillStyle = color;
  pen.lineWidth = 1;
  pen.beginPath();
  const gap = 6;
  const stroke = (x0: number, y0: number, x1: number, y1: number) => {
    pen.moveTo(x0, y0);
    pen.lineTo(x1, y1);
  };
  if (pattern === "slanted")
    for (let s = -width; s < height; s += gap) stroke(x, y + s + width, x + width, y + s);
  if (pattern === "leaning" || pattern === "crossed")
    for (let s = 0; s < height + width; s += gap) stroke(x, y + s - width, x + width, y + s);
  if (pattern === "crossed")
    for (let s = -width; s < height; s += gap) stroke(x, y + s + width, x + width, y + s);
  if (pattern === "level") for (let s = 3; s < height; s += gap) stroke(x, y + s, x + width, y + s);
  if (pattern === "upright") for (let s = 3; s < width; s += gap) stroke(x + s, y, x + s, y + height);
  pen.stroke();
  if (pattern === "dotted")
    for (let r = 4; r < height; r += 7)
      for (let s = 5; s < width; s += 7) pen.fillRect(x + s, y + r, 1.6, 1.6);
}

/** A filled box is a key pose, an open box a new pose, a line a hold. */
function drawExposures(pen: Pen, ink: Ink, view: SheetView, rows: Rows): void {
  const { scene, parts, row, exposed } = view;
  const starts = exposuresOf({ parts }, exposed);
  if (!starts || !exposed) return;
  const poses = "shown" in exposed ? (part<ShownPart>({ parts }, exposed.shown)?.key_poses ?? []) : [];
  const keyed = new Set(Array.from(poses, (f) => Math.round(f)));
  const middle = COLUMNS.exposures + 17;
  pen.lineWidth = 1.3;
  pen.textAlign = "center";
  pen.font = '10.5px "IBM Plex Mono"';
  let number = 0;
  for (let r = 0; r <= rows.last; r++) {
    const isNew = starts[r] === scene.first + r;
    if (isNew) number++;
    if (r < rows.first) continue;
    const y = r * row;
    const key = keyed.has(scene.first + r);
    pen.fillStyle = pen.strokeStyle = ink("--red");
    if (!isNew) {
      pen.fillRect(middle - 0.75, y - 1, 1.5, row + 2);
      continue;
    }
    const tall = Math.max(2, row - 3);
    pen.beginPath();
    pen.roundRect(middle - 14, y + (row - tall) / 2, 28, tall, Math.min(3, tall / 2));
    if (key) pen.fill();
    else {
      pen.fillStyle = ink("--sheet");
      pen.fill();
      pen.stroke();
    }
    if (row < 11) continue;
    pen.fillStyle = key ? ink("--on-red") : ink("--red");
    pen.fillText(String(number), middle, y + row / 2 + 0.5);
  }
}

function drawSpacing(pen: Pen, ink: Ink, view: SheetView, rows: Rows): void {
  const { scene, parts, row } = view;
  const arc = part<ArcPart>({ parts }, scene.arc);
  const starts = exposuresOf({ parts }, view.exposed);
  if (!arc || !starts) {
    if (rows.first === 0)
      teach(pen, ink, COLUMNS.spacing, ["choose a joint:", "click one in", "the Picture"]);
    return;
  }
  const shares = view.strip === "shares";
  const sizes = shares ? [...arc.subject_px, ...arc.camera_px].map(Math.abs) : [...arc.spacing_px];
  const most = Math.max(1e-6, ...sizes.filter((v) => !Number.isNaN(v)));
  const judgement = part<ArcJudgementPart>({ parts }, scene.arc_judgement);
  const faults = new Map(judgement?.faults.map((fault) => [fault.frame, fault]));
  const tall = Math.max(2, Math.min(8, row - 5));
  for (let r = rows.first; r <= rows.last; r++) {
    const value = arc.spacing_px[r]!;
    const y = r * row + (row - tall) / 2;
    if (shares) {
      drawShare(pen, ink("--red"), (arc.subject_px[r] ?? NaN) / most, r * row + row / 2 - tall / 2, tall / 2);
      drawShare(pen, ink("--blue"), (arc.camera_px[r] ?? NaN) / most, r * row + row / 2 + 0.5, tall / 2);
    } else if (!Number.isNaN(value)) {
      const width = Math.max(1, (value / most) * SPACING_ROOM);
      const isNew = starts[r] === scene.first + r;
      pen.fillStyle = ink(isNew ? "--red" : "--red-tint");
      pen.fillRect(COLUMNS.spacing, y, width, tall);
      if (!isNew && row >= 8) {
        pen.strokeStyle = ink("--red");
        pen.lineWidth = 0.8;
        pen.strokeRect(COLUMNS.spacing + 0.5, y + 0.5, width - 1, tall - 1);
      }
    }
    const fault = faults.get(scene.first + r);
    if (fault && row >= 9)
      mark(
        pen,
        ink,
        `${READING_TITLES[fault.kind]} ${Math.abs(fault.size_px).toFixed(1)}`,
        COLUMNS.spacing + 4,
        r * row + row / 2,
      );
  }
}

/** Along the way it goes a filled bar, against it an open one. */
function drawShare(pen: Pen, color: string, share: number, y: number, tall: number): void {
  if (Number.isNaN(share)) return;
  const width = Math.max(1, Math.min(1, Math.abs(share)) * SPACING_ROOM);
  pen.fillStyle = pen.strokeStyle = color;
  pen.lineWidth = 1;
  if (share >= 0) pen.fillRect(COLUMNS.spacing, y, width, tall);
  else pen.strokeRect(COLUMNS.spacing + 0.5, y + 0.5, Math.max(1, width - 1), Math.max(1, tall - 1));
}

function mark(pen: Pen, ink: Ink, text: string, x: number, y: number): void {
  pen.font = '600 11px "Barlow Semi Condensed"';
  pen.textAlign = "left";
  const width = pen.measureText(text).width;
  pen.fillStyle = ink("--ochre-ground");
  pen.fillRect(x - 3, y - 6.5, width + 6, 13);
  pen.fillStyle = ink("--ochre");
  pen.fillText(text, x, y + 0.5);
}

/** Beside the exposures, where this version is not as the one before: the wider, the farther its worst joint has moved. */
function drawChanged(pen: Pen, ink: Ink, { parts, character, row }: SheetView, rows: Rows): void {
  const changed = part<ChangedPart>({ parts }, character?.changed);
  if (!changed) return;
  const most = Math.max(4, ...changed.px.filter((px) => !Number.isNaN(px)));
  pen.fillStyle = ink("--ochre");
  for (let r = rows.first; r <= rows.last; r++) {
    const px = changed.px[r] ?? NaN;
    if (!(px > SEEN_CHANGE_PX)) continue;
    const width = 1.5 + 5.5 * Math.sqrt(px / most);
    pen.fillRect(COLUMNS.camera - 8, r * row + 0.5, width, Math.max(1, row - 1));
  }
}

function drawSlip(pen: Pen, ink: Ink, view: SheetView, rows: Rows): void {
  const { parts, row } = view;
  const strobing = part<StrobingPart>({ parts }, view.character?.strobing);
  const shown = part<ShownPart>({ parts }, view.character?.shown);
  if (!strobing || !shown) return;
  // The scale stays that of Ride off, so that what riding takes away is seen to shrink.
  const most = Math.max(2, strobing.still.max_px ?? 0);
  const tall = Math.max(2, Math.min(7, row - 6));
  for (let r = rows.first; r <= rows.last; r++) {
    const value = strobing.slip_px[r] ?? NaN;
    const y = r * row + (row - tall) / 2;
    if (Number.isNaN(value)) {
      pen.fillStyle = ink("--soft");
      pen.font = '10px "IBM Plex Mono"';
      pen.textAlign = "left";
      if (row >= 9) pen.fillText("unseen", COLUMNS.slip, r * row + row / 2);
    } else if (value < 0.05) {
      pen.fillStyle = ink("--soft");
      if (row >= 6) pen.fillRect(COLUMNS.slip + 1, r * row + row / 2 - 1, 2, 2);
    } else {
      const width = Math.max(2, (value / most) * SLIP_ROOM);
      pen.fillStyle = ink("--ochre-tint");
      pen.fillRect(COLUMNS.slip, y, width, tall);
      pen.save();
      pen.beginPath();
      pen.rect(COLUMNS.slip, y, width, tall);
      pen.clip();
      pen.strokeStyle = ink("--ochre");
      pen.lineWidth = 1;
      pen.beginPath();
      for (let s = -tall; s < width; s += 3.5) {
        pen.moveTo(COLUMNS.slip + s, y + tall);
        pen.lineTo(COLUMNS.slip + s + tall, y);
      }
      pen.stroke();
      pen.restore();
    }
  }
}

/** Draws what is heard beside the frames: a waveform a sound, time downwards; and the marks on the frames. */
import type { WaveformPart } from "../api/generated";
import { part } from "../state/session";
import type { MarkKind, SoundView } from "../state/sounds";
import { COLUMNS, SHEET_WIDTH, groupColumns } from "./columns";
import type { SheetView } from "./drawSheet";
import { teach } from "./teach";

type Pen = CanvasRenderingContext2D;
type Ink = (token: string) => string;

const PEAKS_PER_SECOND = 100;
const FULL = 255;

export function drawSounds(pen: Pen, ink: Ink, view: SheetView): void {
  const { scene, row, top, height } = view;
  if (!scene.sounds.length && top < row)
    teach(pen, ink, COLUMNS.spacing + 4, [
      "no sound yet:",
      "drop a file here,",
      "or bring one in",
      "on Time",
    ]);
  for (const { group, left, middle } of groupColumns(scene.sounds))
    drawWave(pen, ink, view, group, left, middle);
  pen.font = '500 11.5px "Barlow Semi Condensed"';
  pen.textAlign = "right";
  pen.textBaseline = "middle";
  for (const mark of scene.marks) {
    const y = (mark.frame - scene.first + 0.5) * row;
    if (y < top - row || y > top + height + row) continue;
    const text = mark.text ? `${mark.kind} · ${mark.text}` : mark.kind;
    const width = Math.min(pen.measureText(text).width, SHEET_WIDTH - COLUMNS.spacing - 30);
    pen.fillStyle = ink("--ochre-ground");
    pen.fillRect(SHEET_WIDTH - 20 - width, y - 7, width + 6, 14);
    pen.fillStyle = ink("--ochre");
    pen.fillText(text, SHEET_WIDTH - 17, y + 0.5, SHEET_WIDTH - COLUMNS.spacing - 30);
  }
}

/** How loud a sound is over the frames in sight, within its column. */
export function drawWave(
  pen: Pen,
  ink: Ink,
  { scene, parts, row, top, height }: SheetView,
  { sound, seconds, waveform }: SoundView,
  left: number,
  middle: number,
): void {
  const peaks = part<WaveformPart>({ parts }, waveform)?.peaks;
  if (!peaks) return;
  const [first, last] = [Math.max(0, top), top + height];
  const half = middle - left - 3;
  const end = Math.min(sound.last_s ?? seconds, seconds);
  const gain = Math.min(8, 10 ** (sound.gain_db / 20));
  pen.fillStyle = ink(sound.muted ? "--rule" : "--soft");
  // A line of pixels is as loud as the loudest that it covers.
  for (let y = Math.floor(first); y < last; y++) {
    const at = (line: number) => sound.first_s + (scene.first + line / row - sound.start) / scene.rate_float;
    const [from, to] = [at(y), at(y + 1)];
    if (to <= sound.first_s || from >= end) continue;
    let peak = 0;
    const until = Math.min(peaks.length, Math.ceil(to * PEAKS_PER_SECOND));
    for (let p = Math.max(0, Math.floor(from * PEAKS_PER_SECOND)); p < until; p++)
      peak = Math.max(peak, peaks[p]!);
    const reach = Math.max(0.5, Math.min(1, (peak / FULL) * gain) ** 0.7 * half);
    pen.fillRect(middle - reach, y, 2 * reach, 1);
  }
}

/** At the edge of the frame numbers: a block for an action, brackets around a line, a dot for an accent. */
export function drawMarks(pen: Pen, ink: Ink, { scene, row, top, height }: SheetView): void {
  pen.fillStyle = pen.strokeStyle = ink("--ochre");
  pen.lineWidth = 2;
  for (const mark of scene.marks) {
    const y = (mark.frame - scene.first) * row;
    if (y < top - row || y > top + height) continue;
    SHAPES[mark.kind](pen, y, row);
  }
}

const SHAPES: Record<MarkKind, (pen: Pen, y: number, row: number) => void> = {
  action: (pen, y, row) => pen.fillRect(2, y + 1, 5, Math.max(3, row - 2)),
  "line begins": (pen, y, row) => bracket(pen, y + 1, y + row),
  "line ends": (pen, y, row) => bracket(pen, y + row - 1, y),
  accent: (pen, y, row) => {
    pen.beginPath();
    pen.arc(5, y + row / 2, 3, 0, 2 * Math.PI);
    pen.fill();
  },
};

function bracket(pen: Pen, corner: number, end: number): void {
  pen.beginPath();
  pen.moveTo(9, corner);
  pen.lineTo(3, corner);
  pen.lineTo(3, end);
  pen.stroke();
}

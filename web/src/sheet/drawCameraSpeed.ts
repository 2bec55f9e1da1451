/** Draws how fast a camera moves as a whole: its place, its turn, and the background against how fast that may go. */
import type { SpeedPart } from "../api/generated";
import { CURVES } from "./columns";

type Pen = CanvasRenderingContext2D;
type Ink = (token: string) => string;
interface Rows {
  row: number;
  top: number;
  height: number;
}

/** What is chosen in the place of a channel. */
export const CAMERA_SPEED = "camera speed";

export function drawCameraSpeed(pen: Pen, ink: Ink, speed: SpeedPart, { row, top, height }: Rows): void {
  const { place_m_per_s, turn_deg_per_s, background_px, limit_px } = speed;
  const most = Math.max(limit_px * 1.25, greatest(background_px));
  const first = Math.max(0, Math.floor(top / row) - 1);
  const last = Math.min(background_px.length - 1, Math.ceil((top + height) / row) + 1);
  const across = (value: number, full: number) => CURVES.left + (value / full) * CURVES.width;
  // The background as bars, what is too much of it in full.
  for (let at = first; at <= last; at++) {
    const px = background_px[at]!;
    pen.fillStyle = ink(px > limit_px ? "--ochre" : "--ochre-tint");
    pen.fillRect(CURVES.left, at * row + 1, across(px, most) - CURVES.left, Math.max(1, row - 2));
  }
  const line = (values: Float32Array, full: number, token: string, dash: number[]) => {
    pen.strokeStyle = ink(token);
    pen.lineWidth = 1.8;
    pen.setLineDash(dash);
    pen.beginPath();
    for (let at = first; at <= last; at++) pen.lineTo(across(values[at]!, full), (at + 0.5) * row);
    pen.stroke();
  };
  line(place_m_per_s, greatest(place_m_per_s) * 1.1, "--blue-deep", []);
  line(turn_deg_per_s, greatest(turn_deg_per_s) * 1.1, "--graphite", [4, 3]);
  pen.strokeStyle = ink("--ochre");
  pen.lineWidth = 1;
  pen.setLineDash([2, 2]);
  pen.beginPath();
  pen.moveTo(across(limit_px, most), Math.max(0, top));
  pen.lineTo(across(limit_px, most), Math.min(background_px.length * row, top + height));
  pen.stroke();
  pen.setLineDash([]);
}

/** Its figures on a row, in words. */
export function speedText({ place_m_per_s, background_px, limit_px }: SpeedPart, row: number): string {
  const px = background_px[row];
  if (px === undefined) return "";
  return `${px.toFixed(0)}/${limit_px.toFixed(0)}px ${place_m_per_s[row]!.toFixed(1)}m/s`;
}

const greatest = (values: Float32Array) => values.reduce((a, b) => Math.max(a, b), 1e-6);

import type { SceneView } from "../api/generated";

/** `hh:mm:ss:ff` of a count of frames; with numbers left out, `;` stands before the frames. */
export function timecode(count: number, numbers: number, dropped = 0): string {
  const tenMinutes = 600 * numbers - 9 * dropped;
  const day = 144 * tenMinutes;
  const ofDay = ((count % day) + day) % day;
  const tens = Math.floor(ofDay / tenMinutes);
  const rest = ofDay % tenMinutes;
  // The first minute of ten is whole; each of the nine others has left its first numbers out.
  const later = rest < 60 * numbers ? 0 : 1 + Math.floor((rest - 60 * numbers) / (60 * numbers - dropped));
  const numbered = tens * 600 * numbers + rest + dropped * later;
  const seconds = Math.floor(numbered / numbers);
  const wide = Math.max(2, String(numbers - 1).length);
  const pad = (n: number, width = 2) => String(n).padStart(width, "0");
  const clock = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60];
  return `${clock.map((n) => pad(n)).join(":")}${dropped ? ";" : ":"}${pad(numbered % numbers, wide)}`;
}

export function sceneTimecode({ first, timecode: code }: SceneView, frame: number): string {
  return timecode(code.starts_at + frame - first, code.numbers, code.dropped);
}

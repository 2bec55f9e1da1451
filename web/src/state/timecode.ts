/** `hh:mm:ss:ff` of a count of frames. */
export function timecode(count: number, rate: number): string {
  const whole = Math.max(1, Math.round(rate));
  const seconds = Math.floor(count / whole);
  const pad = (n: number) => String(n).padStart(2, "0");
  return [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60, count % whole]
    .map(pad)
    .join(":");
}

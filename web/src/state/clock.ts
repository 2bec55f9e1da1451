/** The clock that playing goes by: that of what is heard, while something is, else the window's. They never part by a jump. */
let heard: AudioContext | null = null;
let shiftMs = 0;

/** From now on time is what this sounds by; null: the window's own again. */
export function goByClockOf(context: AudioContext | null): void {
  heard = null;
  if (context) shiftMs = clockMs() - context.currentTime * 1000;
  heard = context;
}

export function clockMs(): number {
  return heard?.state === "running" ? heard.currentTime * 1000 + shiftMs : performance.now();
}

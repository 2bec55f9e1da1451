/** How hands move and measure. */
import { notify, session, setSession } from "./session";

const EYE_HEIGHT_M = 1.6;
const SLOWEST = 0.05;
const FASTEST = 20;

export function toggleWalking(): void {
  const { walkHeight } = session();
  setSession({ walkHeight: walkHeight === null ? EYE_HEIGHT_M : null });
  notify(
    walkHeight === null
      ? `Walking at ${EYE_HEIGHT_M} m: Ctrl with the arrow keys.`
      : "Flying: Ctrl with the arrow keys, Page Up, Page Down.",
  );
}

export function toggleMeasuring(): void {
  const { measuring } = session();
  setSession({ measuring: measuring === null ? [] : null });
  if (measuring === null) notify("Click two joints or places on the ground to measure between them.");
}

export function changeSpeed(factor: number): void {
  const speed = Math.max(SLOWEST, Math.min(FASTEST, session().speed * factor));
  setSession({ speed: Number(speed.toFixed(3)) });
  notify(`Hands move at ${session().speed} times the usual speed.`);
}

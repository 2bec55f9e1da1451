/** The Picture over the whole window, and over the whole screen where the browser gives it. */
import { session, setSession } from "../state/session";

export function toggleFullPicture(): void {
  setFullPicture(!session().fullPicture);
}

export function setFullPicture(full: boolean): void {
  if (session().fullPicture !== full) setSession({ fullPicture: full });
  // Asked for, never insisted on: a browser may refuse it, and the window is filled all the same.
  if (full && !document.fullscreenElement) document.documentElement.requestFullscreen?.().catch(() => {});
  if (!full && document.fullscreenElement) document.exitFullscreen().catch(() => {});
}

/** Leaving the browser's full screen, by its own key, leaves the full Picture as well. */
export function followFullScreen(): () => void {
  const changed = () => {
    if (!document.fullscreenElement && session().fullPicture) setSession({ fullPicture: false });
  };
  document.addEventListener("fullscreenchange", changed);
  return () => document.removeEventListener("fullscreenchange", changed);
}

/** What moves with every frame is moved without React, which would be asked two dozen times a second for one line or number. */
import { useLayoutEffect, useRef } from "react";
import { useSession } from "./session";

/** Have `show` called with the frame: after each rendering, and whenever the frame changes. */
export function useEachFrame(show: (frame: number) => void): void {
  const latest = useRef(show);
  useLayoutEffect(() => {
    latest.current = show;
    show(useSession.getState().frame);
  });
  // Ended with what it moves: what is cleaned up after that may still move the frame.
  useLayoutEffect(
    () =>
      useSession.subscribe((now, before) => {
        if (now.frame !== before.frame) latest.current(now.frame);
      }),
    [],
  );
}

/** What moves with every frame is moved without React, which would be asked two dozen times a second for one line or number. */
import { useEffect, useLayoutEffect, useRef } from "react";
import { useSession } from "./session";

/** Have `show` called with the frame: after each rendering, and whenever the frame changes. */
export function useEachFrame(show: (frame: number) => void): void {
  const latest = useRef(show);
  useLayoutEffect(() => {
    latest.current = show;
    show(useSession.getState().frame);
  });
  useEffect(
    () =>
      useSession.subscribe((now, before) => {
        if (now.frame !== before.frame) latest.current(now.frame);
      }),
    [],
  );
}

/** One small live picture of the scene. */
import { useEffect, useRef } from "react";
import type { Sight } from "../optics/lens";
import type { Session } from "../state/session";
import { showTile } from "./tiles";

interface LivePictureProps {
  width: number;
  height: number;
  label: string;
  sight: (state: Session) => Sight | null;
  shows: (state: Session) => string;
  /** Of another frame than the playhead's. */
  frame?: (state: Session) => number;
}

export function LivePicture({ width, height, label, sight, shows, frame }: LivePictureProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const ofFrame = frame !== undefined;
  const latest = useRef({ sight, shows, frame });
  useEffect(() => {
    latest.current = { sight, shows, frame };
  }, [sight, shows, frame]);
  useEffect(
    () =>
      showTile({
        canvas: canvas.current!,
        sight: (state) => latest.current.sight(state),
        shows: (state) => latest.current.shows(state),
        frame: ofFrame ? (state) => latest.current.frame?.(state) ?? state.frame : undefined,
      }),
    [width, height, ofFrame],
  );
  const density = Math.min(devicePixelRatio, 2);
  return (
    <canvas
      ref={canvas}
      width={Math.round(width * density)}
      height={Math.round(height * density)}
      style={{ width, height, display: "block" }}
      aria-label={label}
    />
  );
}

/** Over the Plan while a rail is drawn on it: one stroke, and the camera stands on a rail along it. */
import { useRef, useState } from "react";
import { edit } from "../state/edits";
import { session, setSession } from "../state/session";
import type { Point } from "./marks";

const STEP_PX = 3;

interface RailStrokeProps {
  cameraId: string;
  /** A place on the ground (x, z in metres) under a point of the drawing. */
  ground: (at: Point) => [number, number];
}

export function RailStroke({ cameraId, ground }: RailStrokeProps) {
  const [stroke, setStroke] = useState<Point[]>([]);
  const held = useRef(false);
  const at = (event: React.PointerEvent): Point => {
    const box = event.currentTarget.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  return (
    <g data-testid="rail-stroke">
      <rect
        width="100%"
        height="100%"
        fill="transparent"
        style={{ cursor: "crosshair" }}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.stopPropagation();
          event.currentTarget.setPointerCapture(event.pointerId);
          held.current = true;
          setStroke([at(event)]);
        }}
        onPointerMove={(event) => {
          if (!held.current) return;
          const [here, last] = [at(event), stroke.at(-1)!];
          if (Math.hypot(here[0] - last[0], here[1] - last[1]) >= STEP_PX) setStroke([...stroke, here]);
        }}
        onPointerUp={() => {
          if (!held.current) return;
          held.current = false;
          setStroke([]);
          setSession({ drawingRail: null, largePlan: false });
          const drawn = stroke.map(ground);
          edit({
            edit: "lay rail",
            camera_id: cameraId,
            shape: "drawn",
            frame: session().frame,
            stroke: drawn,
          });
        }}
        onPointerCancel={() => {
          held.current = false;
          setStroke([]);
        }}
      />
      <path
        d={stroke.map(([x, y], i) => `${i ? "L" : "M"}${x} ${y}`).join("")}
        fill="none"
        stroke="var(--blue)"
        strokeWidth={2}
        pointerEvents="none"
      />
    </g>
  );
}

/** In the Picture: the place that a framing lock holds, dragged to change it; its free zone; what the camera aims at. */
import { useRef } from "react";
import { Quaternion, Vector3 } from "three";
import type { Edit } from "../api/client";
import { edit, preview } from "../state/edits";
import { notify, part, setSession, useSession, workedCamera } from "../state/session";
import type { CameraPart } from "../api/generated";
import { FramedMark } from "../marks/FramedMark";
import { handlesOf } from "../marks/handles";
import { type FrameRect, onCanvas, pixelsPerMetre, toFrame, toScreen } from "../optics/lens";
import { currentSight } from "../state/sight";

export function FramingMarks({ rect }: { rect: FrameRect }) {
  const state = useSession();
  const { scene } = state;
  const camera = workedCamera(state);
  const sight = currentSight(state);
  const held = useRef<((at: { x: number; y: number }) => Edit) | null>(null);
  const last = useRef<Edit | null>(null);
  if (!scene || !camera || !sight) return null;
  const row = state.frame - scene.first;
  const path = part<CameraPart>(state, camera.path);
  const { framing } = camera;
  const grab = (make: (at: { x: number; y: number }) => Edit) => ({
    onPointerDown: (event: React.PointerEvent) => {
      event.stopPropagation();
      if (camera.locks.includes("angles")) {
        notify(`The angles of ${camera.name} are locked; unlock them first.`, "warning");
        return;
      }
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = make;
      setSession({ gesturing: true });
    },
    onPointerMove: (event: React.PointerEvent) => {
      if (!held.current) return;
      event.stopPropagation();
      const box = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect();
      last.current = held.current({ x: event.clientX - box.left, y: event.clientY - box.top });
      preview(last.current);
    },
    onPointerUp: (event: React.PointerEvent) => {
      if (!held.current) return;
      event.stopPropagation();
      held.current = null;
      setSession({ gesturing: false });
      if (last.current) edit(last.current);
      last.current = null;
    },
  });
  const target = camera.aim ? handlesOf(state, camera).find((h) => h.kind === "target") : undefined;
  const seenTarget = target && toScreen(target.place, sight, scene);
  const wanted = framing && path ? placeHeld(path, row) : null;
  return (
    <g>
      {framing && wanted && (
        <HeldPlace
          at={onCanvas(wanted, rect, scene)}
          slack={(framing.slack as [number, number][]).map(([x, y]) => [
            rect.x + (framing.x + x) * rect.width,
            rect.y + (framing.y + y) * rect.height,
          ])}
          missed={path !== null && (path.reached[row]! & 2) === 0}
          grab={grab((at) => ({
            edit: "hold framing",
            camera_id: camera.id,
            frame: state.frame,
            framing: { ...framing, x: (at.x - rect.x) / rect.width, y: (at.y - rect.y) / rect.height },
          }))}
        />
      )}
      {target && seenTarget && (
        <g
          transform={`translate(${onCanvas(seenTarget, rect, scene).join(" ")})`}
          className={target.moved ? "handle" : "handle still"}
          data-testid="aim-mark"
          {...(target.moved
            ? grab((at) => {
                // In the plane of the picture, at the target's own depth.
                const px = toFrame(at, rect, scene);
                const [perX, perY] = pixelsPerMetre(sight, scene, seenTarget.depth);
                const step = new Vector3((px.x - seenTarget.x) / perX, (seenTarget.y - px.y) / perY, 0);
                const turn = new Quaternion().setFromRotationMatrix(sight.world);
                return target.moved!(target.place.clone().add(step.applyQuaternion(turn)));
              })
            : {})}
        >
          <title>what the camera aims at{target.moved ? ": drag to offset it" : ""}</title>
          <circle r={9} fill="transparent" />
          <path d="M-9 0L0 -9L9 0L0 9Z" fill="none" stroke="var(--over-halo)" strokeWidth={4} />
          <path d="M-9 0L0 -9L9 0L0 9Z" fill="none" stroke="var(--blue)" strokeWidth={2} />
        </g>
      )}
    </g>
  );
}

function placeHeld(path: CameraPart, row: number): { x: number; y: number } | null {
  const [x, y] = [path.wanted_px[row * 2], path.wanted_px[row * 2 + 1]];
  return x === undefined || y === undefined ? null : { x, y };
}

interface HeldPlaceProps {
  at: [number, number];
  slack: [number, number][];
  missed: boolean;
  grab: Record<string, (event: React.PointerEvent) => void>;
}

/** The place that is held, and the room around it. */
function HeldPlace({ at, slack, missed, grab }: HeldPlaceProps) {
  const [x, y] = at;
  return (
    <g data-testid="held-place" data-x={x.toFixed(1)} data-y={y.toFixed(1)}>
      {slack.length > 1 && (
        <polygon
          points={slack.map((c) => c.join(",")).join(" ")}
          fill="none"
          stroke="var(--blue)"
          strokeDasharray="3 3"
        />
      )}
      <g className="handle" {...grab}>
        <title>where the framing is held: drag it</title>
        <FramedMark x={x} y={y} missed={missed} />
      </g>
    </g>
  );
}

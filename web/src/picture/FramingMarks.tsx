/** In the Picture: the place that a framing lock holds, dragged to change it; its free zone; what the camera aims at. */
import { Quaternion, Vector3 } from "three";
import { part, useSession, workedCamera } from "../state/session";
import type { CameraPart } from "../api/generated";
import { FramedMark } from "../marks/FramedMark";
import { handlesOf } from "../marks/handles";
import { type FrameRect, onCanvas, pixelsPerMetre, toFrame, toScreen } from "../optics/lens";
import { currentSight } from "../state/sight";
import { GrabbedMark } from "./GrabbedMark";

export function FramingMarks({ rect }: { rect: FrameRect }) {
  const state = useSession();
  const { scene } = state;
  const camera = workedCamera(state);
  const sight = currentSight(state);
  if (!scene || !camera || !sight) return null;
  const row = state.frame - scene.first;
  const path = part<CameraPart>(state, camera.path);
  const { framing } = camera;
  const locked = camera.locks.includes("angles");
  const target = camera.aim ? handlesOf(state, camera).find((h) => h.kind === "target") : undefined;
  const seenTarget = target && toScreen(target.place, sight, scene);
  const wanted = framing && path ? placeHeld(path, row) : null;
  const at = wanted && onCanvas(wanted, rect, scene);
  const slack = ((framing?.slack ?? []) as [number, number][]).map(([x, y]) => [
    rect.x + (framing!.x + x) * rect.width,
    rect.y + (framing!.y + y) * rect.height,
  ]);
  return (
    <g>
      {framing && at && (
        <g data-testid="held-place" data-x={at[0].toFixed(1)} data-y={at[1].toFixed(1)}>
          {slack.length > 1 && (
            <polygon
              points={slack.map((c) => c.join(",")).join(" ")}
              fill="none"
              stroke="var(--blue)"
              strokeDasharray="3 3"
            />
          )}
          <GrabbedMark
            at={at}
            says={`where the framing is held${locked ? ": locked" : ": rest on it, then drag"}`}
            moved={
              locked
                ? null
                : (to) => ({
                    edit: "hold framing",
                    camera_id: camera.id,
                    frame: state.frame,
                    framing: {
                      ...framing,
                      x: (to.x - rect.x) / rect.width,
                      y: (to.y - rect.y) / rect.height,
                    },
                  })
            }
          >
            <FramedMark x={0} y={0} missed={path !== null && (path.reached[row]! & 2) === 0} />
          </GrabbedMark>
        </g>
      )}
      {target && seenTarget && (
        <GrabbedMark
          at={onCanvas(seenTarget, rect, scene)}
          says={`what the camera aims at${target.moved ? ": rest on it, then drag it off" : ""}`}
          testId="aim-mark"
          moved={
            target.moved &&
            ((to) => {
              // In the plane of the picture, at the target's own depth.
              const px = toFrame(to, rect, scene);
              const [perX, perY] = pixelsPerMetre(sight, scene, seenTarget.depth);
              const step = new Vector3((px.x - seenTarget.x) / perX, (seenTarget.y - px.y) / perY, 0);
              const turn = new Quaternion().setFromRotationMatrix(sight.world);
              return target.moved!(target.place.clone().add(step.applyQuaternion(turn)));
            })
          }
        >
          <circle r={9} fill="transparent" />
          <path d="M-9 0L0 -9L9 0L0 9Z" fill="none" stroke="var(--over-halo)" strokeWidth={4} />
          <path className="body" d="M-9 0L0 -9L9 0L0 9Z" fill="none" stroke="var(--blue)" strokeWidth={2} />
        </GrabbedMark>
      )}
    </g>
  );
}

function placeHeld(path: CameraPart, row: number): { x: number; y: number } | null {
  const [x, y] = [path.wanted_px[row * 2], path.wanted_px[row * 2 + 1]];
  return x === undefined || y === undefined ? null : { x, y };
}

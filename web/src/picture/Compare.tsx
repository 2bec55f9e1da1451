/** Two saved views of a camera side by side, live, over the Picture. */
import { LivePicture } from "../stage/LivePicture";
import type { CameraPart, CameraView } from "../api/generated";
import { cameraNamed, part, session, setSession, useSession } from "../state/session";
import { bakedSight, frameAspect } from "../optics/lens";

const GAP = 14;

export function Compare({ width }: { width: number }) {
  const comparing = useSession((s) => s.comparing);
  const scene = useSession((s) => s.scene)!;
  if (!comparing?.beside) return null;
  const camera = cameraNamed({ scene }, comparing.cameraId);
  if (!camera) return null;
  const half = Math.floor((width - 3 * GAP) / 2);
  const height = Math.round(half / frameAspect(scene));
  return (
    <div className="compare" data-testid="compare" onPointerDown={(event) => event.stopPropagation()}>
      {comparing.views.map((id, index) => {
        const view = camera.views.find((v) => v.id === id);
        return (
          <figure key={index}>
            <LivePicture
              width={half}
              height={height}
              label={view?.name ?? "view"}
              sight={(state) => {
                const path = part<CameraPart>(state, view?.path);
                return path && bakedSight(path, state.frame - state.scene!.first, camera);
              }}
              shows={() => view?.path ?? ""}
            />
            <figcaption>{view?.name}</figcaption>
          </figure>
        );
      })}
    </div>
  );
}

/** Show the other one of the two views that are compared. */
export function flickViews(): void {
  const { comparing } = session();
  const [one, other] = comparing?.views ?? [];
  if (comparing && one && other) setSession({ comparing: { ...comparing, views: [other, one] } });
}

/** Start comparing the last two saved views of a camera. */
export function compareLast(camera: CameraView | null): void {
  const [one, other] = camera?.views.slice(-2) ?? [];
  if (camera && one && other)
    setSession({ comparing: { cameraId: camera.id, views: [one.id, other.id], beside: false } });
}

/**
 * Small views beside the large Picture: Roam, a camera, the Plan. Each can be swapped into the large place, so that the shot
 * camera stays in sight while one frames and looks around.
 */
import { Select } from "@mantine/core";
import { IconArrowsExchange } from "@tabler/icons-react";
import type { SceneView } from "../api/generated";
import { frameAspect } from "../optics/lens";
import { currentSight, cutSight, namedSight, roamSight } from "../state/sight";
import { PlanDrawing } from "../plan/Plan";
import { refreshView } from "../state/shown";
import { lookThrough, lookThroughCut } from "../state/looking";
import { type Companion, type Session, cutCamera, session, setSession, useSession } from "../state/session";
import { LivePicture } from "../stage/LivePicture";

export const COMPANION_WIDTH = 164;
const PLAN_HEIGHT = 86;

export function Companions() {
  const companions = useSession((s) => s.companions);
  const scene = useSession((s) => s.scene)!;
  return (
    <aside className="companions" aria-label="Companion views">
      {companions.map((companion, index) => (
        <CompanionView key={index} companion={companion} index={index} scene={scene} />
      ))}
    </aside>
  );
}

function CompanionView({
  companion,
  index,
  scene,
}: {
  companion: Companion;
  index: number;
  scene: SceneView;
}) {
  const height = Math.round(COMPANION_WIDTH / frameAspect(scene));
  const camera = shownCamera(companion, scene);
  const title = companion.kind === "roam" ? "Roam" : companion.kind === "plan" ? "Plan" : camera?.name;
  return (
    <div className="companion" data-testid="companion">
      <div className="companion-head">
        <Select
          aria-label={`What companion ${index + 1} shows`}
          size="xs"
          variant="unstyled"
          allowDeselect={false}
          value={companion.kind === "camera" ? (camera?.id ?? null) : companion.kind}
          data={[
            {
              group: "Views",
              items: [
                { value: "roam", label: "Roam" },
                { value: "plan", label: "Plan" },
              ],
            },
            { group: "Cameras", items: scene.cameras.map((c) => ({ value: c.id, label: c.name })) },
          ]}
          onChange={(value) => value && show(index, chosen(value))}
          comboboxProps={{ width: 230, position: "bottom-start" }}
        />
        <button
          className="toggle"
          onClick={() => swap(index)}
          aria-label={`${title} into the large place`}
          title="Swap with the large Picture"
        >
          <IconArrowsExchange size={14} />
        </button>
      </div>
      {companion.kind === "plan" ? (
        <div className="plan" style={{ height: PLAN_HEIGHT }}>
          <PlanDrawing />
        </div>
      ) : (
        <button
          className="companion-picture"
          onClick={() => swap(index)}
          aria-label={`Look through ${title}`}
        >
          <LivePicture
            width={COMPANION_WIDTH}
            height={height}
            label={title ?? ""}
            sight={(state: Session) =>
              companion.kind === "roam" ? roamSight(state) : namedSight(state, camera?.id ?? null)
            }
            shows={(state) => (companion.kind === "roam" ? JSON.stringify(state.roam) : (camera?.path ?? ""))}
          />
        </button>
      )}
    </div>
  );
}

function chosen(value: string): Companion {
  return value === "roam" || value === "plan"
    ? { kind: value, cameraId: null }
    : { kind: "camera", cameraId: value };
}

/** The camera of a companion: the one that was chosen, else a face camera, else the first. */
function shownCamera(companion: Companion, scene: SceneView) {
  if (companion.kind !== "camera") return null;
  const { cameras } = scene;
  return (
    cameras.find((c) => c.id === companion.cameraId) ??
    cameras.find((c) => c.role === "face") ??
    cameras[0] ??
    null
  );
}

function show(index: number, companion: Companion): void {
  setSession({ companions: session().companions.map((c, i) => (i === index ? companion : c)) });
}

/** What is large becomes this companion, and this companion large. */
function swap(index: number): void {
  const state = session();
  const companion = state.companions[index]!;
  const camera = shownCamera(companion, state.scene!);
  const large: Companion = state.largePlan
    ? { kind: "plan", cameraId: null }
    : state.looking === "roam"
      ? { kind: "roam", cameraId: null }
      : {
          kind: "camera",
          cameraId: state.looking === "cut" ? (cutCamera(state)?.id ?? null) : state.cameraId,
        };
  show(index, large);
  if (companion.kind === "plan") {
    setSession({ largePlan: true });
    return;
  }
  setSession({ largePlan: false });
  if (companion.kind === "roam") {
    setSession({
      looking: "roam",
      roam: state.roam ?? null,
      cameraId: state.cameraId ?? cutCamera(state)?.id ?? null,
    });
    void refreshView();
  } else if (camera && camera.id === cutCamera(state)?.id && !state.cameraId) lookThroughCut();
  else if (camera) lookThrough(camera.id);
}

/** The Picture, small, in the place of the Plan while that is large. */
export function ShrunkPicture() {
  const scene = useSession((s) => s.scene)!;
  const looking = useSession((s) => s.looking);
  const width = 250;
  return (
    <section className="panel" aria-label="Picture, small">
      <h2>
        Picture <small>{looking === "cut" ? "the cut" : looking === "roam" ? "Roam" : "a camera"}</small>
        <button
          className="toggle"
          onClick={() => setSession({ largePlan: false })}
          title="Picture into the large place"
        >
          <IconArrowsExchange size={14} /> large again
        </button>
      </h2>
      <div className="shrunk">
        <LivePicture
          width={width}
          height={Math.round(width / frameAspect(scene))}
          label="Picture"
          sight={(state: Session) => currentSight(state) ?? cutSight(state)}
          shows={(state) => JSON.stringify([state.looking, state.cameraId, state.roam, state.provisional])}
        />
      </div>
    </section>
  );
}

/**
 * In Roam: every camera as a small body with a hood; the one that is worked on with its view wedge, its near, far and focus
 * marks, its rail, arm or pivot, and handles.
 */
import { Vector3 } from "three";
import type { CameraPart, CameraView, SceneView } from "../api/generated";
import { dashesOf, tintOf } from "../state/lines";
import { chosenBlock } from "../state/chosenBlock";
import { type Session, cutCamera, part, useSession, workedCamera } from "../state/session";
import { uncrowded } from "./uncrowded";
import { HandleDots } from "./HandleDots";
import { blockHandles } from "./blockHandles";
import { type Handle, handlesOf } from "./handles";
import { thingHandles, thingsOf } from "./thingHandles";
import {
  type FrameRect,
  type Sight,
  onCanvas,
  pixelsPerMetre,
  rayThrough,
  toFrame,
  toScreen,
} from "../optics/lens";
import { cameraSight, currentSight } from "../state/sight";

const WEDGE_M = 1.6;
const WITHIN_M = 0.4;
type Corner = [number, number, number];
const ring = (x: number, low: number, high: number, z: number): Corner[] => [
  [-x, low, z],
  [x, low, z],
  [x, high, z],
  [-x, high, z],
];
/** Back, front, and the mouth of the hood, which opens towards what is seen: one ring after the other makes the body. */
const RINGS = [ring(0.08, -0.06, 0.07, 0.24), ring(0.06, -0.05, 0.05, 0.05), ring(0.13, -0.09, 0.09, -0.07)];
const SIDES = RINGS.slice(1).flatMap((later, index) =>
  later.map((corner, i): Corner[] => {
    const [before, next] = [RINGS[index]!, (i + 1) % later.length];
    return [before[i]!, before[next]!, later[next]!, corner];
  }),
);

export function inUse(scene: SceneView, camera: CameraView): boolean {
  return scene.cut.some((entry) => entry.camera_id === camera.id);
}

/** The cameras that are drawn: all, those in use, or none; the one that is worked on always. */
export function drawnCameras(state: Session): CameraView[] {
  const { scene, showCameras } = state;
  const worked = workedCamera(state);
  return (scene?.cameras ?? []).filter(
    (c) => c.id === worked?.id || showCameras === "all" || (showCameras === "in use" && inUse(scene!, c)),
  );
}

export function CameraBodies({ rect }: { rect: FrameRect }) {
  const state = useSession();
  const { scene } = state;
  const sight = currentSight(state);
  if (!scene || !sight) return null;
  const worked = workedCamera(state);
  const cut = cutCamera(state);
  const draw = (place: Vector3) => {
    const seen = toScreen(place, sight, scene);
    return seen && onCanvas(seen, rect, scene);
  };
  const viewer = new Vector3().setFromMatrixPosition(sight.world);
  const shown = drawnCameras(state).flatMap((camera) => {
    const own = cameraSight(state, camera);
    const place = own && new Vector3().setFromMatrixPosition(own.world);
    // Where one stands oneself there is nothing to see of it but its inside.
    if (place && place.distanceTo(viewer) < WITHIN_M) return [];
    return [{ camera, own, eye: place && draw(place) }];
  });
  const first = (camera: CameraView) => (camera.id === worked?.id ? 0 : camera.id === cut?.id ? 1 : 2);
  const byId = new Map(shown.map(({ camera }) => [camera.id, camera]));
  const handles = worked ? handlesOf(state, worked).filter((handle) => handle.kind !== "camera") : [];
  const [width, height] = [2 * rect.x + rect.width, 2 * rect.y + rect.height];
  const isOn = ([x, y]: [number, number]) => x > 0 && y > 0 && x < width && y < height;
  const named = uncrowded(
    shown
      .sort((a, b) => first(a.camera) - first(b.camera))
      .map(({ camera, eye }) => ({
        id: camera.id,
        text: camera.name,
        at: eye && isOn(eye) ? eye : null,
        always: camera.id === worked?.id,
      })),
    handles.map((handle) => draw(handle.place)).filter((at) => at !== null),
    width,
    height,
  );
  return (
    <>
      {shown.map(({ camera, own }) => (
        <Body
          key={camera.id}
          camera={camera}
          own={own}
          draw={draw}
          wedge={camera.id === worked?.id || camera.id === cut?.id}
          scene={scene}
        />
      ))}
      {named.map(({ id, text, x, y }) => (
        <text key={id} x={x} y={y} className="on-picture" fill={tintOf(byId.get(id)!)}>
          {text}
        </text>
      ))}
      {worked && shown.some(({ camera }) => camera.id === worked.id) && (
        <Rigging state={state} camera={worked} draw={draw} />
      )}
    </>
  );
}

/** The handles of the camera that is worked on; their own layer takes the pointer. */
export function RoamHandles({ rect }: { rect: FrameRect }) {
  const state = useSession();
  const camera = workedCamera(state);
  const own = camera ? handlesOf(state, camera) : [];
  return <HandlesInView rect={rect} handles={[...own, ...chosenThingHandles(state)]} />;
}

/** The handles of the thing that was chosen, if any; what comes with a block is moved with all of it. */
export function chosenThingHandles(state: Pick<Session, "parts" | "scene" | "frame" | "thingId">): Handle[] {
  const block = chosenBlock(state);
  if (block) return blockHandles(block);
  const thing = thingsOf(state.scene).find((t) => t.id === state.thingId);
  return thing && !thing.block_id ? thingHandles(state, thing) : [];
}

/** The same in whatever is looked through. */
export function ThingMarks({ rect }: { rect: FrameRect }) {
  const state = useSession();
  return <HandlesInView rect={rect} handles={chosenThingHandles(state)} />;
}

function HandlesInView({ rect, handles }: { rect: FrameRect; handles: Handle[] }) {
  const state = useSession();
  const sight = currentSight(state);
  const { scene } = state;
  if (!scene || !sight || state.playing) return null;
  const draw = (place: Vector3) => {
    const seen = toScreen(place, sight, scene);
    return seen && onCanvas(seen, rect, scene);
  };
  return (
    <HandleDots
      handles={handles}
      draw={draw}
      find={(at, from, lift) => onPlane(toFrame(at, rect, scene), from, lift, sight, scene)}
    />
  );
}

/** Where a line of sight meets the level plane of a place; lifting, the upright line through it. */
export function onPlane(
  px: { x: number; y: number },
  from: Vector3,
  lift: boolean,
  sight: Sight,
  scene: SceneView,
): Vector3 | null {
  const ray = rayThrough(px, sight, scene);
  if (lift) {
    // The upright plane through the place that faces the eye best.
    const normal = new Vector3(ray.along.x, 0, ray.along.z).normalize();
    const far = from.clone().sub(ray.from).dot(normal) / ray.along.dot(normal);
    if (!(far > 0)) return null;
    return new Vector3(from.x, ray.from.y + ray.along.y * far, from.z);
  }
  if (Math.abs(ray.along.y) < 1e-4) return null;
  const far = (from.y - ray.from.y) / ray.along.y;
  return far > 0 && far < 500 ? ray.from.clone().addScaledVector(ray.along, far) : null;
}

type Draw = (place: Vector3) => [number, number] | null;

interface BodyProps {
  camera: CameraView;
  own: Sight | null;
  draw: Draw;
  wedge: boolean;
  scene: SceneView;
}

function Body({ camera, own, draw, wedge, scene }: BodyProps) {
  if (!own) return null;
  const placed = ([x, y, z]: number[]) => draw(new Vector3(x, y, z).applyMatrix4(own.world));
  const face = (corners: Corner[]) => pathOf([...corners, corners[0]!].map(placed));
  const sides = SIDES.map(face);
  const [back, , mouth] = RINGS.map(face);
  const ink = tintOf(camera);
  return (
    <g data-testid="camera-body" data-camera={camera.name} strokeLinejoin="round">
      <path
        d={[back, ...sides, mouth].join("")}
        stroke="var(--over-halo)"
        strokeOpacity={0.7}
        strokeWidth={3.4}
        fill="none"
      />
      <path d={mouth} fill="var(--over-paper)" fillOpacity={0.8} stroke={ink} strokeWidth={1.2} />
      {[back, ...sides].map((d, index) => (
        <path key={index} d={d} fill={ink} fillOpacity={0.42} stroke={ink} strokeWidth={0.8} />
      ))}
      {wedge && <Wedge camera={camera} own={own} placed={placed} scene={scene} />}
    </g>
  );
}

const ARC_STEPS = 12;

/** What it sees, as on the Plan: a wedge from side to side through its axis, closed by an arc; and how high, as an upright there. */
function Wedge({
  camera,
  own,
  placed,
  scene,
}: {
  camera: CameraView;
  own: Sight;
  placed: (p: number[]) => [number, number] | null;
  scene: SceneView;
}) {
  const [perX, perY] = pixelsPerMetre(own, scene, 1);
  const isParallel = own.parallelHeight !== null;
  /** A place on the edge of what is seen, at so many metres, across and up in halves of the frame. */
  const seen = (across: number, up: number, far: number) => {
    const x = (scene.width * (across / 2 - own.shiftX)) / perX;
    const y = (scene.height * (up / 2 - own.shiftY)) / perY;
    if (isParallel) return placed([x, y, -far]);
    const toward = new Vector3(x, y, -1).setLength(far);
    return placed(toward.toArray());
  };
  const arc = Array.from({ length: ARC_STEPS + 1 }, (_, i) => seen((2 * i) / ARC_STEPS - 1, 0, WEDGE_M));
  const start = Math.max(own.near, 0.02);
  const fan = pathOf([seen(-1, 0, start), ...arc, seen(1, 0, start), seen(-1, 0, start)]);
  const upright = pathOf([seen(0, 1, WEDGE_M), seen(0, -1, WEDGE_M)]);
  return (
    <g data-testid="camera-wedge">
      <path d={fan} fill={tintOf(camera)} fillOpacity={0.2} stroke="none" />
      <path d={fan + upright} fill="none" stroke="var(--over-halo)" strokeOpacity={0.6} strokeWidth={3.4} />
      <path
        d={fan + upright}
        fill="none"
        stroke={tintOf(camera)}
        strokeWidth={1.5}
        strokeDasharray={dashesOf(camera)}
      />
    </g>
  );
}

/** Focus, near and far limits on the axis; the rail, the crane's arm, the way from the pivot. */
function Rigging({ state, camera, draw }: { state: Session; camera: CameraView; draw: Draw }) {
  const path = part<CameraPart>(state, camera.path);
  const own = cameraSight(state, camera);
  if (!path || !own || !state.scene) return null;
  const row = state.frame - state.scene.first;
  const eye = new Vector3().setFromMatrixPosition(own.world);
  const onAxis = (depth: number) => draw(new Vector3(0, 0, -depth).applyMatrix4(own.world));
  const [focus, near, far] = [0, 1, 2].map((i) => path.depths[row * 4 + i]!);
  const lines: string[] = [];
  if (path.rail.length) {
    const points = [];
    for (let at = 0; at < path.rail.length; at += 3)
      points.push(draw(new Vector3().fromArray(path.rail, at)));
    if (camera.mount.kind === "rail" && camera.mount.closed) points.push(points[0]!);
    lines.push(pathOf(points));
  }
  if (camera.mount.kind === "crane")
    lines.push(pathOf([draw(new Vector3(...(camera.mount.base as [number, number, number]))), draw(eye)]));
  if (path.mount_places.length)
    lines.push(pathOf([draw(new Vector3().fromArray(path.mount_places, row * 3)), draw(eye)]));
  return (
    <g fill="none" data-testid="rigging">
      <path d={lines.join("")} stroke="var(--over-halo)" strokeOpacity={0.6} strokeWidth={4} />
      <path d={lines.join("")} stroke={tintOf(camera)} strokeWidth={2} strokeDasharray={dashesOf(camera)} />
      {camera.glass.orthographic_height_m === null && (
        <path
          d={pathOf([onAxis(Math.max(near!, 0.05)), onAxis(Math.min(far!, 60))])}
          stroke={tintOf(camera)}
          strokeWidth={4}
          strokeOpacity={0.3}
        />
      )}
      {camera.glass.orthographic_height_m === null && (
        <AxisMark at={onAxis(focus!)} text={`focus ${focus!.toFixed(2)} m`} />
      )}
    </g>
  );
}

function AxisMark({ at, text }: { at: [number, number] | null; text: string }) {
  if (!at) return null;
  return (
    <g>
      <circle cx={at[0]} cy={at[1]} r={4} stroke="var(--over-halo)" strokeWidth={3} />
      <circle cx={at[0]} cy={at[1]} r={4} stroke="var(--blue)" strokeWidth={1.6} />
      <text x={at[0] + 8} y={at[1] + 4} className="on-picture" fill="var(--blue-deep)" fontSize={11.5}>
        {text}
      </text>
    </g>
  );
}

/** A line through places on the canvas, broken where one is out of sight. */
export function pathOf(points: ([number, number] | null)[]): string {
  let out = "";
  let broken = true;
  for (const point of points) {
    if (point) out += `${broken ? "M" : "L"}${point[0].toFixed(1)} ${point[1].toFixed(1)}`;
    broken = !point;
  }
  return out;
}

/**
 * What can be taken hold of in Roam and on the Plan: the points of a rail, the base of a crane, pivots and targets, and
 * the camera itself. Each says where it is, and which edit moves it somewhere else.
 */
import { Vector3 } from "three";
import type { CameraPart, CameraView, Subject, Target } from "../api/generated";
import type { Edit } from "../api/client";
import { type Session, part } from "../state/session";
import { bakedPose } from "../optics/lens";

export type HandleKind =
  "camera" | "rail point" | "add point" | "crane base" | "pivot" | "target" | "thing" | "thing turn";

export interface Handle {
  id: string;
  kind: HandleKind;
  label: string;
  place: Vector3;
  /** The edit that puts it at a place; null where it cannot be moved. */
  moved: ((to: Vector3) => Edit) | null;
  removed: (() => Edit) | null;
  /** Cameras' are blue. */
  ink?: "red" | "graphite";
}

type Mount = CameraView["mount"];
type Triple = [number, number, number];
const triple = (v: Vector3): Triple => [v.x, v.y, v.z];

export function handlesOf(state: Pick<Session, "parts" | "scene" | "frame">, camera: CameraView): Handle[] {
  const path = part<CameraPart>(state, camera.path);
  const { scene, frame } = state;
  if (!path || !scene) return [];
  const row = frame - scene.first;
  return [
    ...cameraHandle(camera, path, row, frame),
    ...mountHandles(camera, path, row, frame),
    ...targetHandles(camera, path, row, frame),
  ];
}

function cameraHandle(camera: CameraView, path: CameraPart, row: number, frame: number): Handle[] {
  const pose = bakedPose(path, row);
  const moved = (to: Vector3): Edit => ({
    edit: "place camera",
    camera_id: camera.id,
    pose: { ...pose, x: to.x, y: to.y, z: to.z },
    frame,
    keep_offset: true,
  });
  return [
    {
      id: "camera",
      kind: "camera",
      label: camera.name,
      place: new Vector3(pose.x, pose.y, pose.z),
      moved: camera.locks.includes("place") ? null : moved,
      removed: null,
    },
  ];
}

function mountHandles(camera: CameraView, path: CameraPart, row: number, frame: number): Handle[] {
  const { mount } = camera;
  const free = !camera.locks.includes("place");
  const settings = (changed: Mount): Edit => ({
    edit: "mount camera",
    camera_id: camera.id,
    mount: changed,
    frame,
    keep: false,
  });
  if (mount.kind === "rail") {
    const points = mount.points as Triple[];
    const least = mount.closed ? 3 : 2;
    const out = points.map((point, index): Handle => {
      const at = (to: Vector3) => points.map((p, i) => (i === index ? triple(to) : p));
      return {
        id: `rail ${index}`,
        kind: "rail point",
        label: `rail point ${index + 1}`,
        place: new Vector3(...point),
        moved: free ? (to) => settings({ ...mount, points: at(to) }) : null,
        removed:
          free && points.length > least
            ? () => settings({ ...mount, points: points.filter((_, i) => i !== index) })
            : null,
      };
    });
    if (!free) return out;
    const spans = mount.closed ? points.length : points.length - 1;
    const between: Handle[] = [];
    for (let index = 0; index < spans; index++) {
      const [a, b] = [points[index]!, points[(index + 1) % points.length]!];
      const insert = (to: Vector3) => [...points.slice(0, index + 1), triple(to), ...points.slice(index + 1)];
      between.push({
        id: `add ${index}`,
        kind: "add point",
        label: "add a point here",
        place: onRail(path, new Vector3(...a).add(new Vector3(...b)).multiplyScalar(0.5)),
        moved: (to) => settings({ ...mount, points: insert(to) }),
        removed: null,
      });
    }
    return [...between, ...out]; // where both lie together the point is taken hold of
  }
  if (mount.kind === "crane")
    return [
      {
        id: "crane base",
        kind: "crane base",
        label: "crane base",
        place: new Vector3(...(mount.base as Triple)),
        moved: free ? (to) => settings({ ...mount, base: triple(to) }) : null,
        removed: null,
      },
    ];
  if (mount.kind === "orbit" && path.mount_places.length) {
    const place = new Vector3().fromArray(path.mount_places, row * 3);
    return [
      {
        id: "pivot",
        kind: "pivot",
        label: "pivot",
        place,
        moved: free ? (to) => settings({ ...mount, pivot: shifted(mount.pivot, place, to) }) : null,
        removed: null,
      },
    ];
  }
  return [];
}

function targetHandles(camera: CameraView, path: CameraPart, row: number, frame: number): Handle[] {
  const { aim } = camera;
  if (!aim || !path.aim_places.length) return [];
  const place = new Vector3().fromArray(path.aim_places, row * 3);
  const index = rulingTarget(aim.targets, frame);
  const moved = (to: Vector3): Edit => ({
    edit: "aim camera",
    camera_id: camera.id,
    frame,
    aim: {
      ...aim,
      targets: aim.targets.map((target, i) =>
        i === index ? { ...target, subjects: target.subjects.map((s) => shifted(s, place, to)) } : target,
      ),
    },
  });
  const movable = !camera.locks.includes("angles") && allInWorldAxes(aim.targets[index]!);
  return [
    { id: "target", kind: "target", label: "aim", place, moved: movable ? moved : null, removed: null },
  ];
}

/** Index of the target that rules on a frame: the last one whose hand-over has begun. */
export function rulingTarget(targets: Target[], frame: number): number {
  let index = 0;
  targets.forEach((target, i) => {
    if (target.first !== null && target.first <= frame) index = i;
  });
  return index;
}

function allInWorldAxes(target: Target): boolean {
  return target.subjects.every((subject) => subject.axes === "world");
}

function shifted(subject: Subject, from: Vector3, to: Vector3): Subject {
  const [x, y, z] = subject.offset as Triple;
  return { ...subject, offset: [x + to.x - from.x, y + to.y - from.y, z + to.z - from.z] };
}

/** The place on the drawn rail nearest to a point. */
function onRail(path: CameraPart, point: Vector3): Vector3 {
  let best = point;
  let least = Infinity;
  for (let at = 0; at < path.rail.length; at += 3) {
    const place = new Vector3().fromArray(path.rail, at);
    const distance = place.distanceToSquared(point);
    if (distance < least) [best, least] = [place, distance];
  }
  return best;
}

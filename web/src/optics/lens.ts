/** The browser's projection, for drawing and picking: the same as the core's, in delivery-frame pixels. */
import { Matrix4, Vector3 } from "three";
import type { CameraPart, CameraView, FilmBack, SceneView } from "../api/generated";
import { type Pose, worldFromCamera } from "./pose";

/** How something is looked at: the camera's place and its lens, as pixels per slope on the delivery frame. */
export interface Sight {
  world: Matrix4;
  slopeX: number;
  slopeY: number;
  near: number;
  /** Null shows all. */
  far: number | null;
  /** Fractions of the frame; positive moves the picture right and up. */
  shiftX: number;
  shiftY: number;
  /** Metres that a parallel view shows from top to bottom; null for a lens. */
  parallelHeight: number | null;
  /** The camera that sees, by its id; null where nobody does but the one who roams. */
  by: string | null;
}

/** Where the delivery frame lies on the canvas, CSS pixels. */
export interface FrameRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface OnScreen {
  x: number;
  y: number;
  depth: number;
}

const FARTHEST_M = 400;
const NEAREST_DRAWN_M = 0.02;
export const NEAREST_M = 0.01;

export function fittedFrame(width: number, height: number, aspect: number, margin: number): FrameRect {
  const room = { width: Math.max(10, width - 2 * margin), height: Math.max(10, height - 2 * margin) };
  const fitted = Math.min(room.width, room.height * aspect);
  const size = { width: fitted, height: fitted / aspect };
  return { x: (width - size.width) / 2, y: (height - size.height) / 2, ...size };
}

/** Width and height in mm of the part of the back that the delivery frame uses. */
export function usedBack(back: FilmBack, aspect: number): { width: number; height: number } {
  const [width, height] = [back.width_mm * back.squeeze, back.height_mm];
  const wider = width / height > aspect;
  const byHeight =
    back.gate === "height" || (back.gate === "crop" && wider) || (back.gate === "reach" && !wider);
  return byHeight ? { width: height * aspect, height } : { width, height: width / aspect };
}

export function frameAspect(scene: Pick<SceneView, "width" | "height" | "pixel_aspect">): number {
  return (scene.width * scene.pixel_aspect) / scene.height;
}

export const matrixAt = (matrices: Float32Array, row: number) =>
  new Matrix4().fromArray(matrices as unknown as number[], row * 16);

/** The sight of a baked camera on a row of the scene. */
export function bakedSight(
  path: CameraPart,
  row: number,
  camera: Pick<CameraView, "glass"> & { id?: string },
): Sight {
  const { glass } = camera;
  return {
    world: matrixAt(path.world_from_camera, row),
    slopeX: path.pixels_per_slope[row * 2]!,
    slopeY: path.pixels_per_slope[row * 2 + 1]!,
    near: glass.near_m,
    far: glass.far_m,
    shiftX: glass.shift_x,
    shiftY: glass.shift_y,
    parallelHeight: path.view_height_m[row] ?? null,
    by: camera.id ?? null,
  };
}

/** The pose of a baked camera on a row. */
export function bakedPose(path: CameraPart, row: number): Pose {
  const [x, y, z, pan, tilt, roll, focal_mm] = path.pose.subarray(
    row * 7,
    row * 7 + 7,
  ) as unknown as number[];
  return { x: x!, y: y!, z: z!, pan: pan!, tilt: tilt!, roll: roll!, focal_mm: focal_mm! };
}

/** The sight of a pose that is being moved by hand, with the lens of a camera. */
export function posedSight(
  pose: Pose,
  scene: SceneView,
  camera: (Pick<CameraView, "back" | "glass"> & { id?: string }) | null,
): Sight {
  const back: FilmBack = camera?.back ?? { width_mm: 36, height_mm: 24, gate: "crop", squeeze: 1 };
  const used = usedBack(back, frameAspect(scene));
  const slopeY = (pose.focal_mm / used.height) * scene.height;
  return {
    world: worldFromCamera(pose),
    slopeX: slopeY / scene.pixel_aspect,
    slopeY,
    near: camera?.glass.near_m ?? NEAREST_M,
    far: camera?.glass.far_m ?? null,
    shiftX: camera?.glass.shift_x ?? 0,
    shiftY: camera?.glass.shift_y ?? 0,
    parallelHeight: camera?.glass.orthographic_height_m ?? null,
    by: camera?.id ?? null,
  };
}

/** Pixels of the delivery frame a metre, across and up, at a depth. */
export function pixelsPerMetre(sight: Sight, scene: SceneView, depth: number): [number, number] {
  if (sight.parallelHeight === null) return [sight.slopeX / depth, sight.slopeY / depth];
  const up = scene.height / sight.parallelHeight;
  return [up / scene.pixel_aspect, up];
}

/** Clip-space projection for a canvas of which `rect` is the delivery frame. */
export function projection(
  sight: Sight,
  scene: SceneView,
  rect: FrameRect,
  width: number,
  height: number,
): Matrix4 {
  const [x, y] = pixelsPerMetre(sight, scene, 1);
  const sx = (2 * x * (rect.width / scene.width)) / width;
  const sy = (2 * y * (rect.height / scene.height)) / height;
  const cx = (2 * (rect.x + rect.width * (0.5 + sight.shiftX))) / width - 1;
  const cy = 1 - (2 * (rect.y + rect.height * (0.5 - sight.shiftY))) / height;
  const near = Math.max(sight.near, NEAREST_DRAWN_M);
  const far = Math.max(sight.far ?? FARTHEST_M, near * 1.01);
  if (sight.parallelHeight !== null) {
    const [a, b] = [-2 / (far - near), -(far + near) / (far - near)];
    return new Matrix4().set(sx, 0, 0, cx, 0, sy, 0, cy, 0, 0, a, b, 0, 0, 0, 1);
  }
  const a = -(far + near) / (far - near);
  const b = (-2 * far * near) / (far - near);
  return new Matrix4().set(sx, 0, -cx, 0, 0, sy, -cy, 0, 0, 0, a, b, 0, 0, -1, 0);
}

/** A world point on the delivery frame, pixels; null where it is not in front. */
export function toScreen(point: Vector3, sight: Sight, scene: SceneView): OnScreen | null {
  const seen = point.clone().applyMatrix4(sight.world.clone().invert());
  const depth = -seen.z;
  if (depth <= sight.near) return null;
  const [x, y] = pixelsPerMetre(sight, scene, depth);
  return {
    x: scene.width * (0.5 + sight.shiftX) + seen.x * x,
    y: scene.height * (0.5 - sight.shiftY) - seen.y * y,
    depth,
  };
}

/** The line of sight through a pixel of the delivery frame: where it starts, and its unit direction. */
export function rayThrough(
  px: { x: number; y: number },
  sight: Sight,
  scene: SceneView,
): { from: Vector3; along: Vector3 } {
  const [x, y] = pixelsPerMetre(sight, scene, 1);
  const right = (px.x - scene.width * (0.5 + sight.shiftX)) / x;
  const up = (scene.height * (0.5 - sight.shiftY) - px.y) / y;
  const eye = new Vector3().setFromMatrixPosition(sight.world);
  if (sight.parallelHeight !== null)
    return {
      from: new Vector3(right, up, 0).applyMatrix4(sight.world),
      along: new Vector3(0, 0, -1).transformDirection(sight.world),
    };
  return { from: eye, along: new Vector3(right, up, -1).transformDirection(sight.world) };
}

/** A place on the canvas, CSS pixels, as a pixel of the delivery frame, and back. */
export function toFrame(at: { x: number; y: number }, rect: FrameRect, scene: SceneView) {
  return {
    x: ((at.x - rect.x) * scene.width) / rect.width,
    y: ((at.y - rect.y) * scene.height) / rect.height,
  };
}

export function onCanvas(px: { x: number; y: number }, rect: FrameRect, scene: SceneView): [number, number] {
  return [rect.x + (px.x * rect.width) / scene.width, rect.y + (px.y * rect.height) / scene.height];
}

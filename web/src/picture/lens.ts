/** The browser's projection, for drawing and picking: the same as the core's, in delivery-frame pixels. */
import { Matrix4, Vector3 } from "three";
import type { CameraPart, CameraView, SceneView } from "../api/generated";
import { type Pose, worldFromCamera } from "./pose";

/** How something is looked at: the camera's place and its lens, as pixels per slope on the delivery frame. */
export interface Sight {
  world: Matrix4;
  slopeX: number;
  slopeY: number;
  near: number;
}

/** Where the delivery frame lies on the canvas, CSS pixels. */
export interface FrameRect {
  x: number;
  y: number;
  width: number;
  height: number;
}

export function fittedFrame(width: number, height: number, aspect: number, margin: number): FrameRect {
  const room = { width: Math.max(10, width - 2 * margin), height: Math.max(10, height - 2 * margin) };
  const fitted = Math.min(room.width, room.height * aspect);
  const size = { width: fitted, height: fitted / aspect };
  return { x: (width - size.width) / 2, y: (height - size.height) / 2, ...size };
}

/** The sight of a baked camera on a row of the scene. */
export function bakedSight(path: CameraPart, row: number, near: number): Sight {
  return {
    world: new Matrix4().fromArray(path.world_from_camera as unknown as number[], row * 16),
    slopeX: path.pixels_per_slope[row * 2]!,
    slopeY: path.pixels_per_slope[row * 2 + 1]!,
    near,
  };
}

/** The pose of a baked camera on a row. */
export function bakedPose(path: CameraPart, row: number): Pose {
  const [x, y, z, pan, tilt, roll, focal_mm] = path.channels.subarray(
    row * 7,
    row * 7 + 7,
  ) as unknown as number[];
  return { x: x!, y: y!, z: z!, pan: pan!, tilt: tilt!, roll: roll!, focal_mm: focal_mm! };
}

/** The sight of a pose that is being moved by hand, on the film back of a camera. */
export function posedSight(
  pose: Pose,
  scene: SceneView,
  camera: Pick<CameraView, "back_width_mm" | "back_height_mm">,
): Sight {
  const aspect = (scene.width * scene.pixel_aspect) / scene.height;
  const wider = camera.back_width_mm / camera.back_height_mm > aspect;
  const usedHeight = wider ? camera.back_height_mm : camera.back_width_mm / aspect;
  const slopeY = (pose.focal_mm / usedHeight) * scene.height;
  return { world: worldFromCamera(pose), slopeX: slopeY / scene.pixel_aspect, slopeY, near: 0.01 };
}

/** Clip-space projection for a canvas of which `rect` is the delivery frame. */
export function projection(
  sight: Sight,
  scene: SceneView,
  rect: FrameRect,
  width: number,
  height: number,
): Matrix4 {
  const perX = rect.width / scene.width;
  const perY = rect.height / scene.height;
  const sx = (2 * sight.slopeX * perX) / width;
  const sy = (2 * sight.slopeY * perY) / height;
  const cx = (2 * (rect.x + rect.width / 2)) / width - 1;
  const cy = 1 - (2 * (rect.y + rect.height / 2)) / height;
  const near = Math.max(sight.near, 0.02);
  const far = 400;
  const a = -(far + near) / (far - near);
  const b = (-2 * far * near) / (far - near);
  return new Matrix4().set(sx, 0, -cx, 0, 0, sy, -cy, 0, 0, 0, a, b, 0, 0, -1, 0);
}

/** A world point on the delivery frame, pixels; null where it is not in front. */
export function toScreen(
  point: Vector3,
  sight: Sight,
  scene: SceneView,
): { x: number; y: number; depth: number } | null {
  const seen = point.clone().applyMatrix4(sight.world.clone().invert());
  if (-seen.z <= sight.near) return null;
  return {
    x: scene.width / 2 + (seen.x / -seen.z) * sight.slopeX,
    y: scene.height / 2 - (seen.y / -seen.z) * sight.slopeY,
    depth: -seen.z,
  };
}

/**
 * Camera poses in the browser, for gestures only: what is stored and measured comes from the server.
 * Right-handed, +Y up, metres, degrees: pan right, tilt up, roll clockwise as seen from behind the camera.
 */
import { Euler, Matrix4, Quaternion, Vector3 } from "three";
import type { CameraPose } from "../api/generated";

export type Pose = CameraPose;

const RADIANS = Math.PI / 180;
const STEEPEST_DEG = 89;
const LEAST_RETREAT_M = 0.3;

export function eulerOf(pose: Pose): Euler {
  return new Euler(pose.tilt * RADIANS, -pose.pan * RADIANS, -pose.roll * RADIANS, "YXZ");
}

export function rotationOf(pose: Pose): Quaternion {
  return new Quaternion().setFromEuler(eulerOf(pose));
}

export function worldFromCamera(pose: Pose): Matrix4 {
  return new Matrix4().compose(new Vector3(pose.x, pose.y, pose.z), rotationOf(pose), new Vector3(1, 1, 1));
}

/** Turn the whole camera around a pivot: `right` degrees to its right-hand side, `up` degrees upwards. */
export function orbited(pose: Pose, pivot: Vector3, right: number, up: number): Pose {
  const climb = Math.max(-STEEPEST_DEG - pose.tilt, Math.min(STEEPEST_DEG - pose.tilt, -up));
  const level = new Vector3(Math.cos(pose.pan * RADIANS), 0, Math.sin(pose.pan * RADIANS));
  const offset = new Vector3(pose.x, pose.y, pose.z).sub(pivot);
  offset.applyAxisAngle(level, climb * RADIANS).applyAxisAngle(new Vector3(0, 1, 0), right * RADIANS);
  const place = offset.add(pivot);
  return { ...pose, x: place.x, y: place.y, z: place.z, pan: pose.pan - right, tilt: pose.tilt + climb };
}

/** Slide in the plane of the picture, metres to the right and up. */
export function slid(pose: Pose, right: number, up: number): Pose {
  const move = new Vector3(right, up, 0).applyQuaternion(rotationOf(pose));
  return { ...pose, x: pose.x + move.x, y: pose.y + move.y, z: pose.z + move.z };
}

/** Move along the line of sight by a `share` of the way to the pivot (negative: back), never through it. */
export function movedIn(pose: Pose, pivot: Vector3, share: number): Pose {
  const forward = new Vector3(0, 0, -1).applyQuaternion(rotationOf(pose));
  const ahead = new Vector3().subVectors(pivot, new Vector3(pose.x, pose.y, pose.z)).dot(forward);
  // With the pivot behind there is nothing to run into: a metre is the measure.
  const depth = ahead > 0 ? ahead : 1;
  const step = share > 0 ? Math.min(share, 0.9) * depth : share * Math.max(depth, LEAST_RETREAT_M);
  return {
    ...pose,
    x: pose.x + forward.x * step,
    y: pose.y + forward.y * step,
    z: pose.z + forward.z * step,
  };
}

/** Go ahead and to the right, metres; on the ground at an eye height, or the way one looks. */
export function walked(pose: Pose, ahead: number, right: number, up: number, eyeHeight: number | null): Pose {
  const level = eyeHeight !== null;
  const forward = new Vector3(0, 0, -1).applyQuaternion(
    rotationOf(level ? { ...pose, tilt: 0, roll: 0 } : pose),
  );
  const side = new Vector3(Math.cos(pose.pan * RADIANS), 0, Math.sin(pose.pan * RADIANS));
  const place = new Vector3(pose.x, pose.y, pose.z)
    .addScaledVector(forward, ahead)
    .addScaledVector(side, right);
  return { ...pose, x: place.x, y: eyeHeight ?? place.y + up, z: place.z };
}

/** Turn on the spot: degrees to the right and up. */
export function turned(pose: Pose, right: number, up: number): Pose {
  const tilt = Math.max(-STEEPEST_DEG, Math.min(STEEPEST_DEG, pose.tilt + up));
  return { ...pose, pan: pose.pan + right, tilt };
}

/** A pose that looks at `target` from `distance` metres, from `azimuth` degrees to the left of `front`, `elevation` above. */
export function around(
  target: Vector3,
  front: readonly number[],
  azimuth: number,
  elevation: number,
  distance: number,
  focal: number,
): Pose {
  const heading = Math.atan2(front[0] ?? 0, front[2] ?? 1) + azimuth * RADIANS;
  const flat = Math.cos(elevation * RADIANS) * distance;
  const x = target.x + Math.sin(heading) * flat;
  const z = target.z + Math.cos(heading) * flat;
  return {
    x,
    y: target.y + Math.sin(elevation * RADIANS) * distance,
    z,
    // It looks back along the way it went: pan 0 looks along -Z.
    pan: -heading / RADIANS,
    tilt: -elevation,
    roll: 0,
    focal_mm: focal,
  };
}

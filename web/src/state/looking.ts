/** What is looked through: the cut, one camera, or the free view of Roam. */
import { Matrix4, Vector3 } from "three";
import type { CameraPart, MotionPart, RigPart, ShownPart } from "../api/generated";
import { shownJoints } from "./joints";
import { type Sight, bakedPose, posedSight } from "../optics/lens";
import { type Pose, around, eulerOf } from "../optics/pose";
import { refreshView } from "./shown";
import { cameraNamed, chosenCharacter, part, session, setSession, workedCamera } from "./session";

const SIDES = {
  front: [0, 4],
  left: [90, 4],
  right: [-90, 4],
  back: [180, 4],
  "three-quarter": [40, 14],
  above: [0, 89],
  below: [0, -80],
} as const;
export type Side = keyof typeof SIDES;
export const SIDE_NAMES = Object.keys(SIDES) as Side[];
/** Of the frame: how much of it a framed body or head takes, and a body that is seen from a side. */
const FRAMED_SHARE = { body: 0.8, head: 0.5, side: 0.73 };

/** Middle and radius, metres, of the chosen character as shown on this frame. */
export function subjectNow(): { middle: Vector3; radius: number } {
  const state = session();
  const character = chosenCharacter(state);
  const motion = part<MotionPart>(state, character?.motion);
  const shown = part<ShownPart>(state, character?.shown);
  const scene = state.scene;
  if (!motion || !shown || !scene) return { middle: new Vector3(0, 1, 0), radius: 1 };
  const row = (shown.exposure_start[state.frame - scene.first] ?? scene.first) - scene.first;
  const joints = motion.joints.length / (scene.last - scene.first + 1);
  const low = new Vector3(Infinity, Infinity, Infinity);
  const high = low.clone().negate();
  const point = new Vector3();
  for (let at = row * joints; at < (row + 1) * joints; at += 3) {
    point.fromArray(motion.joints, at);
    low.min(point);
    high.max(point);
  }
  return {
    middle: low.clone().add(high).multiplyScalar(0.5),
    radius: Math.max(0.1, low.distanceTo(high) / 2),
  };
}

/** Middle and radius of the chosen character's face on this frame, as shown. */
export function faceNow(): { middle: Vector3; radius: number } {
  const state = session();
  const character = chosenCharacter(state);
  const whole = subjectNow();
  const index = part<RigPart>(state, character?.rig)?.joints.indexOf(character?.face_joint ?? "") ?? -1;
  const place = index < 0 ? undefined : shownJoints(state)[index];
  return { middle: place ?? whole.middle, radius: character ? character.face_height_m / 2 : whole.radius };
}

/** What hands go round: the chosen joint, else the middle of the character. */
export function pivotNow(): Vector3 {
  const state = session();
  const index = state.joint
    ? (part<RigPart>(state, chosenCharacter(state)?.rig)?.joints.indexOf(state.joint) ?? -1)
    : -1;
  return (index < 0 ? undefined : shownJoints(state)[index]) ?? subjectNow().middle;
}

/** Where the camera that is worked on stands on this frame, as baked. */
export function workedPose(): Pose | null {
  return poseOf(workedCamera(session())?.path);
}

function poseOf(pathName: string | undefined): Pose | null {
  const state = session();
  const path = part<CameraPart>(state, pathName);
  return path && state.scene ? bakedPose(path, state.frame - state.scene.first) : null;
}

export function toggleRoam(): void {
  const { looking, roam, cameraId } = session();
  if (looking === "roam")
    setSession({ looking: cameraId && cameraNamed(session(), cameraId) ? "camera" : "cut" });
  else setSession({ looking: "roam", roam: roam ?? workedPose() });
  void refreshView();
}

/** Leave the camera where it is, and go on roaming from its place. */
export function roamFromHere(): void {
  const pose = workedPose();
  if (!pose) return;
  setSession({ looking: "roam", roam: pose });
  void refreshView();
}

/** Look through one camera, whatever the cut says. */
export function lookThrough(cameraId: string): void {
  if (!cameraNamed(session(), cameraId)) return;
  setSession({
    looking: "camera",
    cameraId,
    lastThrough: cameraId,
    thingId: null,
    provisional: null,
    comparing: null,
    chosenKeys: null,
  });
  void refreshView();
}

export function lookThroughCut(): void {
  setSession({ looking: "cut", cameraId: null, provisional: null, comparing: null, chosenKeys: null });
  void refreshView();
}

/** The camera in this place of the Bench, counted from 1. */
export function lookThroughNumber(number: number): void {
  const camera = session().scene?.cameras[number - 1];
  if (camera) lookThrough(camera.id);
}

/** The camera so many places on in the Bench, or the first one after the cut; round at its ends. */
export function lookThroughNext(by: 1 | -1): void {
  const state = session();
  const cameras = state.scene?.cameras ?? [];
  const here = state.looking === "camera" ? cameras.findIndex((c) => c.id === state.cameraId) : -1;
  const next = here < 0 ? (by > 0 ? 0 : cameras.length - 1) : (here + by + cameras.length) % cameras.length;
  if (cameras[next]) lookThrough(cameras[next].id);
}

/** The key that looks through the camera of this number; empty where there is none. */
export function numberKey(number: number): string {
  return number < 10 ? String(number) : number < 19 ? `Shift ${number - 9}` : "";
}

/** A pose that sees the chosen character from a side, its whole body in the frame. */
export function poseFrom(side: Side, focal: number): Pose {
  const { middle, radius } = subjectNow();
  const front = chosenCharacter(session())?.front ?? [0, 0, 1];
  const [azimuth, elevation] = SIDES[side];
  const distance = Math.max(0.5, distanceFilling(2 * radius, FRAMED_SHARE.side, focal));
  return around(middle, front, azimuth, elevation, distance, focal);
}

/** The same view, moved along its line of sight so that the body or the head fills the frame. */
export function poseFraming(what: "body" | "head", from: Pose): Pose {
  const { middle, radius } = what === "body" ? subjectNow() : faceNow();
  const distance = distanceFilling(2 * radius, FRAMED_SHARE[what], from.focal_mm);
  const back = new Vector3(0, 0, 1).transformDirection(new Matrix4().makeRotationFromEuler(eulerOf(from)));
  const place = middle.clone().addScaledVector(back, distance);
  return { ...from, x: place.x, y: place.y, z: place.z };
}

/** From how far a thing of this size (metres) takes a share of the frame, through the back that is looked through. */
function distanceFilling(size: number, share: number, focal: number): number {
  const scene = session().scene!;
  const { slopeX, slopeY } = handSight({ x: 0, y: 0, z: 0, pan: 0, tilt: 0, roll: 0, focal_mm: focal });
  return (size * Math.max(slopeX / scene.width, slopeY / scene.height)) / share;
}

/** How a pose in the hand sees: with the back of the camera that is looked through; in Roam with a full frame. */
export function handSight(pose: Pose): Sight {
  const state = session();
  return posedSight(pose, state.scene!, state.looking === "roam" ? null : workedCamera(state));
}

export function toggleFreeze(): void {
  const { frozenFrame, frame } = session();
  setSession({ frozenFrame: frozenFrame === null ? frame : null });
}

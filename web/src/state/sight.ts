/** How the Picture is looked at just now: a gesture first, then Roam, a camera, or the camera of the cut. */
import type { CameraPart, CameraView } from "../api/generated";
import { type Session, cameraNamed, cutCamera, part, workedCamera } from "./session";
import { blendAt, blendSight } from "./transitions";
import { type Sight, bakedSight, posedSight } from "../optics/lens";

type Seen = Pick<
  Session,
  "scene" | "parts" | "frame" | "looking" | "cameraId" | "roam" | "provisional" | "comparing"
>;

export function currentSight(state: Seen): Sight | null {
  const { scene } = state;
  if (!scene) return null;
  if (state.looking === "roam") return roamSight(state);
  const camera = workedCamera(state);
  if (camera && state.provisional) return posedSight(state.provisional, scene, camera);
  return state.looking === "cut" ? cutSight(state) : cameraSight(state, camera);
}

export function roamSight(state: Seen): Sight | null {
  return state.scene && state.roam ? posedSight(state.roam, state.scene, null) : cutSight(state);
}

/** The camera of the cut on this frame, or the move from one to the next, as baked. */
export function cutSight(state: Seen): Sight | null {
  const camera = cutCamera(state);
  const moving = blendAt(state, state.frame);
  return moving && camera ? blendSight(moving, camera) : cameraSight(state, camera);
}

/** A camera on this frame, as baked; at a saved view while two of them are compared. */
export function cameraSight(state: Seen, camera: CameraView | null): Sight | null {
  const { scene, comparing } = state;
  if (!scene || !camera) return null;
  const view =
    comparing?.cameraId === camera.id ? camera.views.find((v) => v.id === comparing.views[0]) : undefined;
  const path = part<CameraPart>(state, view?.path ?? camera.path);
  if (!path) return null;
  return bakedSight(path, Math.min(state.frame, scene.last) - scene.first, camera);
}

/** The path of the camera that is worked on. */
export function workedPath(state: Seen): CameraPart | null {
  return part<CameraPart>(state, workedCamera(state)?.path);
}

export function namedSight(state: Seen, cameraId: string | null): Sight | null {
  return cameraSight(state, cameraNamed(state, cameraId));
}

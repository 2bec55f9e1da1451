/** How the Picture is looked at just now: a gesture first, then Roam or the camera of the cut. */
import type { CameraPart } from "../api/generated";
import { type Session, cutCamera, part } from "../state/session";
import { type Sight, bakedSight, posedSight } from "./lens";

export function currentSight(state: Session): Sight | null {
  const { scene } = state;
  const camera = cutCamera(state);
  if (!scene || !camera) return null;
  if (state.looking === "roam" && state.roam) return posedSight(state.roam, scene, camera);
  if (state.looking === "cut" && state.provisional) return posedSight(state.provisional, scene, camera);
  return cutSight(state);
}

/** The camera of the cut on this frame, as baked. */
export function cutSight(state: Session): Sight | null {
  const { scene } = state;
  const camera = cutCamera(state);
  const path = part<CameraPart>(state, camera?.path);
  if (!scene || !camera || !path) return null;
  return bakedSight(path, Math.min(state.frame, scene.last) - scene.first, camera.near_m);
}

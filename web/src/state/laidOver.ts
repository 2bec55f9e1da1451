/** A second camera, its picture laid over the one that is looked at. */
import type { Sight } from "../optics/lens";
import { lookThrough } from "./looking";
import { refreshView } from "./shown";
import { namedSight } from "./sight";
import { type Session, cutCamera, notify, session, setSession, workedCamera } from "./session";

/** Of the second picture, to begin with. */
const HALF = 0.5;

/** Lay another camera over what is looked at, or none any more: first the one that was looked through, or the cut's. */
export function toggleLaidOver(): void {
  const state = session();
  if (state.laidOver) return layOver(null);
  const { scene, cameraId, looking } = state;
  if (!scene) return;
  if (looking === "roam")
    return notify(
      "Roam is your own view. Look through the cut (0) or a camera first, then lay another over it.",
    );
  const under = workedCamera(state)?.id;
  const wanted = [cutCamera(state)?.id, cameraId, ...scene.cameras.map(({ id }) => id)];
  const id = wanted.find((id) => id && id !== under);
  if (id) layOver(id);
  else notify("There is one camera: make another, and its picture can be laid over this one.");
}

export function layOver(cameraId: string | null): void {
  const share = session().laidOver?.share ?? HALF;
  setSession({ laidOver: cameraId === null ? null : { cameraId, share } });
  void refreshView();
}

/** Look through the one that lies over, and lay the one that was looked through over it. */
export function changePlaces(): void {
  const { laidOver } = session();
  const under = workedCamera(session());
  if (!laidOver || !under) return;
  setSession({ laidOver: { ...laidOver, cameraId: under.id } });
  lookThrough(laidOver.cameraId);
}

/** How the camera that lies over sees this frame. */
export function laidSight(state: Session): Sight | null {
  const { laidOver, looking } = state;
  return laidOver && looking !== "roam" ? namedSight(state, laidOver.cameraId) : null;
}

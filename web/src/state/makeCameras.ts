/** Cameras made in one action each; the new one is looked through. */
import type { Edit } from "../api/client";
import type { CameraView } from "../api/generated";
import { currentPose } from "./actions";
import { edit } from "./edits";
import { lookThrough, numberKey } from "./looking";
import { notify, session, setSession, useSession, workedCamera } from "./session";

/** Send an edit that makes a camera with this id, or (null) several, and look through the first of them once it is there. */
function making(
  id: string | null,
  change: Edit,
  told = (made: CameraView) => `${made.name} is made. Rename it on the Card.`,
): void {
  const before = new Set(session().scene?.cameras.map((c) => c.id));
  edit(change);
  const release = useSession.subscribe((state) => {
    const made = state.scene?.cameras.find((c) => (id === null ? !before.has(c.id) : c.id === id));
    if (!made && state.waiting) return;
    release();
    if (!made) return;
    setSession({ workStage: "set up" });
    lookThrough(made.id);
    notify(told(made));
  });
}

export function makeCameraHere(): void {
  const pose = currentPose();
  const id = crypto.randomUUID();
  if (pose) making(id, { edit: "make camera", camera_id: id, pose, frame: session().frame });
}

export function copyCamera(): void {
  const camera = workedCamera(session());
  const id = crypto.randomUUID();
  if (camera) making(id, { edit: "copy camera", camera_id: camera.id, new_id: id });
}

export function makeFaceCamera(characterId: string, turnsWithHead: boolean): void {
  const id = crypto.randomUUID();
  making(id, {
    edit: "make face camera",
    camera_id: id,
    character_id: characterId,
    frame: session().frame,
    turns_with_head: turnsWithHead,
  });
}

export function makePointOfView(characterId: string): void {
  const id = crypto.randomUUID();
  making(id, {
    edit: "make point of view",
    camera_id: id,
    character_id: characterId,
    frame: session().frame,
  });
}

export function makeOverTheShoulder(characterId: string, otherId: string): void {
  const id = crypto.randomUUID();
  making(id, {
    edit: "make over the shoulder",
    camera_id: id,
    character_id: characterId,
    other_id: otherId,
    frame: session().frame,
  });
}

export function makeTwoShot(characterId: string, otherId: string): void {
  const id = crypto.randomUUID();
  making(id, {
    edit: "make two-shot",
    camera_id: id,
    character_id: characterId,
    other_id: otherId,
    frame: session().frame,
  });
}

export function makeReviewSet(characterId: string, parallel: boolean): void {
  const camera_id = crypto.randomUUID();
  making(null, { edit: "make review set", camera_id, character_id: characterId, parallel }, (made) => {
    const cameras = session().scene!.cameras;
    const first = cameras.indexOf(made) + 1;
    return `${REVIEWS} are ${first} to ${cameras.length} of the Bench: ${numberKey(first)} looks through the first, J goes on.`;
  });
}

const REVIEWS = "Front, side, three-quarter and top";

/** What keys and buttons do to the scene, with the reason where it cannot be done. */
import type { CameraView, CharacterView, Stepping } from "../api/generated";
import type { Pose } from "../optics/pose";
import { edit } from "./edits";
import { workedPose } from "./looking";
import { chosenCharacter, notify, session, setSession, workedCamera } from "./session";

export type LockGroup = "place" | "angles" | "lens";
export const LOCK_GROUPS: LockGroup[] = ["place", "angles", "lens"];

/** Why a camera does not move when these groups are pushed; null where it may. */
export function whyLocked(camera: CameraView, pushed: LockGroup[] = []): string | null {
  if (camera.locked) return `“${camera.name}” is locked, so nothing moves it. Unlock it first (L).`;
  const group = pushed.find((g) => camera.locks.includes(g));
  if (!group) return null;
  const verb = group === "angles" ? "are" : "is";
  return `The ${group} of “${camera.name}” ${verb} locked. Unlock it first, on the Card.`;
}

function unlockedCamera(): CameraView | null {
  const camera = workedCamera(session());
  const why = camera && whyLocked(camera);
  if (why) notify(why, "warning");
  return why ? null : camera;
}

/** Where one looks from just now: Roam, a gesture, or the camera that is worked on. */
export function currentPose(): Pose | null {
  const state = session();
  return state.looking === "roam" ? state.roam : (state.provisional ?? workedPose());
}

export function setCameraKey(): void {
  const camera = unlockedCamera();
  const { frame } = session();
  if (!camera) return;
  edit({ edit: "set camera key", camera_id: camera.id, time: String(frame) });
  setSession({ chosenKeys: { times: [String(frame)], groups: null } });
  notify(`Key set on ${camera.name} at ${frame}.`);
}

export function toggleLock(): void {
  const camera = workedCamera(session());
  if (!camera) return;
  edit({ edit: "lock camera", camera_id: camera.id, locks: camera.locked ? [] : LOCK_GROUPS });
  notify(
    camera.locked ? `${camera.name} is unlocked: drag in the Picture to frame.` : `${camera.name} is locked.`,
  );
}

export function toggleLockGroup(camera: CameraView, group: LockGroup): void {
  const locks = camera.locks as LockGroup[];
  const after = locks.includes(group) ? locks.filter((g) => g !== group) : [...locks, group];
  edit({ edit: "lock camera", camera_id: camera.id, locks: after });
}

export function placeAtRoam(): void {
  const { roam, looking, cameraId } = session();
  if (!roam || looking !== "roam") {
    notify("Go to Roam first (R) and find the view you want.");
    return;
  }
  const camera = unlockedCamera();
  if (!camera) return;
  edit({ edit: "place camera", camera_id: camera.id, pose: roam, frame: session().frame });
  const free = camera.mount.kind === "free" && !camera.aim && !camera.framing;
  setSession({ looking: cameraId ? "camera" : "cut", provisional: free ? roam : null });
  const isOnKey = camera.keys.some((key) => key.time === String(session().frame));
  if (isOnKey || session().recording)
    notify(`The key of ${camera.name} on ${session().frame} is where Roam was.`);
  else
    notify(
      camera.keys.length
        ? `${camera.name} stands where Roam was, not keyed yet: K sets a key here, B puts it back.`
        : `${camera.name} stands where Roam was.`,
    );
}

export function putBack(): void {
  const camera = unlockedCamera();
  if (camera) edit({ edit: "put camera back", camera_id: camera.id });
}

/** Change some of how poses are held; `starts` where the character keeps a list of its own. */
export function setStep(change: Partial<Stepping>): void {
  const character = chosenCharacter(session());
  if (!character) return;
  const { step, offset, keep_key_poses, step_in_file_time: in_file_time } = character;
  const stepping = { step, offset, keep_key_poses, in_file_time, starts: null, ...change };
  edit({ edit: "step poses", character_id: character.id, stepping });
}

interface Riding {
  way: CharacterView["ride_way"];
  weight: number;
  plants: boolean;
}

/** Change some of how the chosen character rides; keys of its weight stay, or (not `keepsKeys`) it is the same throughout. */
export function setRide(change: Partial<Riding>, keepsKeys = true): void {
  const character = chosenCharacter(session());
  if (!character) return;
  const { ride_way: way, ride_weight: weight, ride_plants: plants, ride_anchor: anchor } = character;
  edit({
    edit: "ride",
    character_id: character.id,
    ride: { way, weight, plants, anchor, weights: null, ...change },
    keeps_keys: keepsKeys,
  });
}

/** Off, or on as it is offered: whole, its feet planted. */
export function toggleRide(): void {
  const character = chosenCharacter(session());
  if (character?.ride_way === "off") setRide({ way: "rigid", weight: 1, plants: character.feet.length > 0 });
  else setRide({ way: "off" });
}

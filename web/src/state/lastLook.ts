/** Which readings there were when they were last looked through, kept in this browser. */
import type { ReadingView, SinceRequest } from "../api/generated";

export interface Look {
  at: string;
  revision: number;
  seen: SinceRequest["seen"];
}

const nameOf = (sceneId: string) => `eddyfield.look.${sceneId}`;

export function lastLook(sceneId: string): Look | null {
  try {
    return JSON.parse(localStorage.getItem(nameOf(sceneId)) ?? "null") as Look | null;
  } catch {
    return null;
  }
}

export function lookedAt(sceneId: string, revision: number, readings: ReadingView[]): void {
  const seen = readings.map(
    ({ kind, subject, first, last, size, unit, threshold, character_id, camera_id, joint, remark }) => ({
      kind, subject, first, last, size, unit, threshold, character_id, camera_id, joint, remark,
    }), // prettier-ignore
  );
  const look: Look = { at: new Date().toISOString(), revision, seen };
  localStorage.setItem(nameOf(sceneId), JSON.stringify(look));
}

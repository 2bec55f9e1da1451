/** Which readings there were each time they were looked through, kept in this browser: the last ones of a scene. */
import type { ReadingView, SinceRequest } from "../api/generated";

export interface Look {
  at: string;
  revision: number;
  seen: NonNullable<SinceRequest["seen"]>;
}

const MOST_LOOKS = 10;
const nameOf = (sceneId: string) => `eddyfield.look.${sceneId}`;

/** The latest one first. */
export function looksOf(sceneId: string): Look[] {
  try {
    const kept = JSON.parse(localStorage.getItem(nameOf(sceneId)) ?? "[]") as Look[] | Look;
    return Array.isArray(kept) ? kept : [kept]; // there was only the last one once
  } catch {
    return [];
  }
}

export function lookedAt(sceneId: string, revision: number, readings: ReadingView[]): void {
  const seen = readings.map(
    ({ kind, subject, first, last, size, unit, threshold, character_id, camera_id, joint, remark }) => ({
      kind, subject, first, last, size, unit, threshold, character_id, camera_id, joint, remark,
    }), // prettier-ignore
  );
  const look: Look = { at: new Date().toISOString(), revision, seen };
  const looks = [look, ...looksOf(sceneId)].slice(0, MOST_LOOKS);
  localStorage.setItem(nameOf(sceneId), JSON.stringify(looks));
}

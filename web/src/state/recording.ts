/** Recording: while it is on, moving a camera sets keys, on what was moved alone. */
import type { Edit } from "../api/client";
import { notify, session, setSession } from "./session";

const MOVES = ["place camera", "set camera values", "reach with mount"] as const;
type Move = Extract<Edit, { edit: (typeof MOVES)[number] }>;

const isMove = (change: Edit): change is Move => (MOVES as readonly string[]).includes(change.edit);

let hasSaid = false;

export function toggleRecording(): void {
  const recording = !session().recording;
  hasSaid = false;
  setSession({ recording });
  notify(
    recording
      ? "Recording: every move of a camera sets keys on this frame. Alt K ends it."
      : "Recording has ended: a camera that is moved is keyed with K.",
  );
}

/** A move of a camera with the frame that it is made on, by which a key there changes; keyed while one records. */
export function asRecorded(change: Edit): Edit {
  const { frame, recording } = session();
  return isMove(change) ? { ...change, frame: change.frame ?? frame, records: recording } : change;
}

/** The first key that is set by moving says so, once in a sitting. */
export function tellRecorded(change: Edit): void {
  if (!isMove(change) || !change.records || hasSaid) return;
  hasSaid = true;
  notify(
    `Key set on ${change.frame} by moving the camera: you are recording. Alt K ends it, Ctrl Z takes it back.`,
  );
}

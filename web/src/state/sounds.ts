/** Sounds and marks: brought in, set, and lines found in them. */
import { findLines, upload } from "../api/client";
import type { SceneView, SoundFound } from "../api/generated";
import { edit } from "./edits";
import { report } from "./shown";
import { notify, session } from "./session";

export type SoundView = SceneView["sounds"][number];
export type Mark = SceneView["marks"][number];
export type MarkKind = Mark["kind"];

const HEARD = /\.(wav|ogg|flac|mp3)$/i;
const LARGEST_BYTES = 256 * 2 ** 20;

export const isSound = (file: File) => HEARD.test(file.name);

/** Each comes in on the playhead's frame. */
export async function bringSounds(files: File[]): Promise<void> {
  for (const file of files) {
    if (file.size > LARGEST_BYTES) {
      notify(`“${file.name}” is larger than 256 MB. Make an Ogg or MP3 of it.`, "warning");
      continue;
    }
    try {
      const job = upload<SoundFound>(
        [file],
        (share) => notify(`${file.name}: ${Math.round(share * 100)} %`),
        "/api/sounds",
      );
      const found = await job.done;
      const name = found.file_name.replace(/\.\w+$/, "");
      const { frame } = session();
      edit({ edit: "bring sound", sound_id: crypto.randomUUID(), name, digest: found.digest, start: frame });
      notify(`“${name}” is heard from ${frame} on, ${found.seconds.toFixed(1)} s.`);
    } catch (error) {
      report(error);
    }
  }
}

export function setSound({ sound }: SoundView, changes: Partial<SoundView["sound"]>): void {
  const { id, name, start, first_s, last_s, gain_db, muted } = { ...sound, ...changes };
  edit({ edit: "set sound", sound_id: id, name, start, first_s, last_s, gain_db, muted });
}

/** A mark at the playhead, also while it plays. */
export function markHere(kind: MarkKind): void {
  const { frame, scene } = session();
  if (scene?.marks.some((mark) => mark.frame === frame && mark.kind === kind)) {
    edit({ edit: "unmark frame", frame, kind });
    return notify(`The mark “${kind}” on ${frame} is gone.`);
  }
  edit({ edit: "mark frames", marks: [{ frame, kind, text: "" }] });
  notify(`Marked: ${kind} on ${frame}.`);
}

/** Marks where somebody begins to speak and where that ends; null where the server could not say. */
export async function linesOf(
  sound: SoundView,
  thresholdDb: number,
  silenceS: number,
): Promise<Mark[] | null> {
  try {
    return (await findLines(session().scene!.id, sound.sound.id, thresholdDb, silenceS)).marks;
  } catch (error) {
    report(error);
    return null;
  }
}

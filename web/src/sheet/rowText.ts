/** A row of the Sheet in words, for who does not see it. */
import { READING_TITLES, SEEN_CHANGE_PX } from "../api/tables";
import type { ArcJudgementPart, ArcPart, ChangedPart, ShownPart, StrobingPart } from "../api/generated";
import { part } from "../state/session";
import type { SheetView } from "./drawSheet";

type Columns = Pick<SheetView, "scene" | "parts" | "character" | "camera" | "joint">;

/** What every column says of a frame. */
export function rowText({ scene, parts, character, camera, joint }: Columns, frame: number): string {
  const row = frame - scene.first;
  const entry = scene.cut.find((e) => e.first <= frame && frame <= e.last);
  const shot = scene.cameras.find((c) => c.id === entry?.camera_id);
  const key = camera?.keys.find((k) => Math.round(k.frame) === frame);
  return [
    `frame ${frame}`,
    shot && (scene.cut.length > 1 ? `cut, shot ${entry!.title}: ${shot.name}` : `cut: ${shot.name}`),
    scene.cut.length > 1 && entry?.first === frame && "a shot begins",
    character &&
      `${character.name}: ${poseText(part<ShownPart>({ parts }, character.shown), scene.first, row)}`,
    key && `key of ${camera!.name}, ${key.shape}`,
    joint && spacingText(part<ArcPart>({ parts }, scene.arc), joint, row),
    joint && sharesText(part<ArcPart>({ parts }, scene.arc), row),
    faultText(part<ArcJudgementPart>({ parts }, scene.arc_judgement), frame),
    changedText(part<ChangedPart>({ parts }, character?.changed), row),
    slipText(part<StrobingPart>({ parts }, character?.strobing), row),
  ]
    .filter(Boolean)
    .join("; ");
}

function poseText(shown: ShownPart | null, first: number, row: number): string {
  const start = shown?.exposure_start[row];
  if (!shown || start === undefined) return "not known";
  if (start !== first + row) return `holds the pose of ${start}`;
  return Array.from(shown.key_poses, Math.round).includes(start) ? "key pose" : "new pose";
}

function spacingText(arc: ArcPart | null, joint: string, row: number): string | null {
  const spacing = arc?.spacing_px[row];
  return spacing === undefined || Number.isNaN(spacing) ? null : `${joint} moves ${spacing.toFixed(1)} px`;
}

function sharesText(arc: ArcPart | null, row: number): string | null {
  const [subject, camera] = [arc?.subject_px[row] ?? NaN, arc?.camera_px[row] ?? NaN];
  if (Number.isNaN(subject) || Number.isNaN(camera)) return null;
  return `of which the subject's ${subject.toFixed(1)}, the camera's ${camera.toFixed(1)}`;
}

function faultText(judgement: ArcJudgementPart | null, frame: number): string | null {
  const fault = judgement?.faults.find((f) => f.frame === frame);
  return fault ? `${READING_TITLES[fault.kind]} ${Math.abs(fault.size_px).toFixed(1)} px` : null;
}

function changedText(changed: ChangedPart | null, row: number): string | null {
  const px = changed?.px[row] ?? NaN;
  return px > SEEN_CHANGE_PX ? `${px.toFixed(1)} px from the version before` : null;
}

function slipText(strobing: StrobingPart | null, row: number): string | null {
  const slip = strobing?.slip_px[row];
  if (slip === undefined) return null;
  return Number.isNaN(slip) ? "slip unseen" : `slips ${slip.toFixed(1)} px`;
}

/** Mounts as the interface changes them: their settings, another kind with the picture kept, a rail laid in one action. */
import type { CameraPart, CameraView, Subject } from "../../../api/generated";
import { edit } from "../../../state/edits";
import { chosenCharacter, notify, session } from "../../../state/session";
import { bodySubject, jointSubject, likelySubject } from "../../../state/subjects";

export type Mount = CameraView["mount"];
export type Kind = Mount["kind"];
export type Of<K extends Kind> = Extract<Mount, { kind: K }>;
export type Attachment = Of<"carried"> | Of<"trailing">;

export interface SettingsProps {
  camera: CameraView;
  path: CameraPart;
  row: number;
  locked: boolean;
}

/** Change the mount: to another kind with the picture kept, or its settings. */
export function mount(camera: CameraView, changed: Mount, keep: boolean): void {
  edit({ edit: "mount camera", camera_id: camera.id, mount: changed, frame: session().frame, keep });
}

export function lay(
  camera: CameraView,
  shape: "straight" | "ring" | "square" | "beside the path",
  side: number | null = null,
): void {
  const character = chosenCharacter(session());
  edit({
    edit: "lay rail",
    camera_id: camera.id,
    shape,
    frame: session().frame,
    character_id: character?.id ?? null,
    side_m: side,
  });
}

export function toKind(camera: CameraView, path: CameraPart, kind: Kind): void {
  const { frame, scene } = session();
  const character = chosenCharacter(session());
  const row = frame - scene!.first;
  const [x, y, z, pan] = [0, 1, 2, 3].map((i) => path.pose[row * 7 + i]!) as [number, number, number, number];
  const carrier = likelySubject();
  if (kind === "free") mount(camera, { kind: "free" }, true);
  else if (kind === "rail") lay(camera, "straight");
  else if (kind === "crane") {
    // The base three metres behind where the camera looks from, on the ground.
    const turn = (pan * Math.PI) / 180;
    const base: [number, number, number] = [x - 3 * Math.sin(turn), 0.9, z + 3 * Math.cos(turn)];
    mount(camera, { kind: "crane", base, heading: pan, follow_pitch: false, follow_yaw: false }, true);
  } else if (kind === "orbit") {
    const pivot: Subject = character
      ? jointSubject(character.id, character.calm_joint)
      : { ...bodySubject(""), kind: "point", owner_id: null, offset: [x, y, z - 3] };
    mount(camera, { kind: "orbit", pivot, follows: "motion" }, true);
  } else if (camera.mount.kind === "carried" || camera.mount.kind === "trailing") {
    const { subject, through, follows } = camera.mount;
    mount(camera, { ...attachment(kind, subject), through, follows }, true);
  } else if (!carrier) notify("There is nothing to carry it. Bring in a character first.");
  else mount(camera, attachment(kind, carrier), true);
}

export function attachment(kind: "carried" | "trailing", subject: Subject): Attachment {
  const base = {
    subject: {
      ...subject,
      offset: [0, 0, 0] as [number, number, number],
      axes: "world" as const,
      radius_m: 0,
    },
    through: [true, true, true, true, true, true] as Attachment["through"],
    place: [0, 0, 0] as [number, number, number],
    turn: [0, 0, 0, 1] as [number, number, number, number],
    heading: 0,
    follows: "motion" as const,
  };
  return kind === "carried" ? { ...base, kind } : { ...base, kind, half_life_s: 0.25 };
}

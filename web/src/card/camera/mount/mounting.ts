/** Mounts as the interface changes them. */
import type { CameraPart, CameraView } from "../../../api/generated";
import { edit } from "../../../state/edits";
import { notify, session, setSession } from "../../../state/session";
import { likelySubject } from "../../../state/subjects";

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

/** Have a camera carried by another kind of mount: as it left that one before, or (`afresh`) begun where it stands. */
export function carry(camera: CameraView, kind: Kind, afresh = false): void {
  edit({
    edit: "carry camera",
    camera_id: camera.id,
    mount: kind,
    frame: session().frame,
    subject: afresh ? null : likelySubject(),
    afresh,
  });
}

/** Wait for a stroke on the Plan, along which a rail is laid. */
export function drawRail(camera: CameraView): void {
  setSession({ drawingRail: camera.id, largePlan: true });
  notify("Draw the rail on the Plan, in one stroke; Esc leaves it.");
}

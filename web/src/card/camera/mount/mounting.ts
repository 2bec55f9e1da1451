/** Mounts as the interface changes them. */
import type { CameraPart, CameraView } from "../../../api/generated";
import { edit } from "../../../state/edits";
import { session } from "../../../state/session";

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

/** Where a camera stands on this frame, metres, and its pan, degrees. */
export function poseNow(path: CameraPart): { x: number; y: number; z: number; pan: number } {
  const { frame, scene } = session();
  const at = (frame - scene!.first) * 7;
  const [x, y, z, pan] = [...path.pose.subarray(at, at + 4)] as [number, number, number, number];
  return { x, y, z, pan };
}

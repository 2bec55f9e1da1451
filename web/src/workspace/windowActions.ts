/** What keys do to the window as a whole. */
import { endPicking } from "../picture/gestures";
import { edit } from "../state/edits";
import { setFullPicture } from "./fullScreen";
import { session, setSession, workedCamera } from "../state/session";

/** Leave what is open. */
export function leave() {
  endPicking();
  setFullPicture(false);
  setSession({
    magnify: false,
    chosenKeys: null,
    notice: null,
    comparing: null,
    matching: null,
    laidOver: null,
    trying: null,
    measuring: null,
    largePlan: false,
    drawingRail: null,
  });
}

/** Keep how the camera that is worked on stands now. */
export function saveView() {
  const camera = workedCamera(session());
  const { frame } = session();
  if (!camera) return;
  edit({
    edit: "save view",
    camera_id: camera.id,
    view_id: crypto.randomUUID(),
    name: `View at ${frame}`,
    time: String(frame),
  });
}

/** Through what a correction is made, which is exact in that picture. */
import type { Edit } from "../api/client";
import type { ArcPart } from "../api/generated";
import { type Session, notify, part, session, useSession, workedCamera } from "./session";

export const MOST_CORRECTION_FADES = 48;
const SEEN_PX = 0.5;

/** The camera's id, null through the cut; undefined where nothing can be corrected: in Roam, or of an arc that is not as it is
 * seen. */
export function correctingCamera(state: Session): string | null | undefined {
  const { looking, frozenFrame, looks } = state;
  if (looking === "roam" || frozenFrame !== null || looks.relativeTo || looks.camera !== "moves")
    return undefined;
  return looking === "cut" ? null : (workedCamera(state)?.id ?? undefined);
}

/** Bones keep their length: where a joint that is pushed does not come all the way, that is said once its arc is drawn anew. */
export function tellHowFar(change: Edit): void {
  if (change.edit !== "correct joint") return;
  const { scene, joint, frame } = session();
  const before = part<ArcPart>(session(), scene?.arc);
  if (!scene || !before || joint !== change.joint || frame !== change.on_frame) return;
  const row = frame - scene.first;
  const [right, down] = change.shift_px;
  const end = useSession.subscribe((now) => {
    const arc = part<ArcPart>(now, now.scene?.arc);
    if (now.scene?.id !== scene.id || now.joint !== joint) return end();
    if (now.scene.revision === scene.revision || !arc || arc === before) return;
    end();
    const left = Math.hypot(
      arc.pixels[2 * row]! - before.pixels[2 * row]! - right,
      arc.pixels[2 * row + 1]! - before.pixels[2 * row + 1]! - down,
    );
    if (left > SEEN_PX)
      notify(
        `${joint} stays ${left.toFixed(1)} px short: bones keep their length, and these reach no farther.`,
      );
  });
}

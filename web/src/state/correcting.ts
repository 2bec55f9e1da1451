/** Through what a correction is made, which is exact in that picture. */
import { type Session, workedCamera } from "./session";

export const MOST_CORRECTION_FADES = 48;

/** The camera's id, null through the cut; undefined where nothing can be corrected: in Roam, or of an arc that is not as it is
 * seen. */
export function correctingCamera(state: Session): string | null | undefined {
  const { looking, frozenFrame, looks } = state;
  if (looking === "roam" || frozenFrame !== null || looks.relativeTo || looks.camera !== "moves")
    return undefined;
  return looking === "cut" ? null : (workedCamera(state)?.id ?? undefined);
}

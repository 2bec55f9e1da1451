/** What of the motion is shown in the Picture, kept from one visit to the next. */
import type { View } from "../api/generated";

export const MOST_ALSO = 8;
export const MOST_ONION = 4;
/** Frames before and after the playhead; 0 shows all. */
export const REACHES = [0, 24, 12, 6];
export type OnionBy = "new poses" | "frames" | "key poses";
export const ONION_BY: OnionBy[] = ["new poses", "frames", "key poses"];

export interface JudgingLooks {
  /** Joints whose arcs stay beside that of the chosen one. */
  alsoArcs: NonNullable<View["also"]>;
  /** Arcs are drawn as seen from this joint, whose own arc stays too; null: as the picture has them. */
  relativeTo: NonNullable<View["also"]>[number] | null;
  /** Of how many frames before and after the playhead arcs are drawn, fading; 0: of all. */
  arcReach: number;
  /** Arcs are drawn thicker where they are faster. */
  arcBySpeed: boolean;
  /** The strip beside the Sheet's frames: the spacing as a whole, or the subject's share of it over the camera's. */
  strip: "spacing" | "shares";
  /** Held poses are seen twice: where they are, and where they stood in the picture when they were new. */
  echo: boolean;
  /** Through hips, chest and head of the chosen character. */
  actionLine: boolean;
  /** Frames before and after a joint that is pushed, over which that is blended. */
  correctionFades: number;
  onionCount: number;
  onionBy: OnionBy;
  /** What plays: all; the subject's part, the camera held still on a frame; or the camera's, everybody held still on it. */
  camera: "moves" | "held still" | "alone";
  heldFrame: number;
}

export const FRESH_LOOKS: JudgingLooks = {
  alsoArcs: [],
  relativeTo: null,
  arcReach: 0,
  arcBySpeed: false,
  strip: "spacing",
  actionLine: false,
  echo: false,
  correctionFades: 3,
  onionCount: 1,
  onionBy: "new poses",
  camera: "moves",
  heldFrame: 0,
};

/** How a camera's lines are drawn, everywhere: one of three blues, and one of six patterns, so that colour is never the only sign. */
import type { CameraView } from "../api/generated";

export const TINTS = ["--blue", "--blue-slate", "--blue-deep"] as const;
/** Dashes of a line, in pixels. */
export const DASHES = ["", "7 4", "2 3", "10 3 2 3", "5 2 5 6", "1 5"] as const;
export const PATTERN_NAMES = ["slanted", "level", "dotted", "upright", "leaning", "crossed"] as const;
export type Pattern = (typeof PATTERN_NAMES)[number];

type Lines = Pick<CameraView, "tint" | "pattern">;

export const tintOf = (camera: Lines): string => `var(${TINTS[camera.tint % TINTS.length]})`;
export const tokenOf = (camera: Lines): string => TINTS[camera.tint % TINTS.length]!;
export const dashesOf = (camera: Lines): string => DASHES[camera.pattern % DASHES.length]!;
export const patternOf = (camera: Lines): Pattern => PATTERN_NAMES[camera.pattern % PATTERN_NAMES.length]!;

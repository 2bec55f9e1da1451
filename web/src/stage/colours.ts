/** Colours of the stage: what is seen in pictures of the scene, the same in every theme. */
export const SKY = "#d9dccd";
export const PAPER_GROUND = "#d6d1c4";
export const GRID = { axes: "#9d968a", lines: "#bdb6a8" };
/** Around pictures that stand beside each other. */
export const SURROUND = "#7a7a7a";
/** Soft contact shade under feet. */
export const SHADE = "#1d2426";
/** Poses before and after the one that is shown. */
export const GHOSTS = { before: "#8c2c1b", after: "#2e2f33" };
/** Where a held pose stood in the picture when it was new. */
export const ECHO = "#b8731a";
/** Another version of the performance. */
export const BESIDE = "#2e2f33";
/** What is out of focus before and behind what is sharp. */
export const OUT_OF_FOCUS = { before: "#2a65a5", behind: "#b8731a" };
/** What form is shown in, without looks. */
export const CLAY = "#b9b2a6";
/** Outlines alone. */
export const SILHOUETTE = "#2e2f33";
/** A plain body, in proportion to light. */
export const PLAIN_BODY = [0.47, 0.29, 0.22] as const;
/** Light from above, from the ground, and from the sun. */
export const LIGHT = { sky: "#fffaf0", ground: "#aaa697", sun: "#fff1da" };

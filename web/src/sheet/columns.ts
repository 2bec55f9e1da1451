/** Where the columns of the Sheet are, px from its left edge. */
export const SHEET_WIDTH = 336;
/** Left edges of the columns. */
export const COLUMNS = { frame: 0, cut: 48, exposures: 92, camera: 134, spacing: 172, slip: 268 };
/** The curves are in the place of spacing and slip. */
export const CURVES = { left: COLUMNS.spacing + 4, width: SHEET_WIDTH - COLUMNS.spacing - 22 };

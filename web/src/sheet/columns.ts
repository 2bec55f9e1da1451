/** Where the columns of the Sheet are, px from its left edge. */
export const SHEET_WIDTH = 336;
/** Left edges of the columns. */
export const COLUMNS = { frame: 0, cut: 48, exposures: 92, camera: 134, spacing: 172, slip: 268 };
/** Where the keys of all groups are drawn. */
export const KEYS_MIDDLE = COLUMNS.camera + 12;
/** The curves are in the place of spacing and slip. */
export const CURVES = { left: COLUMNS.spacing + 4, width: SHEET_WIDTH - COLUMNS.spacing - 22 };

/** In a narrower column a name does not lie, and its head stands. */
const LYING_HEAD_PX = 44;

const groupWidth = (count: number) => (SHEET_WIDTH - COLUMNS.spacing - 14) / Math.max(1, count);
export const headsStand = (count: number): boolean => groupWidth(count) < LYING_HEAD_PX;

/** A column a group of keys, in the place of spacing and slip. */
export function groupColumns<Group>(groups: Group[]): { group: Group; left: number; middle: number }[] {
  const width = groupWidth(groups.length);
  return groups.map((group, index) => {
    const left = COLUMNS.spacing + 4 + index * width;
    return { group, left, middle: left + width / 2 };
  });
}

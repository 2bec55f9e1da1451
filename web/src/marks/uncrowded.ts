/** Names beside things that are drawn, without one lying over another or over what can be taken hold of. */

export interface Name {
  id: string;
  text: string;
  /** What it names, in the drawing; null where that is not in sight. */
  at: [number, number] | null;
  /** Shown in any case, where it covers least. */
  always?: boolean;
}

interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

const LABEL = { letter: 6.4, height: 15, ascent: 11 };
const HANDLE_REACH = 8;
/** Where a name may stand, from the middle of what it names: a direction, and how far. */
const AWAY = [12, 24];
const SIDES: [number, number][] = [
  [1, -1],
  [-1, -1],
  [1, 1],
  [-1, 1],
  [0, -1.4],
  [0, 1.6],
];

/** Where each name begins (x) and stands (y), cut where it is wider than the drawing; those that find no free place are left
 * out. `taken` are middles of handles; names stay within `width` and `height`. */
export function uncrowded(
  names: Name[],
  taken: [number, number][] = [],
  width = Infinity,
  height = Infinity,
): { id: string; text: string; x: number; y: number }[] {
  const covered: Box[] = taken.map(([x, y]) => ({
    x: x - HANDLE_REACH,
    y: y - HANDLE_REACH,
    width: 2 * HANDLE_REACH,
    height: 2 * HANDLE_REACH,
  }));
  const placed: { id: string; text: string; x: number; y: number }[] = [];
  const most = Math.max(1, Math.floor((width - 6) / LABEL.letter));
  for (const { id, text: whole, at, always } of names) {
    if (!at) continue;
    const text = whole.length > most ? `${whole.slice(0, most - 1)}…` : whole;
    const choices = AWAY.flatMap((far) => SIDES.map((side) => boxBeside(at, text, side, far)))
      .map((box) => (always ? broughtInside(box, width, height) : box))
      .filter((box) => isInside(box, width, height))
      .map((box) => ({ box, over: covered.filter((other) => overlaps(box, other)).length }));
    const best = choices.reduce<(typeof choices)[number] | null>(
      (least, choice) => (least === null || choice.over < least.over ? choice : least),
      null,
    );
    if (!best || (best.over > 0 && !always)) continue;
    covered.push(best.box);
    placed.push({ id, text, x: best.box.x, y: best.box.y + LABEL.ascent });
  }
  return placed;
}

function boxBeside(
  [x, y]: [number, number],
  text: string,
  [right, down]: [number, number],
  far: number,
): Box {
  const width = text.length * LABEL.letter;
  const left = right > 0 ? x + far - 2 : right < 0 ? x - far + 2 - width : x - width / 2;
  return { x: left, y: y + down * far - LABEL.height / 2, width, height: LABEL.height };
}

function broughtInside(box: Box, width: number, height: number): Box {
  if (width === Infinity) return box;
  return {
    ...box,
    x: Math.max(2, Math.min(box.x, width - 2 - box.width)),
    y: Math.max(0, Math.min(box.y, height - box.height)),
  };
}

function isInside(box: Box, width: number, height: number): boolean {
  return (
    width === Infinity ||
    (box.x >= 2 && box.x + box.width <= width - 2 && box.y >= 0 && box.y + box.height <= height)
  );
}

function overlaps(a: Box, b: Box): boolean {
  return a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}

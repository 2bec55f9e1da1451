/** Stretches of frames on which something is not there: first and last of each, in order. */
export type Span = [number, number];

/** The stretches once the frames from one to another are hidden, or there again. */
export function hiddenWith(hidden: Span[], from: number, to: number, isHidden: boolean): Span[] {
  if (to < from) return hidden;
  const kept = hidden.flatMap(([first, last]): Span[] => {
    const before: Span[] = first < from ? [[first, Math.min(last, from - 1)]] : [];
    const after: Span[] = last > to ? [[Math.max(first, to + 1), last]] : [];
    return [...before, ...after];
  });
  if (!isHidden) return kept;
  const all = [...kept, [from, to] as Span].sort((a, b) => a[0] - b[0]);
  return all.reduce<Span[]>((joined, [first, last]) => {
    const before = joined.at(-1);
    if (!before || first > before[1] + 1) return [...joined, [first, last]];
    return [...joined.slice(0, -1), [before[0], Math.max(before[1], last)]];
  }, []);
}

/** The stretches once the edge at a frame has been dragged to another: the first frame of one, or the first after it. */
export function edgeDragged(hidden: Span[], edge: number, to: number): Span[] {
  const begins = hidden.some(([first]) => first === edge);
  const [from, until] = to < edge ? [to, edge - 1] : [edge, to - 1];
  return hiddenWith(hidden, from, until, begins === to < edge);
}

/** The frames, edges of stretches among them, on which something comes or goes. */
export const edgesOf = (hidden: Span[]): number[] => hidden.flatMap(([first, last]) => [first, last + 1]);

import {
  type Span,
  edgeDragged,
  edgesOf,
  hiddenWith,
} from "@/state/hiddenSpans";

const there = (hidden: Span[]) =>
  Array.from({ length: 20 }, (_, frame) =>
    hidden.some(([a, b]) => a <= frame && frame <= b) ? "." : "X",
  ).join("");
const HIDDEN: Span[] = [
  [3, 5],
  [10, 12],
];

test.each<[string, Span[]]>([
  ["nothing changes where nothing is chosen", hiddenWith(HIDDEN, 9, 8, true)],
  ["XXX...XXXX...XXXXXXX", hiddenWith(HIDDEN, 30, 40, true)],
  ["XXX..........XXXXXXX", hiddenWith(HIDDEN, 5, 11, true)],
  ["XXX...X......XXXXXXX", hiddenWith(HIDDEN, 7, 9, true)],
  ["XXX.XXXXXXX..XXXXXXX", hiddenWith(HIDDEN, 4, 10, false)],
  ["XXXXXXXXXXXXXXXXXXXX", hiddenWith(HIDDEN, 0, 19, false)],
])("%s", (shown, hidden) => {
  if (shown.includes("X")) expect(there(hidden)).toBe(shown);
  else expect(hidden).toEqual(HIDDEN);
  for (const [index, [first, last]] of hidden.entries()) {
    expect(last).toBeGreaterThanOrEqual(first);
    if (index) expect(first).toBeGreaterThan(hidden[index - 1]![1] + 1);
  }
});

test("an edge is dragged both ways, over others as well, and a stretch goes when its edges meet", () => {
  expect(there(edgeDragged(HIDDEN, 3, 1))).toBe("X.....XXXX...XXXXXXX");
  expect(there(edgeDragged(HIDDEN, 6, 8))).toBe("XXX.....XX...XXXXXXX");
  expect(there(edgeDragged(HIDDEN, 10, 4))).toBe("XXX..........XXXXXXX");
  expect(edgeDragged(HIDDEN, 13, 10)).toEqual([[3, 5]]);
  expect(edgesOf(HIDDEN)).toEqual([3, 6, 10, 13]);
});

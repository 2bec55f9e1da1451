/** Names on the Plan keep clear of each other, and the one that matters is shown. */
import { uncrowded } from "@/marks/uncrowded";

test("names keep clear of each other, of handles and of the edge", () => {
  const at = (text: string, eye: [number, number] | null) => ({
    id: text,
    text,
    at: eye,
  });
  const names = [
    at("Bank rail 35", [100, 100]),
    at("Crane up 28", [140, 104]),
    at("Face Oda 85", [140, 130]),
    at("unseen", null),
    at("Wide 24", [310, 100]),
  ];
  const handles: [number, number][] = [
    [112, 92],
    [130, 92],
    [100, 120],
  ];
  const placed = uncrowded(names, handles, 320, 200);
  expect(placed.map((p) => p.id)).not.toContain("unseen");
  const boxes = placed.map(({ text, x, y }) => ({
    left: x,
    right: x + text.length * 6.4,
    top: y - 11,
    low: y + 4,
  }));
  for (const [index, box] of boxes.entries()) {
    expect(box.left).toBeGreaterThanOrEqual(0);
    expect(box.right).toBeLessThanOrEqual(320);
    for (const other of boxes.slice(index + 1))
      expect(
        box.right <= other.left ||
          other.right <= box.left ||
          box.low <= other.top ||
          other.low <= box.top,
      ).toBe(true);
    for (const [x, y] of handles)
      expect(
        box.right <= x - 8 ||
          x + 8 <= box.left ||
          box.low <= y - 8 ||
          y + 8 <= box.top,
      ).toBe(true);
  }
});

test("the name of what is worked on is shown however crowded it is", () => {
  const handles = Array.from({ length: 200 }, (_, i): [number, number] => [
    (i % 20) * 10,
    Math.floor(i / 20) * 10,
  ]);
  const name = {
    id: "a",
    text: "Bank rail 35",
    at: [100, 50] as [number, number],
  };
  expect(uncrowded([name], handles, 200, 100)).toEqual([]);
  expect(
    uncrowded([{ ...name, always: true }], handles, 200, 100),
  ).toHaveLength(1);
});

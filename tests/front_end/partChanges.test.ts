import { changedBy, isChange } from "../../web/src/api/partChanges";

const base = {
  kind: "camera",
  pose: new Float32Array([1, 2, 3, 4, 5, 6]),
  keyed: { x: { times: ["1", "2", "3"] }, y: { times: ["1"] } },
  rail_length_m: 2,
};
const splice = (
  path: string[],
  at: number | null,
  removed: number,
  items: unknown,
) => ({ path, at, removed, items });
const change = (...splices: ReturnType<typeof splice>[]) => ({
  kind: "change",
  base: "it",
  splices,
});

test("rows of numbers and lists are put together anew, and the base stays as it is", () => {
  const made = changedBy(
    base,
    change(
      splice(["pose"], 2, 2, new Float32Array([30, 40, 45])),
      splice(["keyed", "x", "times"], 1, 1, ["3/2", "2"]),
      splice(["rail_length_m"], null, 0, 3),
    ),
  )!;
  expect([...made.pose]).toEqual([1, 2, 30, 40, 45, 5, 6]);
  expect(made.pose).toBeInstanceOf(Float32Array);
  expect(made.keyed).toEqual({
    x: { times: ["1", "3/2", "2", "3"] },
    y: { times: ["1"] },
  });
  expect(made.keyed.y).toBe(base.keyed.y);
  expect(made.rail_length_m).toBe(3);
  expect([...base.pose]).toEqual([1, 2, 3, 4, 5, 6]);
});

test("without its base a change makes nothing, and other parts are none", () => {
  expect(changedBy(undefined, change())).toBeNull();
  expect(isChange(change())).toBe(true);
  expect(isChange(base)).toBe(false);
});

/** What is drawn of the motion: names that do not lie over each other, tracks as seen from another, legs that are bent, holds. */
import type { ArcPart } from "@/api/generated";
import { bentJoints, bentSkin } from "@/optics/bent";
import { spineOf } from "@/picture/ActionLine";
import { apart, relative } from "@/picture/Arcs";
import { holdsText } from "@/state/exposing";

const RECT = { x: 0, y: 0, width: 600, height: 300 };
const IDENTITY = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
const moved = (x: number, y: number, z: number) => [
  ...IDENTITY.slice(0, 12),
  x,
  y,
  z,
  1,
];

test("names of arcs that end in one place stand below each other", () => {
  const ends = ["hand_r", "hand_l", "lantern"].map((text) => ({
    text,
    place: [300, 100] as [number, number],
  }));
  const placed = apart(ends, RECT);
  expect(placed.map(({ text }) => text)).toEqual([
    "hand_r",
    "hand_l",
    "lantern",
  ]);
  const heights = placed.map(({ y }) => y).sort((a, b) => a - b);
  expect(heights[1]! - heights[0]!).toBeGreaterThan(12);
  expect(heights[2]! - heights[1]!).toBeGreaterThan(12);
  expect(apart([{ text: "far", place: [599, 2] }], RECT)[0]!.x).toBeLessThan(
    580,
  );
});

test("a track as seen from another stands still where that does", () => {
  const track = { pixels: new Float32Array([10, 0, 20, 5, 30, 9]) } as ArcPart;
  const from = { pixels: new Float32Array([1, 1, 11, 6, 21, 10]) } as ArcPart;
  expect([...relative(track, from, 1).pixels]).toEqual([20, 5, 20, 5, 20, 5]);
  expect([...relative(track, from, 1).pixels.slice(2, 4)]).toEqual([20, 5]);
});

test("of a leg that is bent the slots and joints of its groups move, and no others", () => {
  const shown = {
    group_of_slot: new Int32Array([-1, 1]),
    group_of_joint: new Int32Array([0, -1]),
    // Two rows of two groups.
    bent: new Float32Array([
      ...moved(0, 0, 0),
      ...moved(1, 0, 0),
      ...moved(0, 2, 0),
      ...moved(0, 0, 3),
    ]),
    carried: new Float32Array([...IDENTITY, ...IDENTITY]),
  };
  const skin = new Float32Array([...IDENTITY, ...moved(5, 5, 5)]);
  expect([...bentSkin(skin, shown, 1).slice(28, 31)]).toEqual([5, 5, 8]);
  expect([...bentSkin(skin, shown, 1).slice(0, 16)]).toEqual(IDENTITY);
  expect([
    ...bentJoints(new Float32Array([1, 1, 1, 2, 2, 2]), shown, 1),
  ]).toEqual([1, 3, 1, 2, 2, 2]);
  const plain = { ...shown, bent: new Float32Array() };
  expect(bentSkin(skin, plain, 1)).toBe(skin);
});

test("the line of action goes up from the hips to the head", () => {
  const rig = {
    joints: ["hips", "spine", "head", "hand"],
    joint_parents: [-1, 0, 1, 1],
  };
  expect(spineOf(rig as never, "hips", "head")).toEqual([0, 1, 2]);
  expect(spineOf(rig as never, "nowhere", "head")).toEqual([0, 1, 2]);
});

test("holds are counted as an animator says it", () => {
  expect(holdsText([1, 2, 4, 6], 8)).toBe("1 on ones, 2 on twos, 1 on threes");
  expect(holdsText([1, 12], 21)).toBe("1 on 10, 1 on 11");
});

/** Gestures on camera poses, and the browser's projection against numbers that the core's conventions give. */
import { Vector3 } from "three";
import {
  type FrameRect,
  fittedFrame,
  posedSight,
  projection,
  toScreen,
} from "@/optics/lens";
import {
  type Pose,
  around,
  movedIn,
  orbited,
  rotationOf,
  slid,
  turned,
  worldFromCamera,
} from "@/optics/pose";
import { cameraView, sceneView } from "./scenery";

const level: Pose = {
  x: 0,
  y: 1,
  z: 5,
  pan: 0,
  tilt: 0,
  roll: 0,
  focal_mm: 35,
};
const pivot = new Vector3(0, 1, 0);
const back = cameraView();

function looks(pose: Pose): number[] {
  return new Vector3(0, 0, -1).applyQuaternion(rotationOf(pose)).toArray();
}

function near(found: number[], expected: number[], digits = 6) {
  found.forEach((value, index) =>
    expect(value).toBeCloseTo(expected[index]!, digits),
  );
}

describe("conventions", () => {
  test("pan turns right, tilt looks up", () => {
    near(looks({ ...level, pan: 90 }), [1, 0, 0]);
    near(looks({ ...level, tilt: 90 }), [0, 1, 0]);
    near(looks({ ...level, pan: 90, tilt: 45 }), [
      Math.SQRT1_2,
      Math.SQRT1_2,
      0,
    ]);
  });

  test("roll leans the camera clockwise as seen from behind", () => {
    const right = new Vector3(1, 0, 0).applyQuaternion(
      rotationOf({ ...level, roll: 90 }),
    );
    near(right.toArray(), [0, -1, 0]);
  });

  test("the order is pan, then tilt, then roll", () => {
    const pose = { ...level, pan: 30, tilt: 20, roll: 10 };
    const byHand = new Vector3(0.3, 0.5, -0.8)
      .applyAxisAngle(new Vector3(0, 0, 1), (-10 * Math.PI) / 180)
      .applyAxisAngle(new Vector3(1, 0, 0), (20 * Math.PI) / 180)
      .applyAxisAngle(new Vector3(0, 1, 0), (-30 * Math.PI) / 180);
    near(
      new Vector3(0.3, 0.5, -0.8).applyQuaternion(rotationOf(pose)).toArray(),
      byHand.toArray(),
    );
  });
});

describe("orbiting", () => {
  test.each([
    [40, 0],
    [-170, 0],
    [0, 30],
    [25, -35],
  ])("by %d and %d keeps the pivot where it is in the picture", (right, up) => {
    const start = { ...level, pan: 8, tilt: -3, x: 0.4 };
    const scene = sceneView();
    const before = toScreen(pivot, posedSight(start, scene, back), scene)!;
    const after = toScreen(
      pivot,
      posedSight(orbited(start, pivot, right, up), scene, back),
      scene,
    )!;
    near(
      [after.x, after.y, after.depth],
      [before.x, before.y, before.depth],
      4,
    );
  });

  test("never goes over the top", () => {
    const high = orbited(level, pivot, 0, -500);
    const low = orbited(level, pivot, 0, 500);
    expect(Math.abs(high.tilt)).toBeLessThanOrEqual(89);
    expect(Math.abs(low.tilt)).toBeLessThanOrEqual(89);
  });

  test("there and back is where it began", () => {
    const there = orbited(level, pivot, 33, 12);
    const home = orbited(there, pivot, -33, -12);
    near([home.x, home.y, home.z, home.pan, home.tilt], [0, 1, 5, 0, 0]);
  });
});

describe("moving", () => {
  test("slides in the plane of the picture", () => {
    const moved = slid({ ...level, pan: 90 }, 1, 0.5);
    near([moved.x, moved.y, moved.z], [0, 1.5, 6]);
  });

  test("moves in towards the pivot and never through it", () => {
    near([movedIn(level, pivot, 0.5).z], [2.5]);
    near([movedIn(level, pivot, -1).z], [10]);
    let pose = level;
    for (let n = 0; n < 50; n++) pose = movedIn(pose, pivot, 1);
    expect(pose.z).toBeGreaterThanOrEqual(0);
    expect(movedIn(level, pivot, 5).z).toBeGreaterThan(0);
    expect(movedIn(pose, pivot, -1).z).toBeGreaterThan(0.2);
    expect(movedIn({ ...level, pan: 180 }, pivot, 0.5).z).toBeCloseTo(5.5);
  });

  test("turns on the spot", () => {
    const pose = turned(level, 30, 200);
    expect([pose.x, pose.y, pose.z, pose.pan, pose.tilt]).toEqual([
      0, 1, 5, 30, 89,
    ]);
  });
});

describe("quick views", () => {
  test.each([
    ["in front", 0, [0, 0, 1]],
    ["to its left", 90, [1, 0, 0]],
    ["behind", 180, [0, 0, -1]],
  ])("%s, looking at the middle", (_, azimuth, side) => {
    const pose = around(pivot, [0, 0, 1], azimuth as number, 10, 4, 35);
    const toward = new Vector3(pose.x, pose.y, pose.z).sub(pivot);
    expect(toward.length()).toBeCloseTo(4);
    near(looks(pose), toward.clone().normalize().negate().toArray());
    near(
      [toward.x, toward.z].map((v) => v / Math.hypot(toward.x, toward.z)),
      [side[0]!, side[2]!] as number[],
      5,
    );
  });

  test("follow a character that faces another way", () => {
    const pose = around(pivot, [1, 0, 0], 0, 0, 3, 35);
    near([pose.x, pose.y, pose.z], [3, 1, 0]);
  });
});

describe("projection", () => {
  test("is the core's: 35 mm on a back 36 wide, 1920 pixels across", () => {
    const scene = sceneView();
    const sight = posedSight(level, scene, back);
    const perSlope = (35 / 36) * 1920;
    const seen = toScreen(new Vector3(1, 1.5, 0), sight, scene)!;
    near(
      [seen.x, seen.y, seen.depth],
      [960 + perSlope / 5, 540 - (perSlope * 0.5) / 5, 5],
      4,
    );
    expect(toScreen(new Vector3(0, 1, 6), sight, scene)).toBeNull();
  });

  test("crops a back that is wider than the frame by its height", () => {
    const scene = sceneView({ width: 1000, height: 1000 });
    expect(posedSight(level, scene, back).slopeY).toBeCloseTo((35 / 24) * 1000);
    const squeezed = sceneView({ width: 500, height: 1000, pixel_aspect: 2 });
    expect(posedSight(level, squeezed, back).slopeX).toBeCloseTo(
      ((35 / 24) * 1000) / 2,
    );
  });

  test("puts the delivery frame where it lies on the canvas", () => {
    const scene = sceneView();
    const sight = posedSight({ ...level, pan: 20, tilt: -10 }, scene, back);
    const rect: FrameRect = { x: 40, y: 70, width: 640, height: 360 };
    const matrix = projection(sight, scene, rect, 800, 500);
    const point = new Vector3(0.7, 0.2, -1);
    const seen = toScreen(point, sight, scene)!;
    const clip = point
      .clone()
      .applyMatrix4(worldFromCamera({ ...level, pan: 20, tilt: -10 }).invert())
      .applyMatrix4(matrix);
    near(
      [((clip.x + 1) / 2) * 800, ((1 - clip.y) / 2) * 500],
      [40 + seen.x / 3, 70 + seen.y / 3],
      4,
    );
  });

  test.each([
    [680, 394, 16 / 9],
    [680, 394, 9 / 16],
    [200, 900, 2.39],
  ])("fits the frame into %d x %d", (width, height, aspect) => {
    const rect = fittedFrame(width, height, aspect, 12);
    expect(rect.width / rect.height).toBeCloseTo(aspect);
    expect(rect.x).toBeGreaterThanOrEqual(12 - 1e-9);
    expect(rect.y).toBeGreaterThanOrEqual(12 - 1e-9);
    expect(rect.x * 2 + rect.width).toBeCloseTo(width);
  });
});

/** The browser's projection: against the formulas written out, and its ways there and back against each other. */
import { Matrix4, Vector3, Vector4 } from "three";
import {
  type Sight,
  fittedFrame,
  onCanvas,
  posedSight,
  projection,
  rayThrough,
  toFrame,
  toScreen,
  usedBack,
} from "@/optics/lens";
import type { FilmBack, Glass } from "@/api/generated";
import { onPlane } from "@/marks/CameraBodies";
import { cameraView, sceneView } from "./scenery";
import ofTheCore from "../core/projected_by_the_core.json";

const scene = sceneView();
const pose = {
  x: 1,
  y: 1.5,
  z: 6,
  pan: 20,
  tilt: -8,
  roll: 5,
  focal_mm: 35,
};
const points = [
  new Vector3(0, 1, 0),
  new Vector3(-1, 0.2, -2),
  new Vector3(2, 2.5, 1),
];

function sightOf(
  glass: Partial<Glass> = {},
  back: Partial<FilmBack> = {},
  of = scene,
): Sight {
  const camera = cameraView();
  return posedSight(pose, of, {
    back: { ...camera.back, ...back },
    glass: { ...camera.glass, ...glass },
  });
}

test.each([
  ["crop", 16 / 9, 36, 20.25],
  ["reach", 16 / 9, 42.667, 24],
  ["width", 1, 36, 36],
  ["height", 1, 24, 24],
  ["crop", 0.5625, 13.5, 24],
] as const)(
  "the back that a gate uses: %s at %f",
  (gate, aspect, width, height) => {
    const used = usedBack(
      { width_mm: 36, height_mm: 24, gate, squeeze: 1 },
      aspect,
    );
    expect(used.width).toBeCloseTo(width, 2);
    expect(used.height).toBeCloseTo(height, 2);
  },
);

test("a squeeze widens the back", () => {
  const used = usedBack(
    { width_mm: 24, height_mm: 18, gate: "width", squeeze: 2 },
    2.39,
  );
  expect(used.width).toBe(48);
});

test("points land where the formula says, with a shift and pixels that are not square", () => {
  const wide = { ...scene, pixel_aspect: 1.5 };
  const sight = sightOf({ shift_x: 0.1, shift_y: -0.2 }, {}, wide);
  const back = usedBack(cameraView().back, (1920 * 1.5) / 1080);
  for (const point of points) {
    const local = point.clone().applyMatrix4(sight.world.clone().invert());
    const found = toScreen(point, sight, wide)!;
    const slope = [local.x / -local.z, local.y / -local.z] as const;
    expect(found.x).toBeCloseTo(
      960 + 0.1 * 1920 + slope[0] * (35 / back.width) * 1920,
      6,
    );
    expect(found.y).toBeCloseTo(
      540 + 0.2 * 1080 - slope[1] * (35 / back.height) * 1080,
      6,
    );
  }
});

test("what lies before the near plane is not on the screen", () => {
  const near = sightOf({ near_m: 5 });
  const close = new Vector3(0, 0, -4.9).applyMatrix4(near.world);
  expect(toScreen(close, near, scene)).toBeNull();
  expect(
    toScreen(new Vector3(0, 0, -5.1).applyMatrix4(near.world), near, scene)!
      .depth,
  ).toBeCloseTo(5.1);
});

test("a parallel view keeps sizes at any depth", () => {
  const sight = sightOf({ orthographic_height_m: 3 });
  const at = (x: number, depth: number) =>
    toScreen(
      new Vector3(x, 0, -depth).applyMatrix4(sight.world),
      sight,
      scene,
    )!;
  expect(at(1, 2).x - at(0, 2).x).toBeCloseTo(360);
  expect(at(1, 9).x - at(0, 9).x).toBeCloseTo(360);
});

test.each([{}, { shift_x: 0.3 }, { orthographic_height_m: 4 }, { far_m: 30 }])(
  "the graphics' projection agrees with the picking: %o",
  (glass) => {
    const sight = sightOf(glass);
    const rect = fittedFrame(680, 372, 16 / 9, 12);
    const matrix = projection(sight, scene, rect, 680, 372);
    for (const point of points) {
      const local = point.clone().applyMatrix4(sight.world.clone().invert());
      const clip = new Vector4(local.x, local.y, local.z, 1).applyMatrix4(
        matrix,
      );
      const seen = [
        ((clip.x / clip.w + 1) / 2) * 680,
        ((1 - clip.y / clip.w) / 2) * 372,
      ];
      const found = onCanvas(toScreen(point, sight, scene)!, rect, scene);
      expect(found[0]).toBeCloseTo(seen[0]!, 6);
      expect(found[1]).toBeCloseTo(seen[1]!, 6);
      expect(Math.abs(clip.z / clip.w)).toBeLessThan(1);
    }
  },
);

test.each([{}, { shift_y: 0.25 }, { orthographic_height_m: 4 }])(
  "a line of sight leads back to its point: %o",
  (glass) => {
    const sight = sightOf(glass);
    for (const point of points) {
      const seen = toScreen(point, sight, scene)!;
      const { from, along } = rayThrough(seen, sight, scene);
      const away = point.clone().sub(from).cross(along).length();
      expect(away).toBeLessThan(1e-9);
      expect(along.length()).toBeCloseTo(1);
    }
  },
);

test("a place on the canvas and its pixel lead to each other", () => {
  const rect = fittedFrame(700, 300, 2, 10);
  expect(rect).toEqual({ x: 70, y: 10, width: 560, height: 280 });
  const px = toFrame({ x: 123, y: 77 }, rect, scene);
  const [x, y] = onCanvas(px, rect, scene);
  expect(x).toBeCloseTo(123);
  expect(y).toBeCloseTo(77);
});

test("a handle is dragged in its level plane, and lifted in an upright one", () => {
  const sight = sightOf();
  const from = new Vector3(0.4, 0.8, -1);
  const to = new Vector3(-0.9, 0.8, -1.6);
  const level = onPlane(
    toScreen(to, sight, scene)!,
    from,
    false,
    sight,
    scene,
  )!;
  expect(level.distanceTo(to)).toBeLessThan(1e-9);
  const up = onPlane(
    toScreen(new Vector3(0.4, 1.9, -1), sight, scene)!,
    from,
    true,
    sight,
    scene,
  )!;
  expect(up.x).toBe(0.4);
  expect(up.z).toBe(-1);
  expect(up.y).toBeCloseTo(1.9, 6);
  const above = { x: 960, y: -4000 };
  expect(onPlane(above, from, false, sight, scene)).toBeNull();
});

test("a camera that looks along its own -Z sees ahead", () => {
  const sight = posedSight(
    { ...pose, x: 0, y: 0, z: 0, pan: 90, tilt: 0, roll: 0 },
    scene,
    null,
  );
  const ahead = toScreen(new Vector3(5, 0, 0), sight, scene)!;
  expect(ahead.x).toBeCloseTo(960);
  expect(ahead.depth).toBeCloseTo(5);
  expect(new Matrix4().copy(sight.world).determinant()).toBeCloseTo(1);
});

describe("the core and the browser see the same", () => {
  const cases = ofTheCore.map((one) => ({
    ...one,
    of: { ...scene, ...one.scene },
    back: one.back as FilmBack,
  }));
  test("points land on the same pixels, or are not seen by either", () => {
    for (const { pose, of, back, glass, points, pixels } of cases) {
      const sight = posedSight(pose, of, { back, glass });
      points.forEach((point, index) => {
        const found = toScreen(new Vector3(...point), sight, of);
        const told = pixels[index];
        if (!told) expect(found).toBeNull();
        else {
          expect(Math.abs(found!.x - told[0]!)).toBeLessThan(1e-3);
          expect(Math.abs(found!.y - told[1]!)).toBeLessThan(1e-3);
        }
      });
    }
  });

  test("and are drawn there", () => {
    const [width, height] = [700, 420];
    for (const { pose, of, back, glass, points, pixels } of cases) {
      const sight = posedSight(pose, of, { back, glass });
      const aspect = (of.width * of.pixel_aspect) / of.height;
      const rect = fittedFrame(width, height, aspect, 12);
      const drawn = projection(sight, of, rect, width, height).multiply(
        sight.world.clone().invert(),
      );
      points.forEach((point, index) => {
        const told = pixels[index];
        if (!told) return;
        const clip = new Vector4(...point, 1).applyMatrix4(drawn);
        const at = {
          x: ((clip.x / clip.w + 1) / 2) * width,
          y: ((1 - clip.y / clip.w) / 2) * height,
        };
        const frame = toFrame(at, rect, of);
        expect(frame.x).toBeCloseTo(told[0]!, 1);
        expect(frame.y).toBeCloseTo(told[1]!, 1);
      });
    }
  });
});

/** Curves in the Sheet: fitted to their column, drawn as the core has them, and in words. */
import {
  acrossOf,
  chosenCurve,
  curveText,
  handlesOf,
  type Keys,
  sampled,
  scaleOf,
  traceCurve,
  valueAt,
} from "@/sheet/curves";
import { KEY_SHAPES } from "@/api/tables";
import type { Part } from "@/api/part";
import { cameraView } from "./scenery";

const shape = (name: (typeof KEY_SHAPES)[number]) => KEY_SHAPES.indexOf(name);

/** Keys on 1001, 1010 and 1020: a curve, then a line or whatever else. */
function keys(
  second: (typeof KEY_SHAPES)[number] = "linear",
  values = [0, 3, 1],
): Keys {
  return {
    times: ["1001", "1010", "1020"],
    frames: new Float64Array([1001, 1010, 1020]),
    values: new Float64Array(values),
    shapes: new Uint8Array([shape("ease"), shape(second), shape("ease")]),
    handles: new Float64Array([
      NaN,
      NaN,
      3,
      2,
      4,
      -0.5,
      3,
      0,
      2,
      0.25,
      NaN,
      NaN,
    ]),
  } as unknown as Keys;
}

test("a scale holds the keys and where their curves swing, with some room", () => {
  const scale = scaleOf(keys(), 100, 112);
  // From 0 (the first key) to 3 (the second), the handles lie between.
  expect(acrossOf(scale, 0)).toBeCloseTo(106);
  expect(acrossOf(scale, 3)).toBeCloseTo(206);
  for (const value of [-1, 0, 1.7, 3])
    expect(valueAt(scale, acrossOf(scale, value))).toBeCloseTo(value);
  const still = scaleOf(keys("linear", [5, 5, 5]), 0, 100);
  expect(still.most).toBeGreaterThan(still.least);
});

test("handles are how the curve arrives and leaves, none at the ends", () => {
  expect(handlesOf(keys(), 0)).toEqual({
    arriving: null,
    leaving: { frames: 3, value: 2 },
  });
  expect(handlesOf(keys(), 1).arriving).toEqual({ frames: 4, value: -0.5 });
  expect(handlesOf(keys(), 2).leaving).toBeNull();
});

class Pen {
  did: (string | number)[][] = [];
  beginPath = () => {};
  stroke = () => {};
  moveTo = (...at: number[]) => this.did.push(["move", ...at]);
  lineTo = (...at: number[]) => this.did.push(["line", ...at]);
  bezierCurveTo = (...at: number[]) => this.did.push(["curve", ...at]);
}

const drawn = (of: Keys) => {
  const pen = new Pen();
  const scale = { least: 0, most: 10, left: 0, width: 10 }; // a px a unit
  traceCurve(
    pen as unknown as CanvasRenderingContext2D,
    of,
    scale,
    (frame) => frame - 1001,
  );
  return pen.did;
};

test("each segment is drawn by the shape of the key that it begins at", () => {
  expect(drawn(keys())).toEqual([
    ["move", 0, 0],
    ["curve", 2, 3, 2.5, 5, 3, 9],
    ["line", 1, 19],
  ]);
  expect(drawn(keys("hold")).slice(2)).toEqual([
    ["line", 3, 19],
    ["line", 1, 19],
  ]);
  expect(drawn(keys("smooth"))[2]).toEqual(["curve", 3, 12, 1.25, 17, 1, 19]);
});

test("the curve that is worked on is the chosen one, else the first that changes", () => {
  const camera = cameraView({ channels: "channels 1" });
  const keyed = { x: keys("linear", [2, 2, 2]), pan: keys(), tilt: keys() };
  const parts = new Map<string, Part>([
    ["channels 1", { kind: "channels", keyed } as unknown as Part],
  ]);
  expect(chosenCurve(parts, camera, null)?.[0]).toBe("pan");
  expect(chosenCurve(parts, camera, "tilt")?.[0]).toBe("tilt");
  expect(chosenCurve(parts, camera, "roll")?.[0]).toBe("pan");
  expect(chosenCurve(new Map(), camera, null)).toBeNull();
});

test("value and speed are told in the unit of the channel, only where they are its own", () => {
  const pose = Float32Array.from({ length: 3 * 7 }, (_, at) =>
    at % 7 === 3 ? 10 + 2 * Math.floor(at / 7) : 0,
  );
  const path = {
    kind: "camera",
    pose,
    values: { rail: new Float32Array([0, 0.1, 0.2]) },
  } as unknown as Part;
  const parts = new Map<string, Part>([["camera 1", path]]);
  const free = cameraView();
  expect(curveText("pan", sampled(parts, free, "pan"), 1, 24)).toBe(
    "12°  48°/s",
  );
  expect(
    sampled(
      parts,
      { ...free, mount: { kind: "crane" } as typeof free.mount },
      "pan",
    ),
  ).toBeNull();
  expect(curveText("rail", sampled(parts, free, "rail"), 0, 10)).toBe("0  1/s");
  expect(curveText("pan", null, 0, 24)).toBe("");
});

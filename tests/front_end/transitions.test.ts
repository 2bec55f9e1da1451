/** One shot that takes over from another, as it is seen. */
import { mixAt, mixText } from "@/state/transitions";
import { CAMERA, sceneView, shot } from "./scenery";

const transition = {
  kind: "dissolve",
  frames: 4,
  before: 1,
  ease: "even",
  colour: "#000000",
} as const;
const later = {
  ...shot(1049, 1096, "b"),
  transition,
  mix: {
    entry: 1,
    first: 1048,
    last: 1051,
    transition,
    shares: [0.2, 0.4, 0.6, 0.8],
  },
};
const scene = sceneView({ cut: [shot(1001, 1048, CAMERA), later] });

test.each([
  [1047, null],
  [1048, 0.2],
  [1051, 0.8],
  [1052, null],
])("on %i the later shot has %s", (frame, share) => {
  const mix = mixAt(scene, frame);
  expect(mix?.share ?? null).toBe(share);
  if (mix)
    expect([mix.from.camera_id, mix.to.camera_id]).toEqual([CAMERA, "b"]);
});

test("the caption counts its frames", () => {
  expect(mixText(mixAt(scene, 1049)!)).toBe("dissolve 2 of 4");
});

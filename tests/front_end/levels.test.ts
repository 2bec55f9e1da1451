/** Which surface of a heavy rig is drawn: by how large its cells are in the picture, and by whether frames have to be dropped. */
import { Matrix4, PerspectiveCamera } from "three";
import type { RigPart } from "@/api/generated";
import { Levels } from "@/stage/levels";
import { PlayingDetail } from "@/stage/playingDetail";

const TRIANGLE = {
  positions: new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]),
  normals: new Float32Array([0, 0, 1, 0, 0, 1, 0, 0, 1]),
  colors: new Float32Array(9),
  slots: new Uint16Array(12),
  weights: new Float32Array([1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]),
  triangles: new Uint32Array([0, 1, 2]),
  uvs: new Float32Array(),
  mesh_parts: [],
  shapes: [],
};
const RIG = {
  ...TRIANGLE,
  slot_count: 2,
  levels: [0.01, 0.02, 0.04].map((cell_m) => ({ ...TRIANGLE, cell_m })),
} as unknown as RigPart;
const SKIN = new Float32Array([
  ...new Matrix4().elements,
  ...new Matrix4().elements,
]);
const HEIGHT_PX = 1000;

/** A camera that shows `perMetre` px of a metre where the triangle's middle is. */
function camera(perMetre: number): PerspectiveCamera {
  const camera = new PerspectiveCamera(90, 1, 0.01, 1000);
  camera.position.z = HEIGHT_PX / 2 / perMetre;
  camera.updateMatrixWorld();
  camera.updateProjectionMatrix();
  return camera;
}

describe("levels", () => {
  const levels = new Levels(RIG);
  const fitting = (perMetre: number, most: number, carried = new Matrix4()) =>
    levels.fitting(SKIN, carried, camera(perMetre), HEIGHT_PX, most);

  it("takes the coarsest whose cells are small enough in the picture", () => {
    expect(
      [25, 49, 51, 99, 101, 201].map((perMetre) => fitting(perMetre, 2)),
    ).toEqual([3, 3, 2, 2, 1, 0]);
    expect(fitting(100, 8), "what may be coarser is").toBe(3);
  });

  it("goes by the size that it was placed at, and by where it is carried", () => {
    expect(fitting(100, 2.1)).toBe(2);
    expect(fitting(100, 2.1, new Matrix4().makeScale(2, 2, 2))).toBe(1);
    expect(
      fitting(100, 2.1, new Matrix4().makeTranslation(0, 0, 2.5)),
      "half as far",
    ).toBe(1);
  });

  it("stays full where all of it is behind", () => {
    expect(fitting(100, 2, new Matrix4().makeTranslation(0, 0, 50))).toBe(0);
  });

  it("makes each surface once", () => {
    expect(levels.surface(2)).toBe(levels.surface(2));
    expect(levels.surface(0)).not.toBe(levels.surface(2));
  });
});

describe("detail while it plays", () => {
  it("is full until frames are dropped, then coarser step by step, and full when it stands", () => {
    const detail = new PlayingDetail();
    const seen = [0, 3, 4, 7, 8, 12, 40].map((dropped) =>
      detail.mostPx(true, dropped),
    );
    expect(seen).toEqual([0, 0, 2, 2, 4, 6, 6]);
    expect(detail.mostPx(false, 40)).toBe(0);
    expect(
      detail.mostPx(true, 0),
      "what this machine needs is remembered",
    ).toBe(6);
  });
});

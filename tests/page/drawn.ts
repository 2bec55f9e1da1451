/** What the renderer was asked to draw last: the camera, and every figure that can be seen, by its size and its matrices. */
import type { Camera, Object3D, Scene, SkinnedMesh } from "three";

let last: { world: Scene; camera: Camera } | null = null;

export class NotedRenderer {
  autoClear = false;
  debug = {};
  private target: unknown = null;
  readonly domElement: HTMLCanvasElement;

  constructor({ canvas }: { canvas: HTMLCanvasElement }) {
    this.domElement = canvas;
  }
  render(world: Scene, camera: Camera) {
    // A fullscreen pass has one mesh and no background.
    if (this.target === null || world.background) last = { world, camera };
  }
  setRenderTarget(target: unknown) {
    this.target = target;
  }
  getPixelRatio = () => 1;
  getContext = () => null;
  getClearColor = <T>(colour: T) => colour;
  getClearAlpha = () => 1;
  getRenderTarget = () => this.target;
  setPixelRatio() {}
  setSize() {}
  setScissorTest() {}
  setScissor() {}
  setViewport() {}
  setClearColor() {}
  clear() {}
  compile() {}
  dispose() {}
}

/** Numbers of what is drawn: projection and place of the camera first, then each figure by its name. */
export type Drawn = Map<string, number[]>;

export function drawn(): Drawn {
  if (!last) throw new Error("Nothing has been drawn yet.");
  const { world, camera } = last;
  const out: Drawn = new Map([
    ["lens", [...camera.projectionMatrix.elements]],
    ["place", [...camera.matrixWorld.elements]],
  ]);
  const visit = (object: Object3D, way: string) => {
    if (!object.visible) return;
    const mesh = object as SkinnedMesh;
    if (mesh.isMesh) {
      object.updateWorldMatrix(true, false);
      const bones = mesh.isSkinnedMesh ? mesh.skeleton.boneMatrices : null;
      mesh.geometry.boundingBox ?? mesh.geometry.computeBoundingBox();
      const { min, max } = mesh.geometry.boundingBox!;
      out.set(way, [
        ...object.matrixWorld.elements,
        ...min.toArray(),
        ...max.toArray(),
        ...(bones ?? []),
        ...(mesh.morphTargetInfluences ?? []),
      ]);
    }
    object.children.forEach((child, index) => visit(child, `${way}/${index}`));
  };
  visit(world, "");
  return out;
}

/** The largest difference of any number; infinite where other things are drawn. */
export function apart(
  one: Drawn,
  other: Drawn,
  what = [...one.keys(), ...other.keys()],
): number {
  let most = 0;
  for (const name of what) {
    const [a, b] = [one.get(name), other.get(name)];
    if (a?.length !== b?.length) return Infinity;
    a?.forEach(
      (value, index) => (most = Math.max(most, Math.abs(value - b![index]!))),
    );
  }
  return most;
}

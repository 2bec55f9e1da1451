/** A rig on the stage: its mesh, posed by the matrices that the core baked, and ghosts of other poses. */
import {
  Bone,
  BufferAttribute,
  BufferGeometry,
  Color,
  EqualDepth,
  Matrix4,
  type Mesh,
  MeshBasicMaterial,
  type Material,
  Object3D,
  Skeleton,
  SkinnedMesh,
  Vector3,
} from "three";
import type { RigPart } from "../api/generated";
import { flatMaterial } from "./flatMaterial";

/** A skinned mesh whose skeleton is filled from outside, as raw matrices. */
class PosedMesh {
  readonly object: SkinnedMesh;
  private readonly skeleton: Skeleton;

  constructor(geometry: BufferGeometry, material: Material, slotCount: number) {
    this.object = new SkinnedMesh(geometry, material);
    this.object.frustumCulled = false;
    this.object.matrixAutoUpdate = false;
    this.skeleton = new Skeleton(Array.from({ length: Math.max(1, slotCount) }, () => new Bone()));
    this.skeleton.computeBoneTexture();
    // The matrices are world-from-rest already: nothing is to be computed from bones.
    this.skeleton.update = () => {};
    this.object.bind(this.skeleton, new Matrix4());
    this.object.bindMode = "detached";
    this.object.bindMatrixInverse.identity();
  }

  pose(matrices: Float32Array, carried: ArrayLike<number> | null): void {
    this.skeleton.boneMatrices!.set(matrices);
    this.skeleton.boneTexture!.needsUpdate = true;
    if (carried) this.object.matrix.fromArray(Array.from(carried));
    else this.object.matrix.identity();
    this.object.matrixWorldNeedsUpdate = true;
  }

  dispose(): void {
    this.skeleton.dispose();
  }
}

/** Another pose as a flat tint: its depth first, unseen, so that no part of it shows through another. */
class Ghost {
  readonly depth: PosedMesh;
  readonly color: PosedMesh;

  constructor(geometry: BufferGeometry, tint: string, slotCount: number) {
    const unseen = new MeshBasicMaterial({ colorWrite: false, transparent: true });
    const flat = new MeshBasicMaterial({
      color: new Color(tint),
      fog: false,
      transparent: true,
      opacity: 0.26,
      depthWrite: false,
      depthFunc: EqualDepth,
    });
    this.depth = new PosedMesh(geometry, unseen, slotCount);
    this.color = new PosedMesh(geometry, flat, slotCount);
    this.depth.object.renderOrder = 1;
    this.color.object.renderOrder = 2;
    this.show(null, null);
  }

  show(skin: Float32Array | null, carried: ArrayLike<number> | null): void {
    for (const mesh of [this.depth, this.color]) {
      mesh.object.visible = skin !== null;
      if (skin) mesh.pose(skin, carried);
    }
  }

  dispose(): void {
    for (const mesh of [this.depth, this.color]) {
      mesh.dispose();
      (mesh.object.material as Material).dispose();
    }
  }
}

export class Figure {
  readonly group = new Object3D();
  /** What it was last posed for: what has not changed is not posed again. */
  shows = "";
  /** Soft shade below its feet. */
  readonly shades: Mesh[] = [];
  private readonly mesh: PosedMesh;
  private readonly ghosts: Ghost[] = [];
  private readonly geometry = new BufferGeometry();
  private readonly material = flatMaterial();

  constructor(
    readonly rig: RigPart,
    ghostTints: string[],
  ) {
    fillFacets(this.geometry, rig);
    this.mesh = new PosedMesh(this.geometry, this.material, rig.slot_count);
    this.group.add(this.mesh.object);
    for (const tint of ghostTints) {
      const ghost = new Ghost(this.geometry, tint, rig.slot_count);
      this.ghosts.push(ghost);
      this.group.add(ghost.depth.object, ghost.color.object);
    }
  }

  /** Show the skin matrices of one frame, carried by a world transform. */
  show(skin: Float32Array, carried: ArrayLike<number> | null): void {
    this.mesh.pose(skin, carried);
  }

  showGhost(index: number, skin: Float32Array | null, carried: ArrayLike<number> | null): void {
    this.ghosts[index]?.show(skin, carried);
  }

  dispose(): void {
    this.mesh.dispose();
    for (const ghost of this.ghosts) ghost.dispose();
    for (const disc of this.shades) (disc.material as Material).dispose();
    this.geometry.dispose();
    this.material.dispose();
  }
}

/** Every triangle with corners of its own, all facing as the triangle does at rest, so that faces look cut. */
function fillFacets(geometry: BufferGeometry, rig: RigPart): void {
  const corners = rig.triangles.length;
  const spread = <T extends Float32Array | Uint16Array>(source: T, size: number, into: T): T => {
    for (let corner = 0; corner < corners; corner++) {
      const from = rig.triangles[corner]! * size;
      for (let k = 0; k < size; k++) into[corner * size + k] = source[from + k]!;
    }
    return into;
  };
  const positions = spread(rig.positions, 3, new Float32Array(corners * 3));
  const normals = new Float32Array(corners * 3);
  const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
  for (let at = 0; at < corners * 3; at += 9) {
    a.fromArray(positions, at);
    b.fromArray(positions, at + 3).sub(a);
    c.fromArray(positions, at + 6).sub(a);
    b.cross(c).normalize();
    for (let corner = 0; corner < 3; corner++) b.toArray(normals, at + corner * 3);
  }
  geometry.setAttribute("position", new BufferAttribute(positions, 3));
  geometry.setAttribute("normal", new BufferAttribute(normals, 3));
  geometry.setAttribute(
    "color",
    new BufferAttribute(spread(rig.colors, 3, new Float32Array(corners * 3)), 3),
  );
  geometry.setAttribute(
    "skinIndex",
    new BufferAttribute(spread(rig.slots, 4, new Uint16Array(corners * 4)), 4),
  );
  geometry.setAttribute(
    "skinWeight",
    new BufferAttribute(spread(rig.weights, 4, new Float32Array(corners * 4)), 4),
  );
}

/** A rig on the stage: its mesh, posed by the matrices that the core baked, and ghosts of other poses. */
import {
  Bone,
  type BufferGeometry,
  type Camera,
  Color,
  EqualDepth,
  Matrix4,
  type Mesh,
  MeshBasicMaterial,
  type Material,
  Object3D,
  Skeleton,
  SkinnedMesh,
} from "three";
import type { RigPart } from "../api/generated";
import { materialsOf } from "./looks";
import { Levels } from "./levels";

/** A skinned mesh whose skeleton is filled from outside, as raw matrices. */
class PosedMesh {
  readonly object: SkinnedMesh;
  /** World-from-rest matrices of its slots, as they are now. */
  get skin(): Float32Array {
    return this.skeleton.boneMatrices as Float32Array;
  }

  private readonly skeleton: Skeleton;

  constructor(geometry: BufferGeometry, material: Material | Material[], slotCount: number) {
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

export interface Tint {
  tint: string;
  opacity: number;
}

/** Another pose as a flat tint: its depth first, unseen, so that no part of it shows through another. */
class Ghost {
  readonly depth: PosedMesh;
  readonly color: PosedMesh;

  constructor(geometry: BufferGeometry, { tint, opacity }: Tint, slotCount: number) {
    const unseen = new MeshBasicMaterial({ colorWrite: false, transparent: true });
    const flat = new MeshBasicMaterial({
      color: new Color(tint),
      fog: false,
      transparent: true,
      opacity,
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

  wear(geometry: BufferGeometry): void {
    for (const mesh of [this.depth, this.color]) mesh.object.geometry = geometry;
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
  /** Made when they are first shown. */
  private readonly ghosts = new Map<number, Ghost>();
  private readonly levels: Levels;
  private level = 0;
  private shapes: Float32Array | null = null;
  private readonly materials: Material[];

  constructor(
    readonly rig: RigPart,
    private readonly ghostTints: Tint[],
  ) {
    this.levels = new Levels(rig);
    const { geometry } = this.levels.surface(0);
    this.materials = materialsOf(rig);
    this.mesh = new PosedMesh(geometry, this.materials, rig.slot_count);
    this.group.add(this.mesh.object);
  }

  /** Show the skin matrices of one frame, carried by a world transform, and its shapes by their weights. */
  show(skin: Float32Array, carried: ArrayLike<number> | null, shapes: Float32Array | null = null): void {
    this.mesh.pose(skin, carried);
    this.shapes = shapes?.length ? shapes : null;
    if (this.shapes) this.levels.surface(this.level).draw(this.shapes);
  }

  /** Wear the coarsest surface whose cells are at most `mostPx` high in a view that is `heightPx` high. */
  refine(view: Camera, heightPx: number, mostPx: number): void {
    if (!this.levels.count) return;
    const { matrix } = this.mesh.object;
    const level = mostPx ? this.levels.fitting(this.mesh.skin, matrix, view, heightPx, mostPx) : 0;
    if (level === this.level) return;
    this.level = level;
    const surface = this.levels.surface(level);
    this.mesh.object.geometry = surface.geometry;
    for (const ghost of this.ghosts.values()) ghost.wear(surface.geometry);
    if (this.shapes) surface.draw(this.shapes);
  }

  /** As the flat tint with this index instead of solid, or solid again. */
  fade(index: number, faded: boolean, skin: Float32Array, carried: ArrayLike<number> | null): void {
    this.mesh.object.visible = !faded;
    this.showGhost(index, faded ? skin : null, carried);
  }

  showGhost(index: number, skin: Float32Array | null, carried: ArrayLike<number> | null): void {
    const tint = this.ghostTints[index];
    let ghost = this.ghosts.get(index);
    if (!ghost && skin && tint) {
      ghost = new Ghost(this.levels.surface(this.level).geometry, tint, this.rig.slot_count);
      this.ghosts.set(index, ghost);
      this.group.add(ghost.depth.object, ghost.color.object);
    }
    ghost?.show(skin, carried);
  }

  dispose(): void {
    this.mesh.dispose();
    for (const ghost of this.ghosts.values()) ghost.dispose();
    for (const disc of this.shades) (disc.material as Material).dispose();
    this.levels.dispose();
    for (const material of this.materials) material.dispose();
  }
}

/** The surfaces of a rig, from the full one to the coarsest, and which of them will do in a picture. */
import type { Camera, Matrix4 } from "three";
import { Vector4 } from "three";
import type { RigPart } from "../api/generated";
import { Surface } from "./surface";

export class Levels {
  private readonly surfaces = new Map<number, Surface>();
  /** Per slot the middle of what hangs on it, at rest; NaN where nothing does. */
  private readonly middles: Float32Array;

  constructor(private readonly rig: RigPart) {
    this.middles = rig.levels.length ? middlesOf(rig) : new Float32Array();
  }

  get count(): number {
    return this.rig.levels.length;
  }

  /** 0 is the full one. */
  surface(level: number): Surface {
    let surface = this.surfaces.get(level);
    if (!surface) {
      surface = new Surface(level ? this.rig.levels[level - 1]! : this.rig);
      this.surfaces.set(level, surface);
    }
    return surface;
  }

  /**
   * The coarsest level whose cells are at most `mostPx` high, where the nearest part of the rig stands, in a view that is
   * `heightPx` high. `carried` takes the rig's skin into the world.
   */
  fitting(skin: Float32Array, carried: Matrix4, view: Camera, heightPx: number, mostPx: number): number {
    const perMetre = this.pixelsPerMetre(skin, carried, view, heightPx);
    let level = 0;
    this.rig.levels.forEach(({ cell_m }, at) => {
      if (cell_m * perMetre <= mostPx) level = at + 1;
    });
    return level;
  }

  dispose(): void {
    for (const surface of this.surfaces.values()) surface.dispose();
  }

  private pixelsPerMetre(skin: Float32Array, carried: Matrix4, view: Camera, heightPx: number): number {
    const point = new Vector4();
    const slope = (view.projectionMatrix.elements[5]! * heightPx) / 2;
    const scale = carried.getMaxScaleOnAxis();
    let most = 0;
    for (let slot = 0; slot * 3 < this.middles.length; slot++) {
      const [x, y, z] = this.middles.subarray(slot * 3, slot * 3 + 3) as unknown as [number, number, number];
      if (Number.isNaN(x)) continue;
      const m = skin.subarray(slot * 16, slot * 16 + 16) as unknown as number[];
      point.set(
        m[0]! * x + m[4]! * y + m[8]! * z + m[12]!,
        m[1]! * x + m[5]! * y + m[9]! * z + m[13]!,
        m[2]! * x + m[6]! * y + m[10]! * z + m[14]!,
        1,
      );
      point.applyMatrix4(carried).applyMatrix4(view.matrixWorldInverse).applyMatrix4(view.projectionMatrix);
      if (point.w > 1e-3) most = Math.max(most, (slope * scale) / point.w);
    }
    return most || Infinity;
  }
}

function middlesOf(rig: RigPart): Float32Array {
  const [sums, counts] = [new Float64Array(rig.slot_count * 3), new Uint32Array(rig.slot_count)];
  const { positions, slots } = rig;
  for (let vertex = 0; vertex * 3 < positions.length; vertex++) {
    const slot = slots[vertex * 4]!;
    counts[slot]! += 1;
    for (let k = 0; k < 3; k++) sums[slot * 3 + k]! += positions[vertex * 3 + k]!;
  }
  return Float32Array.from(sums, (sum, at) => sum / counts[Math.floor(at / 3)]!);
}

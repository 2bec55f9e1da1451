/**
 * The surface of a rig: smooth where its file has normals, else every triangle flat, so that faces look cut; one group a look.
 * Shapes are drawn on it by moving only the corners that they reach.
 */
import { BufferAttribute, BufferGeometry, DynamicDrawUsage, Vector3 } from "three";
import type { RigPart } from "../api/generated";

/** What of a rig, or of a coarser level of it, is drawn. */
export type Drawn = Pick<
  RigPart,
  "positions" | "normals" | "colors" | "slots" | "weights" | "triangles" | "uvs" | "mesh_parts" | "shapes"
>;

export class Surface {
  readonly geometry = new BufferGeometry();
  /** Per corner of the geometry the vertex of the rig. */
  private readonly origin: Uint32Array;
  private readonly shapes: ShapeCorners[];
  private drawn: Float32Array | null = null;
  private readonly restPositions: Float32Array;
  private readonly restNormals: Float32Array;

  constructor(private readonly rig: Drawn) {
    const { origin, index, flat } = corners(rig);
    this.origin = origin;
    const spread = <T extends Float32Array | Uint16Array>(
      source: T,
      size: number,
      into: T,
    ): BufferAttribute => {
      for (let corner = 0; corner < origin.length; corner++) {
        const from = origin[corner]! * size;
        for (let k = 0; k < size; k++) into[corner * size + k] = source[from + k]!;
      }
      return new BufferAttribute(into, size);
    };
    const count = origin.length;
    const positions = spread(rig.positions, 3, new Float32Array(count * 3));
    const normals = spread(rig.normals, 3, new Float32Array(count * 3));
    flatten(normals.array as Float32Array, positions.array as Float32Array, index, flat);
    const { geometry } = this;
    geometry.setIndex(new BufferAttribute(index, 1));
    geometry.setAttribute("position", positions);
    geometry.setAttribute("normal", normals);
    geometry.setAttribute("color", spread(rig.colors, 3, new Float32Array(count * 3)));
    geometry.setAttribute("skinIndex", spread(rig.slots, 4, new Uint16Array(count * 4)));
    geometry.setAttribute("skinWeight", spread(rig.weights, 4, new Float32Array(count * 4)));
    if (rig.uvs.length) geometry.setAttribute("uv", spread(rig.uvs, 2, new Float32Array(count * 2)));
    meshParts(rig).forEach(({ first, end }, at) => geometry.addGroup(first * 3, (end - first) * 3, at));
    this.shapes = rig.shapes.length ? cornersOfShapes(rig, origin) : [];
    this.restPositions = rig.shapes.length ? (positions.array as Float32Array).slice() : new Float32Array();
    this.restNormals = rig.shapes.length ? (normals.array as Float32Array).slice() : new Float32Array();
    if (rig.shapes.length) {
      positions.setUsage(DynamicDrawUsage);
      normals.setUsage(DynamicDrawUsage);
    }
  }

  /** Draw its shapes by these weights, one each. */
  draw(weights: Float32Array): void {
    const before = this.drawn;
    if (before && weights.every((weight, at) => weight === before[at])) return;
    const { position, normal } = this.geometry.attributes as Record<string, BufferAttribute>;
    const [places, normals] = [position!.array as Float32Array, normal!.array as Float32Array];
    this.shapes.forEach(({ corners: reached }, at) => {
      if (!before?.[at]) return;
      for (const corner of reached)
        for (let k = corner * 3; k < corner * 3 + 3; k++) {
          places[k] = this.restPositions[k]!;
          normals[k] = this.restNormals[k]!;
        }
    });
    this.shapes.forEach(({ corners: reached, entries }, at) => {
      const weight = weights[at]!;
      if (!weight) return;
      const { moves, turns } = this.rig.shapes[at]!;
      reached.forEach((corner, n) => {
        const from = entries[n]! * 3;
        for (let k = 0; k < 3; k++) {
          places[corner * 3 + k]! += weight * moves[from + k]!;
          if (turns.length) normals[corner * 3 + k]! += weight * turns[from + k]!;
        }
      });
    });
    position!.needsUpdate = true;
    normal!.needsUpdate = true;
    this.drawn = weights.slice();
  }

  /** How many corners it has. */
  get count(): number {
    return this.origin.length;
  }

  dispose(): void {
    this.geometry.dispose();
  }
}

/** The parts of a mesh; all of it, plain and flat, where nothing else is said. */
export function meshParts(rig: Drawn): RigPart["mesh_parts"] {
  const end = rig.triangles.length / 3;
  return rig.mesh_parts.length ? rig.mesh_parts : [{ first: 0, end, look: null, smooth: false }];
}

/** Corners: those of smooth parts shared as in the rig, of flat ones each triangle's own; which of them are flat. */
function corners(rig: Drawn): { origin: Uint32Array; index: Uint32Array; flat: Uint8Array } {
  const { triangles } = rig;
  const index = new Uint32Array(triangles.length);
  const shared = new Int32Array(rig.positions.length / 3).fill(-1);
  const origin: number[] = [];
  const flat = new Uint8Array(triangles.length / 3);
  for (const { first, end, smooth } of meshParts(rig)) {
    if (!smooth) flat.fill(1, first, end);
    for (let corner = first * 3; corner < end * 3; corner++) {
      const vertex = triangles[corner]!;
      if (smooth && shared[vertex]! >= 0) index[corner] = shared[vertex]!;
      else {
        index[corner] = origin.length;
        if (smooth) shared[vertex] = origin.length;
        origin.push(vertex);
      }
    }
  }
  return { origin: Uint32Array.from(origin), index, flat };
}

function flatten(normals: Float32Array, places: Float32Array, index: Uint32Array, flat: Uint8Array): void {
  const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
  flat.forEach((isFlat, triangle) => {
    if (!isFlat) return;
    const [i, j, k] = [0, 1, 2].map((n) => index[triangle * 3 + n]! * 3) as [number, number, number];
    a.fromArray(places, i);
    b.fromArray(places, j).sub(a);
    c.fromArray(places, k).sub(a);
    b.cross(c).normalize();
    for (const at of [i, j, k]) b.toArray(normals, at);
  });
}

/** Which corners a shape reaches, and by which entry of the shape each. */
interface ShapeCorners {
  corners: Uint32Array;
  entries: Uint32Array;
}

function cornersOfShapes(rig: Drawn, origin: Uint32Array): ShapeCorners[] {
  const of = new Map<number, number[]>();
  origin.forEach((vertex, corner) => {
    const there = of.get(vertex);
    if (there) there.push(corner);
    else of.set(vertex, [corner]);
  });
  return rig.shapes.map(({ vertices }) => {
    const [reached, entries]: [number[], number[]] = [[], []];
    vertices.forEach((vertex, entry) => {
      for (const corner of of.get(vertex) ?? []) {
        reached.push(corner);
        entries.push(entry);
      }
    });
    return { corners: Uint32Array.from(reached), entries: Uint32Array.from(entries) };
  });
}

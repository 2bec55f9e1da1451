/** The soft shade below a foot. */
import { BufferGeometry, Float32BufferAttribute } from "three";

const SHADE_SIDES = 20;

/** A level disc of radius 1 whose opacity falls from the middle to nothing at its edge. */
export function softDisc(): BufferGeometry {
  const positions: number[] = [];
  const colors: number[] = [];
  const corner = (radius: number, angle: number, alpha: number) => {
    positions.push(Math.sin(angle) * radius, 0, Math.cos(angle) * radius * 1.25);
    colors.push(1, 1, 1, alpha);
  };
  const rings = [0, 0.45, 1];
  const alphas = [1, 0.72, 0];
  for (let side = 0; side < SHADE_SIDES; side++) {
    const [a, b] = [(side * 2 * Math.PI) / SHADE_SIDES, ((side + 1) * 2 * Math.PI) / SHADE_SIDES];
    for (let ring = 0; ring + 1 < rings.length; ring++) {
      const [inner, outer] = [rings[ring]!, rings[ring + 1]!];
      const [near, far] = [alphas[ring]!, alphas[ring + 1]!];
      const triangles: [number, number, number][] = [
        [inner, a, near],
        [outer, a, far],
        [outer, b, far],
        [inner, a, near],
        [outer, b, far],
        [inner, b, near],
      ];
      for (const point of triangles) corner(...point);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new Float32BufferAttribute(positions, 3));
  geometry.setAttribute("color", new Float32BufferAttribute(colors, 4));
  return geometry;
}

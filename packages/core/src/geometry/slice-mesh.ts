import type { TriangleMesh } from './triangle-mesh.ts';
import type { Vector2 } from './vector.ts';

/** What a level plane cuts out of a body: area within the cut, holes taken out, and length of all its edges. */
export interface Slice {
  readonly areaM2: number;
  readonly perimeterM: number;
}

/** Levels are moved by this much, so that no corner lies in the cutting plane. */
const OFF_CORNERS = 1.37e-7;

/**
 * Cuts a closed mesh at a height. Each triangle that crosses the plane leaves one edge, directed as the triangle looks: outer
 * edges run counter-clockwise, those of holes clockwise, so that the area is the sum of their cross products.
 * Null if the plane misses the body. Heights and lengths in metres, in the mesh's frame.
 * @example a pyramid of 4 x 4 m and 3 m, cut 1.5 m above its base: 4 m2, 8 m
 */
export function sliceMesh({ positions, indices }: TriangleMesh, heightM: number): Slice | null {
  const z = heightM + OFF_CORNERS;
  let area = 0;
  let perimeter = 0;
  let isHit = false;
  for (let t = 0; t < indices.length; t += 3) {
    const cut = cutTriangle(positions, indices, t, z);
    if (!cut) continue;
    isHit = true;
    const [p, q] = cut;
    area += (p[0] * q[1] - q[0] * p[1]) / 2;
    perimeter += Math.hypot(q[0] - p[0], q[1] - p[1]);
  }
  return isHit ? { areaM2: Math.abs(area), perimeterM: perimeter } : null;
}

/**
 * The edge that a level leaves of the triangle that begins at a position of `indices`, as the triangle looks: seen from above, the
 * body lies to its left. Null if the level misses it.
 */
export function cutTriangle(
  positions: ArrayLike<number>,
  indices: ArrayLike<number>,
  at: number,
  levelM: number,
): readonly [Vector2, Vector2] | null {
  let first: Vector2 | null = null;
  let isUpFirst = false;
  for (let k = 0; k < 3; k++) {
    const [a, b] = [indices[at + k]! * 3, indices[at + ((k + 1) % 3)]! * 3];
    const [za, zb] = [positions[a + 2]! - levelM, positions[b + 2]! - levelM];
    if (za > 0 === zb > 0) continue;
    const share = za / (za - zb);
    const end: Vector2 = [
      positions[a]! + (positions[b]! - positions[a]!) * share,
      positions[a + 1]! + (positions[b + 1]! - positions[a + 1]!) * share,
    ];
    // The part above lies to the left of the way from the falling edge to the rising one.
    if (first) return isUpFirst ? [end, first] : [first, end];
    first = end;
    isUpFirst = zb > 0;
  }
  return null;
}

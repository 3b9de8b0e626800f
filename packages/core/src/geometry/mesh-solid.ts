import earcut from 'earcut';
import { outlineToPolygon } from './outline.ts';
import { profileToOutlines } from './profile.ts';
import type { SweptSolid } from './swept-solid.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { areaVector, transformPoint, type Vector2, type Vector3 } from './vector.ts';

/** Chords per full turn of the meshes made here. */
const CHORDS = 96;

/** A flat face in space: its outer outline, counter-clockwise seen from outside, then its holes. Metres. */
export type SpacePolygon = readonly (readonly Vector3[])[];

/** Triangles of faces given by their outlines. Points are not shared between faces. */
export function meshPolygons(faces: readonly SpacePolygon[]): TriangleMesh {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const rings of faces) {
    const outer = rings[0];
    if (!outer || outer.length < 3) continue;
    const first = positions.length / 3;
    const points = rings.flat();
    for (const p of points) positions.push(p[0], p[1], p[2]);
    const normal = areaVector(outer);
    const drop = dominantAxis(normal);
    const [u, v] = drop === 0 ? [1, 2] : drop === 1 ? [2, 0] : [0, 1];
    const flat = points.flatMap((p) => [p[u as 0]!, p[v as 0]!]);
    const holes: number[] = [];
    let at = 0;
    for (const ring of rings.slice(0, -1)) {
      at += ring.length;
      holes.push(at);
    }
    const triangles = points.length === 3 ? [0, 1, 2] : earcut(flat, holes, 2);
    const isUp = normal[drop]! > 0;
    for (let i = 0; i < triangles.length; i += 3) {
      const [a, b, c] = [triangles[i]!, triangles[i + 1]!, triangles[i + 2]!];
      const seen = (flat[2 * b]! - flat[2 * a]!) * (flat[2 * c + 1]! - flat[2 * a + 1]!) - (flat[2 * b + 1]! - flat[2 * a + 1]!) * (flat[2 * c]! - flat[2 * a]!); // biome-ignore format: one cross product
      if (points.length === 3 || seen > 0 === isUp) indices.push(first + a, first + b, first + c);
      else indices.push(first + a, first + c, first + b);
    }
  }
  return { positions: Float64Array.from(positions), indices: Uint32Array.from(indices) };
}

function dominantAxis(v: Vector3): 0 | 1 | 2 {
  const [x, y, z] = [Math.abs(v[0]), Math.abs(v[1]), Math.abs(v[2])];
  return x > y && x > z ? 0 : y > z ? 1 : 2;
}

/** A swept solid as triangles, curves in 96 chords a turn unless said otherwise; in the solid's own frame (after its placement). Closed. */
export function meshSweptSolid({ profile, placement, direction, depth }: SweptSolid, chords = CHORDS): TriangleMesh {
  const { outer, holes } = profileToOutlines(profile);
  const isRising = direction[2] > 0;
  const ringsOf = (isTop: boolean): Vector3[][] =>
    [outer, ...holes].map((ring) =>
      outlineToPolygon(ring, chords).map(
        ([x, y]) =>
        transformPoint(placement, isTop ? [x + direction[0] * depth, y + direction[1] * depth, direction[2] * depth] : [x, y, 0]), // biome-ignore format: one point
      ),
    );
  const [near, far] = [ringsOf(false), ringsOf(true)];
  const plan = [outer, ...holes].map((ring) => outlineToPolygon(ring, chords));
  const isLeftHanded = determinant(placement) < 0;
  const faces: Vector3[][][] = [];
  const capOf = (rings: Vector3[][], isUp: boolean) =>
    rings.map((ring, i) => {
      const isCounterClockwise = signedArea(plan[i]!) > 0 !== isLeftHanded;
      const wantsCounterClockwise = isUp === (i === 0);
      return isCounterClockwise === wantsCounterClockwise ? ring : [...ring].reverse();
    });
  faces.push(capOf(near, !isRising), capOf(far, isRising));
  for (const [r, ring] of near.entries()) {
    const isCounterClockwise = signedArea(plan[r]!) > 0 !== isLeftHanded;
    const isOutward = (isCounterClockwise === (r === 0)) === isRising;
    for (let i = 0; i < ring.length; i++) {
      const j = (i + 1) % ring.length;
      const quad = [ring[i]!, ring[j]!, far[r]![j]!, far[r]![i]!];
      faces.push([isOutward ? quad : quad.reverse()]);
    }
  }
  return meshPolygons(faces);
}

const signedArea = (ring: readonly Vector2[]): number =>
  ring.reduce((sum, [x, y], i) => {
    const [nx, ny] = ring[(i + 1) % ring.length]!;
    return sum + (x * ny - nx * y) / 2;
  }, 0);

const determinant = (m: SweptSolid['placement']): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[1] * (m[4] * m[10] - m[6] * m[8]) + m[2] * (m[4] * m[9] - m[5] * m[8]);

/** Several meshes as one. */
export function joinMeshes(meshes: readonly TriangleMesh[]): TriangleMesh {
  const positions = new Float64Array(meshes.reduce((n, m) => n + m.positions.length, 0));
  const indices = new Uint32Array(meshes.reduce((n, m) => n + m.indices.length, 0));
  let [at, ai] = [0, 0];
  for (const m of meshes) {
    for (let i = 0; i < m.indices.length; i++) indices[ai++] = m.indices[i]! + at / 3;
    positions.set(m.positions as ArrayLike<number>, at);
    at += m.positions.length;
  }
  return { positions, indices };
}

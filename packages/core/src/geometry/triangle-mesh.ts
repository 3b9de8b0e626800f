import { TOLERANCE } from './tolerances.ts';
import type { Vector3 } from './vector.ts';

/** Triangles: three coordinates a vertex, three vertex numbers a triangle. Metres, in whatever frame the caller says. */
export interface TriangleMesh {
  readonly positions: ArrayLike<number>;
  readonly indices: ArrayLike<number>;
}

export interface MeshMeasures {
  /** Enclosed volume, m3; only meaningful if `isClosed`. Negative if the faces look inward. */
  readonly volumeM3: number;
  readonly areaM2: number;
  /** Each edge has exactly as many triangles one way as the other after welding points 0.1 mm apart. */
  readonly isClosed: boolean;
  readonly min: Vector3;
  readonly max: Vector3;
}

/**
 * Volume by signed tetrahedra from the first vertex, area by triangles, and the check that the body is closed.
 * Returns null for a mesh without triangles.
 */
export function measureMesh({ positions, indices }: TriangleMesh): MeshMeasures | null {
  if (indices.length < 3) return null;
  const [ox, oy, oz] = [positions[0]!, positions[1]!, positions[2]!];
  let volume = 0;
  let area = 0;
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < indices.length; i += 3) {
    const at = (k: number, c: number) => positions[indices[i + k]! * 3 + c]!;
    const ax = at(0, 0) - ox, ay = at(0, 1) - oy, az = at(0, 2) - oz; // biome-ignore format: one vertex a line
    const bx = at(1, 0) - ox, by = at(1, 1) - oy, bz = at(1, 2) - oz; // biome-ignore format: one vertex a line
    const cx = at(2, 0) - ox, cy = at(2, 1) - oy, cz = at(2, 2) - oz; // biome-ignore format: one vertex a line
    volume += (ax * (by * cz - bz * cy) - ay * (bx * cz - bz * cx) + az * (bx * cy - by * cx)) / 6;
    const ux = bx - ax, uy = by - ay, uz = bz - az; // biome-ignore format: one edge a line
    const vx = cx - ax, vy = cy - ay, vz = cz - az; // biome-ignore format: one edge a line
    area += Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
    for (let k = 0; k < 3; k++) {
      for (let c = 0; c < 3; c++) {
        const v = at(k, c);
        if (v < min[c]!) min[c] = v;
        if (v > max[c]!) max[c] = v;
      }
    }
  }
  return { volumeM3: volume, areaM2: area, isClosed: isClosedMesh({ positions, indices }), min, max };
}

function isClosedMesh({ positions, indices }: TriangleMesh): boolean {
  const points = new Map<string, number>();
  const weld = (i: number): number => {
    const key = [0, 1, 2].map((c) => Math.round(positions[i * 3 + c]! / TOLERANCE.point)).join();
    const known = points.get(key);
    if (known !== undefined) return known;
    points.set(key, points.size);
    return points.size - 1;
  };
  const welded = Array.from({ length: indices.length }, (_, i) => weld(indices[i]!));
  const balance = new Map<number, number>();
  const size = points.size;
  for (let i = 0; i < welded.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const a = welded[i + k]!;
      const b = welded[i + ((k + 1) % 3)]!;
      if (a === b) continue;
      const key = Math.min(a, b) * size + Math.max(a, b);
      balance.set(key, (balance.get(key) ?? 0) + (a < b ? 1 : -1));
    }
  }
  for (const b of balance.values()) if (b !== 0) return false;
  return true;
}

import type { SurfaceSketch } from '../elements/model-element.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { type Matrix, transformPoint, type Vector3 } from './vector.ts';

/**
 * Sketches the surface of meshes after a map. It asks nothing of them: they may be open, turned inside out or touch each other. Of a
 * triangle with corners p, q, r and area A the second moment is A/12 (pp + qq + rr + ss), s = p + q + r, each a product of coordinates.
 * Null without any surface.
 * @example a square of side a has an area of a², a spread of a/√12 along two axes and of 0 along the third
 */
export function sketchSurface(meshes: readonly TriangleMesh[], matrix: Matrix): SurfaceSketch | null {
  const origin = findFirstPoint(meshes, matrix);
  if (!origin) return null;
  let areaM2 = 0;
  const first = [0, 0, 0];
  // xx, yy, zz, xy, xz, yz, about the first point: figures far from 0 would lose their last digits.
  const second = [0, 0, 0, 0, 0, 0];
  for (const { positions, indices } of meshes) {
    const corner = (i: number): Vector3 => {
      const at = indices[i]! * 3;
      const p = transformPoint(matrix, [positions[at]!, positions[at + 1]!, positions[at + 2]!]);
      return [p[0] - origin[0], p[1] - origin[1], p[2] - origin[2]];
    };
    for (let i = 0; i < indices.length; i += 3) {
      const [p, q, r] = [corner(i), corner(i + 1), corner(i + 2)];
      const [ux, uy, uz] = [q[0] - p[0], q[1] - p[1], q[2] - p[2]];
      const [vx, vy, vz] = [r[0] - p[0], r[1] - p[1], r[2] - p[2]];
      const area = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
      const s = [p[0] + q[0] + r[0], p[1] + q[1] + r[1], p[2] + q[2] + r[2]] as const;
      areaM2 += area;
      for (let k = 0; k < 3; k++) first[k]! += (area * s[k]!) / 3;
      for (let k = 0; k < 6; k++) {
        const [a, b] = PAIRS[k]!;
        second[k]! += (area / 12) * (p[a] * p[b] + q[a] * q[b] + r[a] * r[b] + s[a] * s[b]);
      }
    }
  }
  if (!(areaM2 > 0)) return null;
  const mean = first.map((x) => x / areaM2);
  const about = PAIRS.map(([a, b], k) => second[k]! / areaM2 - mean[a]! * mean[b]!);
  const [x, y, z] = listEigenvalues(about).map((value) => Math.sqrt(Math.max(0, value)));
  return {
    areaM2,
    centre: [mean[0]! + origin[0], mean[1]! + origin[1], mean[2]! + origin[2]],
    spread: [x!, y!, z!],
  };
}

const PAIRS = [[0, 0], [1, 1], [2, 2], [0, 1], [0, 2], [1, 2]] as const; // biome-ignore format: one table

function findFirstPoint(meshes: readonly TriangleMesh[], matrix: Matrix): Vector3 | null {
  const mesh = meshes.find((m) => m.indices.length > 0);
  if (!mesh) return null;
  const at = mesh.indices[0]! * 3;
  return transformPoint(matrix, [mesh.positions[at]!, mesh.positions[at + 1]!, mesh.positions[at + 2]!]);
}

/** Eigenvalues of a symmetric 3 x 3 matrix [xx, yy, zz, xy, xz, yz], the largest first, by the trigonometric solution of its cubic. */
function listEigenvalues(m: readonly number[]): [number, number, number] {
  const [xx, yy, zz, xy, xz, yz] = m as [number, number, number, number, number, number];
  const q = (xx + yy + zz) / 3;
  const [a, b, c] = [xx - q, yy - q, zz - q];
  const p = Math.sqrt((a * a + b * b + c * c + 2 * (xy * xy + xz * xz + yz * yz)) / 6);
  if (p === 0) return [q, q, q];
  const determinant = a * (b * c - yz * yz) - xy * (xy * c - yz * xz) + xz * (xy * yz - b * xz);
  const angle = Math.acos(Math.min(1, Math.max(-1, determinant / (2 * p ** 3)))) / 3;
  const most = q + 2 * p * Math.cos(angle);
  const least = q + 2 * p * Math.cos(angle + (2 * Math.PI) / 3);
  return [most, 3 * q - most - least, least];
}

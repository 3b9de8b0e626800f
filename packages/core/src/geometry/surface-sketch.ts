import type { SurfaceSketch } from '../elements/model-element.ts';
import { outlineToPolygon } from './outline.ts';
import { profileToOutlines } from './profile.ts';
import type { SweptSolid } from './swept-solid.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { type Matrix, transformPoint, type Vector2, type Vector3 } from './vector.ts';

/**
 * Sums the surface of solids and meshes up to what it is known again by. It asks nothing of meshes: they may be open, turned inside out or
 * touch each other. Of a triangle with corners p, q, r and area A the second moment is A/12 (pp + qq + rr + ss), s = p + q + r, each a
 * product of coordinates.
 * @example of a square of side a: area a², spread a/√12 along two axes and 0 along the third
 */
export class SurfaceSum {
  private areaM2 = 0;
  /** The first point: sums are about it, for figures far from 0 would lose their last digits. */
  private origin: Vector3 | null = null;
  private readonly first = new Float64Array(3);
  /** xx, yy, zz, xy, xz, yz. */
  private readonly second = new Float64Array(6);

  addMesh({ positions, indices }: TriangleMesh): this {
    const corner = (i: number): Vector3 => {
      const at = indices[i]! * 3;
      return [positions[at]!, positions[at + 1]!, positions[at + 2]!];
    };
    for (let i = 0; i < indices.length; i += 3) this.addTriangle(corner(i), corner(i + 1), corner(i + 2), 1);
    return this;
  }

  /** The surface of a solid by its outline, without a mesh: both ends, and a flat face for each edge. Curves are cut into chords. */
  addSwept({ profile, placement, direction, depth }: SweptSolid, chords: number): this {
    const { outer, holes } = profileToOutlines(profile);
    for (const [at, outline] of [outer, ...holes].entries()) {
      const ring = outlineToPolygon(outline, chords);
      const near = ring.map(([x, y]) => transformPoint(placement, [x, y, 0]));
      const far = ring.map(([x, y]) =>
        transformPoint(placement, [x + direction[0] * depth, y + direction[1] * depth, direction[2] * depth]),
      );
      for (const [i, start] of near.entries()) {
        const j = (i + 1) % near.length;
        this.addTriangle(start, near[j]!, far[j]!, 1).addTriangle(start, far[j]!, far[i]!, 1);
      }
      // An end as a fan of its first corner: what lies outside of it is taken away again, and so are its holes.
      const sign = (at === 0 ? 1 : -1) * Math.sign(sumFan(ring));
      for (let i = 1; i + 1 < ring.length; i++) {
        const side = sign * Math.sign(turnOf(ring[0]!, ring[i]!, ring[i + 1]!));
        this.addTriangle(near[0]!, near[i]!, near[i + 1]!, side).addTriangle(far[0]!, far[i]!, far[i + 1]!, side);
      }
    }
    return this;
  }

  private addTriangle(p: Vector3, q: Vector3, r: Vector3, weight: number): this {
    this.origin ??= p;
    const ox = this.origin[0];
    const oy = this.origin[1];
    const oz = this.origin[2];
    const px = p[0] - ox;
    const py = p[1] - oy;
    const pz = p[2] - oz;
    const qx = q[0] - ox;
    const qy = q[1] - oy;
    const qz = q[2] - oz;
    const rx = r[0] - ox;
    const ry = r[1] - oy;
    const rz = r[2] - oz;
    const nx = (qy - py) * (rz - pz) - (qz - pz) * (ry - py);
    const ny = (qz - pz) * (rx - px) - (qx - px) * (rz - pz);
    const nz = (qx - px) * (ry - py) - (qy - py) * (rx - px);
    const area = (weight * Math.sqrt(nx * nx + ny * ny + nz * nz)) / 2;
    const sx = px + qx + rx;
    const sy = py + qy + ry;
    const sz = pz + qz + rz;
    const { first, second } = this;
    this.areaM2 += area;
    first[0]! += (area * sx) / 3;
    first[1]! += (area * sy) / 3;
    first[2]! += (area * sz) / 3;
    const part = area / 12;
    second[0]! += part * (px * px + qx * qx + rx * rx + sx * sx);
    second[1]! += part * (py * py + qy * qy + ry * ry + sy * sy);
    second[2]! += part * (pz * pz + qz * qz + rz * rz + sz * sz);
    second[3]! += part * (px * py + qx * qy + rx * ry + sx * sy);
    second[4]! += part * (px * pz + qx * qz + rx * rz + sx * sz);
    second[5]! += part * (py * pz + qy * qz + ry * rz + sy * sz);
    return this;
  }

  /** The sketch after a rigid map; null without any surface. */
  sketch(matrix: Matrix): SurfaceSketch | null {
    const { areaM2, origin } = this;
    if (!origin || !(areaM2 > 0)) return null;
    const [x, y, z] = [...this.first].map((sum) => sum / areaM2) as [number, number, number];
    const products = [x * x, y * y, z * z, x * y, x * z, y * z];
    const about = products.map((product, k) => this.second[k]! / areaM2 - product);
    const [a, b, c] = listEigenvalues(about).map((value) => Math.sqrt(Math.max(0, value))) as [number, number, number];
    return {
      areaM2,
      centre: transformPoint(matrix, [origin[0] + x, origin[1] + y, origin[2] + z]),
      spread: [a, b, c],
    };
  }
}

/** Twice the area of a triangle, negative where it turns clockwise. */
const turnOf = (p: Vector2, q: Vector2, r: Vector2): number =>
  (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);

function sumFan(ring: readonly Vector2[]): number {
  let sum = 0;
  for (let i = 1; i + 1 < ring.length; i++) sum += turnOf(ring[0]!, ring[i]!, ring[i + 1]!);
  return sum;
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

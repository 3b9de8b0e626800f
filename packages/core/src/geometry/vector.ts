export type Vector2 = readonly [number, number];
export type Vector3 = readonly [number, number, number];

/** Affine map in space, row by row: x' = m[0]x + m[1]y + m[2]z + m[3], and so on. Lengths in metres. */
export type Matrix = readonly [
  number, number, number, number,
  number, number, number, number,
  number, number, number, number,
]; // biome-ignore format: rows of the matrix

export const IDENTITY: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

export function dot(a: Vector3, b: Vector3): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

export function cross(a: Vector3, b: Vector3): Vector3 {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

export function lengthOf(a: Vector3): number {
  // Math.hypot guards against overflow that lengths in metres never reach, at many times the cost.
  return Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);
}

/** Unit vector; a zero vector gives the fallback. */
export function normalize(a: Vector3, fallback: Vector3 = [0, 0, 1]): Vector3 {
  const n = lengthOf(a);
  return n > 1e-12 ? [a[0] / n, a[1] / n, a[2] / n] : fallback;
}

export function transformPoint(m: Matrix, [x, y, z]: Vector3): Vector3 {
  return [
    m[0] * x + m[1] * y + m[2] * z + m[3],
    m[4] * x + m[5] * y + m[6] * z + m[7],
    m[8] * x + m[9] * y + m[10] * z + m[11],
  ];
}

export function transformDirection(m: Matrix, [x, y, z]: Vector3): Vector3 {
  return [m[0] * x + m[1] * y + m[2] * z, m[4] * x + m[5] * y + m[6] * z, m[8] * x + m[9] * y + m[10] * z];
}

/** The map that does `b` first, then `a`. */
export function multiplyMatrices(a: Matrix, b: Matrix): Matrix {
  const out: number[] = [];
  for (let r = 0; r < 3; r++) {
    for (let c = 0; c < 4; c++) {
      const sum = a[r * 4]! * b[c]! + a[r * 4 + 1]! * b[4 + c]! + a[r * 4 + 2]! * b[8 + c]!;
      out.push(c === 3 ? sum + a[r * 4 + 3]! : sum);
    }
  }
  return out as unknown as Matrix;
}

/** Inverse of a rigid map with uniform scale (rotation x scale + shift). */
export function invertRigid(m: Matrix): Matrix {
  const s2 = m[0] * m[0] + m[4] * m[4] + m[8] * m[8];
  const r = [m[0], m[4], m[8], m[1], m[5], m[9], m[2], m[6], m[10]].map((v) => v / s2) as number[];
  const t: Vector3 = [m[3], m[7], m[11]];
  const shift = (i: number) => -(r[i]! * t[0] + r[i + 1]! * t[1] + r[i + 2]! * t[2]);
  return [r[0]!, r[1]!, r[2]!, shift(0), r[3]!, r[4]!, r[5]!, shift(3), r[6]!, r[7]!, r[8]!, shift(6)];
}

/** The map of a coordinate system given by origin, Z axis and approximate X axis, as IFC's axis placements define it. */
export function frameToMatrix(origin: Vector3, axis?: Vector3, refDirection?: Vector3): Matrix {
  const z = normalize(axis ?? [0, 0, 1]);
  const ref = refDirection ?? (Math.abs(z[0]) > 0.99999 ? ([0, 0, 1] as Vector3) : ([1, 0, 0] as Vector3));
  const along = dot(ref, z);
  const x = normalize([ref[0] - along * z[0], ref[1] - along * z[1], ref[2] - along * z[2]], [1, 0, 0]);
  const y = cross(z, x);
  return [x[0], y[0], z[0], origin[0], x[1], y[1], z[1], origin[1], x[2], y[2], z[2], origin[2]];
}

/** Extent of points along each axis: [min, max] per axis; null for no points. */
export function boundPoints(points: Iterable<Vector3>): { min: Vector3; max: Vector3 } | null {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  for (const p of points) {
    for (let i = 0; i < 3; i++) {
      if (p[i]! < min[i]!) min[i] = p[i]!;
      if (p[i]! > max[i]!) max[i] = p[i]!;
    }
  }
  return min[0] === Infinity ? null : { min, max };
}

/**
 * Area of a flat polygon as a vector square to it: half the sum of the cross products of its edges. It points to where the corners run
 * counter-clockwise.
 */
export function areaVector(points: readonly Vector3[]): Vector3 {
  const sum: [number, number, number] = [0, 0, 0];
  const o = points[0]!;
  for (let i = 1; i + 1 < points.length; i++) {
    const [p, q] = [points[i]!, points[i + 1]!];
    const c = cross([p[0] - o[0], p[1] - o[1], p[2] - o[2]], [q[0] - o[0], q[1] - o[1], q[2] - o[2]]);
    for (let k = 0; k < 3; k++) sum[k]! += c[k]! / 2;
  }
  return sum;
}

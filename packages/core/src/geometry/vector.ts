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

/** The way from b to a. */
export function subtract(a: Vector3, b: Vector3): Vector3 {
  return [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
}

/** Distance of two points on a plane. */
export function distanceBetween(a: Vector2, b: Vector2): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  return Math.sqrt(dx * dx + dy * dy);
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

// The measured inner loops of a takeoff: components are read by index, as a pattern over an array makes an iterator each time.
export function transformPoint(m: Matrix, p: Vector3): Vector3 {
  const x = p[0];
  const y = p[1];
  const z = p[2];
  return [
    m[0] * x + m[1] * y + m[2] * z + m[3],
    m[4] * x + m[5] * y + m[6] * z + m[7],
    m[8] * x + m[9] * y + m[10] * z + m[11],
  ];
}

export function transformDirection(m: Matrix, d: Vector3): Vector3 {
  const x = d[0];
  const y = d[1];
  const z = d[2];
  return [m[0] * x + m[1] * y + m[2] * z, m[4] * x + m[5] * y + m[6] * z, m[8] * x + m[9] * y + m[10] * z];
}

/** The map that does `b` first, then `a`. */
export function multiplyMatrices(a: Matrix, b: Matrix): Matrix {
  return [
    cell(a, 0, b, 0), cell(a, 0, b, 1), cell(a, 0, b, 2), cell(a, 0, b, 3) + a[3],
    cell(a, 4, b, 0), cell(a, 4, b, 1), cell(a, 4, b, 2), cell(a, 4, b, 3) + a[7],
    cell(a, 8, b, 0), cell(a, 8, b, 1), cell(a, 8, b, 2), cell(a, 8, b, 3) + a[11],
  ]; // biome-ignore format: rows of the matrix
}

const cell = (a: Matrix, row: number, b: Matrix, c: number) =>
  a[row]! * b[c]! + a[row + 1]! * b[4 + c]! + a[row + 2]! * b[8 + c]!;

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
  if (!axis && !refDirection) return [1, 0, 0, origin[0], 0, 1, 0, origin[1], 0, 0, 1, origin[2]];
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

/** Extent, after the map, of a box. */
export function boundBox(m: Matrix, { min, max }: { min: Vector3; max: Vector3 }): { min: Vector3; max: Vector3 } {
  const low: [number, number, number] = [m[3], m[7], m[11]];
  const high: [number, number, number] = [m[3], m[7], m[11]];
  for (let row = 0; row < 3; row++)
    for (let k = 0; k < 3; k++) {
      const f = m[row * 4 + k]!;
      low[row]! += f * (f < 0 ? max : min)[k]!;
      high[row]! += f * (f < 0 ? min : max)[k]!;
    }
  return { min: low, max: high };
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

import { TOLERANCE } from './tolerances.ts';

/** A coordinate this near the edge of its cell, as a share of it, may have its partner in the next one. */
const NEAR_EDGE = 0.4;

/** Point numbers for the corners of triangles; points closer than `TOLERANCE.point` are one. One number per entry of `indices`. */
export function weldPoints({
  positions,
  indices,
}: {
  readonly positions: ArrayLike<number>;
  readonly indices: ArrayLike<number>;
}): Int32Array {
  const numbers = new Map<string, number>();
  const ofVertex = new Int32Array(positions.length / 3).fill(-1);
  const out = new Int32Array(indices.length);
  let count = 0;
  for (let i = 0; i < indices.length; i++) {
    const v = indices[i]!;
    if (ofVertex[v] === -1) {
      const n = findCell(numbers, positions, v * 3) ?? count;
      if (n === count) {
        const at = v * 3;
        numbers.set(`${cellOf(positions[at]!)},${cellOf(positions[at + 1]!)},${cellOf(positions[at + 2]!)}`, count++);
      }
      ofVertex[v] = n;
    }
    out[i] = ofVertex[v]!;
  }
  return out;
}

const cellOf = (v: number) => Math.round(v / TOLERANCE.point);

/** Cells that a coordinate may share with a point closer than the tolerance. */
function cellsOf(v: number): number[] {
  const cell = cellOf(v);
  const off = v / TOLERANCE.point - cell;
  return Math.abs(off) > NEAR_EDGE ? [cell, cell + Math.sign(off)] : [cell];
}

function findCell(numbers: ReadonlyMap<string, number>, positions: ArrayLike<number>, at: number): number | undefined {
  for (const x of cellsOf(positions[at]!))
    for (const y of cellsOf(positions[at + 1]!))
      for (const z of cellsOf(positions[at + 2]!)) {
        const known = numbers.get(`${x},${y},${z}`);
        if (known !== undefined) return known;
      }
  return undefined;
}

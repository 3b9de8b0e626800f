import type { Vector3 } from '../geometry/vector.ts';

/** No element is larger or farther away than this, m; what is drawn so is a slip of the file. */
const FARTHEST_M = 1e8;
const LARGEST_M = 1e5;

/** True if a box has figures, and is neither larger nor farther away than anything of a building. */
export function isSaneBox({ min, max }: { readonly min: Vector3; readonly max: Vector3 }): boolean {
  return [0, 1, 2].every(
    (k) => Math.abs(min[k]!) < FARTHEST_M && Math.abs(max[k]!) < FARTHEST_M && max[k]! - min[k]! < LARGEST_M,
  );
}

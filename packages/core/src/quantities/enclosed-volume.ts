import { measureSharedVolume } from '../geometry/shared-volume.ts';
import { listPieces, measureMesh, type TriangleMesh } from '../geometry/triangle-mesh.ts';
import type { BodyProblem } from './element-body.ts';

/** A volume that a mesh encloses, m3, or why it has none. */
export interface EnclosedVolume {
  readonly volumeM3: number | null;
  readonly problem: BodyProblem | null;
  /** Pieces of it run through each other; the volume is what they fill together. */
  readonly isOverlapping: boolean;
}

/** Less than this is no volume, m3. */
const LEAST_M3 = 1e-12;
/** Pieces that share no more than this part of their volume only touch. */
const TOUCHING_SHARE = 2e-3;
/** More pieces, or more triangles, are not looked through for shared volume. */
const MOST_PIECES = 60;
const MOST_TRIANGLES = 40_000;

/**
 * Volume of an oriented mesh. What several pieces of it fill together counts once; an open one, or one without room, has none.
 * @param parts the pieces, where they are known; else those that do not share a point
 */
export function measureEnclosed(mesh: TriangleMesh, parts: readonly TriangleMesh[] | null = null): EnclosedVolume {
  const whole = measureMesh(mesh);
  if (!whole) return { volumeM3: null, problem: null, isOverlapping: false };
  if (!whole.isClosed) return { volumeM3: null, problem: 'open-body', isOverlapping: false };
  if (!(whole.volumeM3 > LEAST_M3)) return { volumeM3: null, problem: 'volume-not-positive', isOverlapping: false };
  const pieces = parts && parts.length > 1 ? parts.flatMap(listPieces) : listPieces(mesh);
  if (pieces.length === 1) return { volumeM3: whole.volumeM3, problem: null, isOverlapping: false };
  const measures = pieces.map((p) => measureMesh(p)!);
  // A piece that looks inward is a hollow of the one around it.
  const solid = measures.flatMap((m, i) => (m.volumeM3 > 0 ? [i] : []));
  const meets = (i: number, j: number) =>
    [0, 1, 2].every(
      (k) => Math.min(measures[i]!.max[k]!, measures[j]!.max[k]!) - Math.max(measures[i]!.min[k]!, measures[j]!.min[k]!) > 1e-3, // biome-ignore format: one test
    );
  const isNear = solid.some((i, n) => solid.slice(n + 1).some((j) => meets(i, j)));
  if (!isNear) return { volumeM3: whole.volumeM3, problem: null, isOverlapping: false };
  if (solid.length > MOST_PIECES || mesh.indices.length / 3 > MOST_TRIANGLES)
    return { volumeM3: null, problem: 'solids-overlap', isOverlapping: true };
  const { sharedM3 } = measureSharedVolume(solid.map((i) => pieces[i]!));
  const isOverlapping = sharedM3 > TOUCHING_SHARE * whole.volumeM3;
  return { volumeM3: isOverlapping ? whole.volumeM3 - sharedM3 : whole.volumeM3, problem: null, isOverlapping };
}

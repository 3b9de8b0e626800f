import { LineIndex } from '../geometry/line-index.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { distanceBetween, type Vector2 } from '../geometry/vector.ts';
import type { WallAxis } from './wall-junctions.ts';

const PARALLEL = Math.cos((1 * Math.PI) / 180);

/**
 * Area of each wall's sides that other walls cover face to face, m2: for two straight walls that run beside each other with no more
 * than `TOLERANCE.joint` between their faces, the length they share x the height they share. Openings are not looked at.
 * @example two walls of 5 x 3 m back to back, one shifted by 2 m: 9 m2 each
 */
export function measureCoveredSidesM2(walls: readonly WallAxis[], grid = new LineIndex(walls)): number[] {
  const covered = walls.map(() => 0);
  for (const [i, a] of walls.entries()) {
    if (a.points.length !== 2) continue;
    for (const j of grid.near(i)) {
      const b = walls[j]!;
      if (j < i || b.points.length !== 2) continue;
      const area = sharedSideM2(a, b);
      covered[i]! += area;
      covered[j]! += area;
    }
  }
  return covered;
}

function sharedSideM2(a: WallAxis, b: WallAxis): number {
  const height = Math.min(a.topM, b.topM) - Math.max(a.bottomM, b.bottomM);
  const [p, q] = a.points as [Vector2, Vector2];
  const length = distanceBetween(p, q);
  if (height <= 0 || length === 0) return 0;
  const [ux, uy] = [(q[0] - p[0]) / length, (q[1] - p[1]) / length];
  const [r, s] = b.points as [Vector2, Vector2];
  const other = distanceBetween(r, s);
  if (other === 0 || Math.abs((s[0] - r[0]) * ux + (s[1] - r[1]) * uy) < PARALLEL * other) return 0;
  const aside = ([x, y]: Vector2) => (x - p[0]) * -uy + (y - p[1]) * ux;
  const gap = Math.abs((aside(r) + aside(s)) / 2) - (a.widthM + b.widthM) / 2;
  // Walls in one line, or far apart, cover nothing of each other's sides.
  if (Math.abs(gap) > TOLERANCE.joint) return 0;
  const along = ([x, y]: Vector2) => (x - p[0]) * ux + (y - p[1]) * uy;
  const [from, to] = [along(r), along(s)].sort((x, y) => x - y) as [number, number];
  return Math.max(0, Math.min(length, to) - Math.max(0, from)) * height;
}

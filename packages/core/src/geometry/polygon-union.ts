import { setPrecision, union } from 'polyclip-ts';
import type { Figure } from './union-area.ts';
import type { Vector2 } from './vector.ts';

/** Corners are brought onto a grid this fine, m, so that edges that should be one are. */
const GRID_M = 1e-6;

/**
 * What figures cover together, as figures: each its outer outline, counter-clockwise, then its holes, clockwise.
 * @example two 2 x 2 squares side by side give one of four corners
 */
export function uniteFigures(figures: readonly Figure[]): Figure[] {
  const snap = (v: number) => Math.round(v / GRID_M) * GRID_M;
  const rings = figures.map((figure) =>
    figure.map((ring) => ring.map(([x, y]): [number, number] => [snap(x), snap(y)])),
  );
  const [first, ...rest] = rings;
  if (!first) return [];
  setPrecision(GRID_M / 10);
  return union(first, ...rest).map((polygon) =>
    polygon.map((ring) => straighten(ring.slice(0, -1).map(([x, y]): Vector2 => [x, y]))),
  );
}

/** A ring without corners on straight runs. */
function straighten(ring: readonly Vector2[]): Vector2[] {
  return ring.filter((p, i) => {
    const [a, b] = [ring.at(i - 1)!, ring[(i + 1) % ring.length]!];
    const [ux, uy, vx, vy] = [p[0] - a[0], p[1] - a[1], b[0] - p[0], b[1] - p[1]];
    return Math.abs(ux * vy - uy * vx) > GRID_M * 2 * Math.hypot(vx, vy) || ux * vx + uy * vy < 0;
  });
}

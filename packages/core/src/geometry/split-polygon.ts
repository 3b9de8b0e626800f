import { measurePolygonAreaM2 } from './outline.ts';
import type { Vector2 } from './vector.ts';

/** Pieces smaller than this are none, m2. */
const LEAST_M2 = 0.01;

/**
 * Cuts a polygon in two along the line through two points, however far apart they are. Null if the line leaves it whole, or cuts it
 * into more than two pieces.
 * @example a 4 x 3 rectangle along x = 1 gives 1 x 3 and 3 x 3
 */
export function splitPolygon(polygon: readonly Vector2[], from: Vector2, to: Vector2): [Vector2[], Vector2[]] | null {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const length = Math.hypot(dx, dy);
  if (length < 1e-6) return null;
  const sideOf = ([x, y]: Vector2) => {
    const d = (dx * (y - from[1]) - dy * (x - from[0])) / length;
    return Math.abs(d) < 1e-6 ? 0 : Math.sign(d);
  };
  const sides = polygon.map(sideOf);
  let changes = 0;
  const left: Vector2[] = [];
  const right: Vector2[] = [];
  polygon.forEach((p, i) => {
    const q = polygon[(i + 1) % polygon.length]!;
    const [a, b] = [sides[i]!, sides[(i + 1) % polygon.length]!];
    if (a >= 0) left.push(p);
    if (a <= 0) right.push(p);
    if (a * b < 0) {
      const distance = ([x, y]: Vector2) => dx * (y - from[1]) - dy * (x - from[0]);
      const t = distance(p) / (distance(p) - distance(q));
      const cut: Vector2 = [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
      left.push(cut);
      right.push(cut);
      changes++;
    }
    // A corner on the line counts where the outline goes from one side to the other there.
    if (a === 0) {
      const before = sides[(i + polygon.length - 1) % polygon.length]!;
      if (before * b < 0) changes++;
    }
  });
  const isCut = changes === 2 && measurePolygonAreaM2(left) > LEAST_M2 && measurePolygonAreaM2(right) > LEAST_M2;
  return isCut ? [left, right] : null;
}

/** Length of the edges of rings, m, without those that two rings share. @example two 2 x 2 squares side by side: 12 */
export function measureJoinedPerimeterM(rings: readonly (readonly Vector2[])[]): number {
  const edges = rings.flatMap((ring, n) => ring.map((a, i) => ({ n, a, b: ring[(i + 1) % ring.length]! })));
  const lengthOf = ({ a, b }: { a: Vector2; b: Vector2 }) => Math.hypot(b[0] - a[0], b[1] - a[1]);
  let total = edges.reduce((sum, e) => sum + lengthOf(e), 0);
  for (const [i, e] of edges.entries()) {
    const length = lengthOf(e);
    if (length === 0) continue;
    const [ux, uy] = [(e.b[0] - e.a[0]) / length, (e.b[1] - e.a[1]) / length];
    for (const f of edges.slice(i + 1)) {
      if (f.n === e.n) continue;
      const along = (p: Vector2) => (p[0] - e.a[0]) * ux + (p[1] - e.a[1]) * uy;
      const aside = (p: Vector2) => Math.abs((p[0] - e.a[0]) * uy - (p[1] - e.a[1]) * ux);
      if (aside(f.a) > 1e-3 || aside(f.b) > 1e-3) continue;
      const [s, t] = [along(f.a), along(f.b)].sort((x, y) => x - y) as [number, number];
      total -= 2 * Math.max(0, Math.min(length, t) - Math.max(0, s));
    }
  }
  return total;
}

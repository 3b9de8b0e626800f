import { distanceBetween, type Vector2 } from './vector.ts';

/** The smallest rectangle around points on a plane. */
export interface OwnRectangle {
  /** Longer and shorter side, m. */
  readonly longM: number;
  readonly shortM: number;
  /** Direction of the longer side from the x axis, radians, in (-π/2, π/2]. */
  readonly angle: number;
}

/** Shorter edges than this share of the extent are chords of a curve; no side lies along them. */
const EDGE_SHARE = 0.1;
/** A turned rectangle is taken only if it is smaller than the one along the axes by more than this share. */
const BETTER_SHARE = 1e-9;

/** Convex hull of points, counter-clockwise (monotone chain). */
function findHull(points: readonly Vector2[]): Vector2[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const turn = (o: Vector2, a: Vector2, b: Vector2) => (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
  const half = (list: readonly Vector2[]): Vector2[] => {
    const chain: Vector2[] = [];
    for (const p of list) {
      while (chain.length >= 2 && turn(chain.at(-2)!, chain.at(-1)!, p) <= 0) chain.pop();
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

/**
 * Smallest rectangle around points: one of its sides lies along an edge of their hull. Along the axes where that is as small.
 * @example a 4 x 1 rectangle turned by 30° gives longM 4, shortM 1, angle π/6
 */
export function measureOwnRectangle(points: readonly Vector2[]): OwnRectangle {
  const extent = (cos: number, sin: number): [number, number] => {
    let [u0, u1, v0, v1] = [Infinity, -Infinity, Infinity, -Infinity];
    for (const [x, y] of points) {
      const u = x * cos + y * sin;
      const v = y * cos - x * sin;
      if (u < u0) u0 = u;
      if (u > u1) u1 = u;
      if (v < v0) v0 = v;
      if (v > v1) v1 = v;
    }
    return [u1 - u0, v1 - v0];
  };
  const [dx, dy] = extent(1, 0);
  let best = { u: dx, v: dy, angle: 0 };
  const hull = findHull(points);
  for (let i = 0; i < hull.length; i++) {
    const [a, b] = [hull[i]!, hull[(i + 1) % hull.length]!];
    const length = distanceBetween(a, b);
    if (length < EDGE_SHARE * Math.max(dx, dy)) continue;
    const [u, v] = extent((b[0] - a[0]) / length, (b[1] - a[1]) / length);
    if (u * v < best.u * best.v * (1 - BETTER_SHARE)) best = { u, v, angle: Math.atan2(b[1] - a[1], b[0] - a[0]) };
  }
  const along = best.u >= best.v ? best.angle : best.angle + Math.PI / 2;
  const angle = along > Math.PI / 2 ? along - Math.PI : along <= -Math.PI / 2 ? along + Math.PI : along;
  return { longM: Math.max(best.u, best.v), shortM: Math.min(best.u, best.v), angle };
}

/**
 * Thickness and centre-line length of a strip of one thickness with square ends, straight, bent or curved, from its area and
 * perimeter: A = L·t and P = 2(L + t). Null if no such strip has these.
 * @example an L of 4 m + 3 m (outside), 0.2 m thick: A 1.36, P 14 -> t 0.2, L 6.8
 */
export function measureStrip(areaM2: number, perimeterM: number): { lengthM: number; thicknessM: number } | null {
  const root = (perimeterM * perimeterM) / 4 - 4 * areaM2;
  if (!(areaM2 > 0) || root < 0) return null;
  const thicknessM = (perimeterM / 2 - Math.sqrt(root)) / 2;
  return thicknessM > 0 ? { lengthM: areaM2 / thicknessM, thicknessM } : null;
}

import { CIRCLE_SEGMENTS, TOLERANCE } from './tolerances.ts';
import type { Vector2 } from './vector.ts';

/**
 * A vertex of a closed outline on a plane, metres. `sweep` is the angle in radians of the arc to the next vertex,
 * counter-clockwise positive; 0 is a straight edge.
 */
export interface OutlineVertex {
  readonly x: number;
  readonly y: number;
  readonly sweep: number;
}
export type Outline = readonly OutlineVertex[];

/** Makes an outline of straight edges. */
export function polygonToOutline(points: readonly Vector2[]): Outline {
  return points.map(([x, y]) => ({ x, y, sweep: 0 }));
}

/** A corner of a shape that is to be rounded, metres; radius 0 leaves it sharp. */
export interface RoundCorner {
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}

/**
 * An outline of straight edges whose corners are arcs that touch both edges: fillets where it turns in, rounded edges where it turns
 * out. A radius that finds no room on its edges is left out.
 * @example a square of 2 m with corners of 0.5 m covers 4 - (4 - π) x 0.25 m2
 */
export function roundCorners(corners: readonly RoundCorner[]): Outline {
  const n = corners.length;
  return corners.flatMap((c, i): OutlineVertex[] => {
    const [before, next] = [corners[(i + n - 1) % n]!, corners[(i + 1) % n]!];
    const sharp = { x: c.x, y: c.y, sweep: 0 };
    const [ax, ay, bx, by] = [c.x - before.x, c.y - before.y, next.x - c.x, next.y - c.y];
    const [la, lb] = [Math.hypot(ax, ay), Math.hypot(bx, by)];
    if (!(c.radius > 0) || la === 0 || lb === 0) return [sharp];
    const turn = Math.atan2(ax * by - ay * bx, ax * bx + ay * by);
    const reach = c.radius * Math.abs(Math.tan(turn / 2));
    if (Math.abs(turn) < 1e-9 || reach > la * (1 + 1e-9) || reach > lb * (1 + 1e-9)) return [sharp];
    return [
      { x: c.x - (ax / la) * reach, y: c.y - (ay / la) * reach, sweep: turn },
      { x: c.x + (bx / lb) * reach, y: c.y + (by / lb) * reach, sweep: 0 },
    ];
  });
}

/** The vertex after another, around the outline. */
const after = (outline: Outline, i: number): OutlineVertex => outline[i + 1 < outline.length ? i + 1 : 0]!;
const chordOf = (a: OutlineVertex, b: OutlineVertex) => Math.sqrt((b.x - a.x) ** 2 + (b.y - a.y) ** 2);
const arcRadius = (chord: number, sweep: number) => chord / (2 * Math.abs(Math.sin(sweep / 2)));

/**
 * Area within an outline, m2, arcs exact: the polygon's area plus a circle segment r²/2·(θ - sin θ) per arc.
 * Positive counter-clockwise.
 */
export function measureSignedAreaM2(outline: Outline): number {
  let area = 0;
  for (let i = 0; i < outline.length; i++) {
    const a = outline[i]!;
    const b = after(outline, i);
    area += (a.x * b.y - b.x * a.y) / 2;
    if (a.sweep !== 0) {
      const r = arcRadius(chordOf(a, b), a.sweep);
      const angle = Math.abs(a.sweep);
      area += (Math.sign(a.sweep) * r * r * (angle - Math.sin(angle))) / 2;
    }
  }
  return area;
}

/** Length of an outline, m, arcs exact. @example a 2 x 3 rectangle gives 10 */
export function measurePerimeterM(outline: Outline): number {
  let sum = 0;
  for (let i = 0; i < outline.length; i++) {
    const a = outline[i]!;
    const b = after(outline, i);
    const chord = chordOf(a, b);
    sum += a.sweep === 0 ? chord : arcRadius(chord, a.sweep) * Math.abs(a.sweep);
  }
  return sum;
}

/** Centre, radius and first angle of the arc that begins at a vertex; null for a straight edge. */
export function readArc(
  outline: Outline,
  i: number,
): {
  readonly cx: number;
  readonly cy: number;
  readonly r: number;
  readonly start: number;
  readonly sweep: number;
} | null {
  const a = outline[i]!;
  const b = after(outline, i);
  const chord = chordOf(a, b);
  if (a.sweep === 0 || chord === 0) return null;
  const r = arcRadius(chord, a.sweep);
  const side = Math.sign(a.sweep) * (Math.abs(a.sweep) > Math.PI ? -1 : 1);
  const rise = Math.sqrt(Math.max(0, r * r - (chord / 2) ** 2)) * side;
  const cx = (a.x + b.x) / 2 - ((b.y - a.y) / chord) * rise;
  const cy = (a.y + b.y) / 2 + ((b.x - a.x) / chord) * rise;
  return { cx, cy, r, start: Math.atan2(a.y - cy, a.x - cx), sweep: a.sweep };
}

/** The outline as points, arcs in chords of a full circle's `segments`. */
export function outlineToPolygon(outline: Outline, segments = CIRCLE_SEGMENTS): Vector2[] {
  const points: Vector2[] = [];
  for (let i = 0; i < outline.length; i++) {
    const a = outline[i]!;
    const b = after(outline, i);
    points.push([a.x, a.y]);
    if (a.sweep === 0 || chordOf(a, b) === 0) continue;
    const { cx, cy, r, start } = readArc(outline, i)!;
    const steps = Math.max(2, Math.ceil((Math.abs(a.sweep) / (2 * Math.PI)) * segments));
    for (let k = 1; k < steps; k++) {
      const angle = start + (a.sweep * k) / steps;
      points.push([cx + r * Math.cos(angle), cy + r * Math.sin(angle)]);
    }
  }
  return points;
}

/** Area of a polygon, m2, not signed. */
export function measurePolygonAreaM2(points: readonly Vector2[]): number {
  return Math.abs(measureSignedAreaM2(polygonToOutline(points)));
}

/** True if the point lies inside the polygon (even-odd). */
export function isPointInPolygon([x, y]: Vector2, polygon: readonly Vector2[]): boolean {
  let inside = false;
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
    const [xi, yi] = polygon[i]!;
    const [xj, yj] = polygon[j]!;
    if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
  }
  return inside;
}

/** Distance of a point from the nearest edge of a polygon, m. */
export function distanceToPolygon([x, y]: Vector2, polygon: readonly Vector2[]): number {
  let best = Number.POSITIVE_INFINITY;
  for (let i = 0; i < polygon.length; i++) {
    const [a, b] = [polygon[i]!, polygon[(i + 1) % polygon.length]!];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const square = dx * dx + dy * dy;
    const t = square === 0 ? 0 : Math.max(0, Math.min(1, ((x - a[0]) * dx + (y - a[1]) * dy) / square));
    best = Math.min(best, Math.hypot(a[0] + dx * t - x, a[1] + dy * t - y));
  }
  return best;
}

/** True if two polygons' edges cross or touch anywhere. */
export function doPolygonsCross(a: readonly Vector2[], b: readonly Vector2[]): boolean {
  const side = (p: Vector2, q: Vector2, r: Vector2) => (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
  for (let i = 0; i < a.length; i++) {
    const [p, q] = [a[i]!, a[(i + 1) % a.length]!];
    for (let j = 0; j < b.length; j++) {
      const [r, s] = [b[j]!, b[(j + 1) % b.length]!];
      if (side(p, q, r) * side(p, q, s) <= 0 && side(r, s, p) * side(r, s, q) <= 0) {
        const overlap = (k: 0 | 1) =>
          Math.max(Math.min(p[k], q[k]), Math.min(r[k], s[k])) <= Math.min(Math.max(p[k], q[k]), Math.max(r[k], s[k]));
        if (overlap(0) && overlap(1)) return true;
      }
    }
  }
  return false;
}

/** True if `inner` lies wholly within `outer` without touching its edge. */
export function isPolygonInside(inner: readonly Vector2[], outer: readonly Vector2[]): boolean {
  return inner.every((p) => isPointInPolygon(p, outer)) && !doPolygonsCross(inner, outer);
}

/** Longest outline that is looked through for crossings. */
const MOST_CORNERS = 3000;

/**
 * True if edges of a polygon run through each other; edges that only touch, as those of a keyhole do, are no crossing.
 * @example a bow tie (0,0) (2,2) (2,0) (0,2) crosses itself
 */
export function crossesItself(points: readonly Vector2[]): boolean {
  const n = points.length;
  if (n < 4 || n > MOST_CORNERS) return false;
  /** Side of the line from a to b that p lies on; 0 for on it. */
  const side = (a: Vector2, b: Vector2, p: Vector2) => {
    const area = (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
    const reach = Math.abs(b[0] - a[0]) + Math.abs(b[1] - a[1]);
    return Math.abs(area) <= reach * TOLERANCE.point ? 0 : Math.sign(area);
  };
  for (let i = 0; i < n; i++) {
    const [a, b] = [points[i]!, points[(i + 1) % n]!];
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      const [c, d] = [points[j]!, points[(j + 1) % n]!];
      if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) return true;
    }
  }
  return false;
}

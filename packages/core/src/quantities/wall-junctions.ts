import { DisjointSets } from '../geometry/disjoint-sets.ts';
import { LineIndex } from '../geometry/line-index.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { distanceBetween, type Vector2 } from '../geometry/vector.ts';
import { appendToList } from '../result/append-to-list.ts';

/** The middle line of a wall on plan, in the model's world, with its thickness and height range. Metres. */
export interface WallAxis {
  /** Two points of a straight wall, more of a bent or curved one. */
  readonly points: readonly Vector2[];
  readonly widthM: number;
  readonly bottomM: number;
  readonly topM: number;
}

/** How walls meet. Each junction is counted once; summed over walls the counts are those of the whole. */
export interface JunctionCounts {
  readonly corners: number;
  readonly tees: number;
  readonly crosses: number;
  readonly freeEnds: number;
}

export type JunctionKind = keyof JunctionCounts;

/** A place where walls end or meet. `owner` is the wall that it is counted with. */
export interface Junction {
  readonly kind: JunctionKind;
  readonly at: Vector2;
  readonly owner: number;
  /** Positions of all its walls in the list given. */
  readonly walls: readonly number[];
}

/** Directions closer than this are one arm, and those as close to opposite are one line. */
const SAME_DIRECTION = Math.cos((10 * Math.PI) / 180);

/** What touches at a place: the end of a wall, or a point along it. */
interface Touch {
  readonly wall: number;
  readonly at: Vector2;
  /** Unit directions along the wall away from the place: one for an end, two for a point along it. */
  readonly arms: readonly Vector2[];
}

/**
 * Finds corners, tees, crosses and free ends. The arms of walls that leave a place decide: one arm is a free end, two that are
 * not in line a corner, three a tee, four or more a cross; two arms in line are the same wall going on and no junction.
 * An end reaches another wall if it comes within half that wall's thickness of its middle line, and another end if the two lie
 * within both half thicknesses; `TOLERANCE.joint` is allowed on top. Walls that do not share a height do not meet.
 * A free end, a corner and a cross are counted with the first of their walls in the list, a tee with the wall that ends there.
 */
export function findJunctions(walls: readonly WallAxis[], grid = new LineIndex(walls)): Junction[] {
  const finder = new JunctionFinder(walls, grid);
  return finder.find();
}

/** Counts of junctions over all walls and wall by wall. */
export function countJunctions(
  junctions: readonly Junction[],
  wallCount: number,
): { total: JunctionCounts; byWall: JunctionCounts[] } {
  const zero = () => ({ corners: 0, tees: 0, crosses: 0, freeEnds: 0 });
  const total = zero();
  const byWall = Array.from({ length: wallCount }, zero);
  for (const { kind, owner } of junctions) {
    total[kind]++;
    byWall[owner]![kind]++;
  }
  return { total, byWall };
}

class JunctionFinder {
  private readonly touches: Touch[] = [];
  private readonly joined: (readonly [number, number])[] = [];
  /** Places along each wall that others touch, by position in `touches`. */
  private readonly along = new Map<number, { touch: number; distance: number; reach: number }[]>();

  constructor(
    private readonly walls: readonly WallAxis[],
    private readonly grid: LineIndex,
  ) {}

  find(): Junction[] {
    const ends = this.walls.map((wall, i) => {
      const first = this.addTouch(i, wall.points[0]!, [direction(wall.points[0]!, wall.points[1]!)]);
      const last = this.addTouch(i, wall.points.at(-1)!, [direction(wall.points.at(-1)!, wall.points.at(-2)!)]);
      return [first, last] as const;
    });
    for (let i = 0; i < this.walls.length; i++) {
      for (const j of this.grid.near(i)) if (this.shareHeight(i, j)) this.joinEnds(i, j, ends);
    }
    for (let i = 0; i < this.walls.length; i++) {
      for (const j of this.grid.near(i)) if (j > i && this.shareHeight(i, j)) this.joinCrossing(i, j, ends);
    }
    return this.classify();
  }

  private addTouch(wall: number, at: Vector2, arms: readonly Vector2[]): number {
    return this.touches.push({ wall, at, arms }) - 1;
  }

  private shareHeight(i: number, j: number): boolean {
    const [a, b] = [this.walls[i]!, this.walls[j]!];
    return Math.min(a.topM, b.topM) - Math.max(a.bottomM, b.bottomM) > TOLERANCE.joint;
  }

  /** Joins the ends of wall i to those of wall j, or to a point along it. */
  private joinEnds(i: number, j: number, ends: readonly (readonly [number, number])[]): void {
    const [own, other] = [this.walls[i]!, this.walls[j]!];
    for (const end of ends[i]!) {
      const at = this.touches[end]!.at;
      const endReach = Math.sqrt(own.widthM ** 2 + other.widthM ** 2) / 2 + TOLERANCE.joint;
      const nearEnd = ends[j]!.find((e) => distanceBetween(this.touches[e]!.at, at) <= endReach);
      if (nearEnd !== undefined) {
        this.union(end, nearEnd);
        continue;
      }
      const foot = footOn(other, at);
      if (foot.gap <= other.widthM / 2 + TOLERANCE.joint) this.union(end, this.touchAlong(j, foot, own.widthM));
    }
  }

  /** Joins two walls that run through each other away from their ends. */
  private joinCrossing(i: number, j: number, ends: readonly (readonly [number, number])[]): void {
    const [a, b] = [this.walls[i]!, this.walls[j]!];
    for (const at of intersections(a.points, b.points)) {
      const isEnd = (wall: number, other: WallAxis) =>
        ends[wall]!.some((e) => distanceBetween(this.touches[e]!.at, at) <= other.widthM / 2 + TOLERANCE.joint);
      if (isEnd(i, b) || isEnd(j, a)) continue;
      this.union(this.touchAlong(i, footOn(a, at), b.widthM), this.touchAlong(j, footOn(b, at), a.widthM));
    }
  }

  /** A place along a wall: one that is there already if it is the same. */
  private touchAlong(wall: number, foot: Foot, widthM: number): number {
    const list = this.along.get(wall) ?? [];
    this.along.set(wall, list);
    const known = list.find(
      (p) => Math.abs(p.distance - foot.alongM) <= Math.max(p.reach, widthM) / 2 + TOLERANCE.joint,
    );
    if (known) return known.touch;
    const touch = this.addTouch(wall, foot.at, [foot.tangent, [-foot.tangent[0], -foot.tangent[1]]]);
    list.push({ touch, distance: foot.alongM, reach: widthM });
    return touch;
  }

  private union(a: number, b: number): void {
    this.joined.push([a, b]);
  }

  private classify(): Junction[] {
    const sets = new DisjointSets(this.touches.length);
    for (const [a, b] of this.joined) sets.join(a, b);
    const places = new Map<number, number[]>();
    for (let i = 0; i < this.touches.length; i++) appendToList(places, sets.root(i), i);
    const out: Junction[] = [];
    for (const members of places.values()) {
      const touches = members.map((m) => this.touches[m]!);
      const arms: Vector2[] = [];
      for (const arm of touches.flatMap((t) => t.arms))
        if (!arms.some((a) => cosine(a, arm) > SAME_DIRECTION)) arms.push(arm);
      const kind = armsToKind(arms);
      if (!kind) continue;
      const walls = [...new Set(touches.map((t) => t.wall))].sort((a, b) => a - b);
      const stem = kind === 'tees' ? findStem(touches, arms) : null;
      out.push({ kind, at: touches[0]!.at, owner: stem ?? walls[0]!, walls });
    }
    return out;
  }
}

function armsToKind(arms: readonly Vector2[]): JunctionKind | null {
  if (arms.length === 1) return 'freeEnds';
  if (arms.length === 2) return cosine(arms[0]!, arms[1]!) < -SAME_DIRECTION ? null : 'corners';
  return arms.length === 3 ? 'tees' : 'crosses';
}

/** The wall of a tee whose arm has no other in line with it. */
function findStem(touches: readonly Touch[], arms: readonly Vector2[]): number | null {
  const stem = arms.find((a) => arms.every((b) => a === b || cosine(a, b) > -SAME_DIRECTION));
  const owner = touches.find((t) => t.arms.length === 1 && stem && cosine(t.arms[0]!, stem) > SAME_DIRECTION);
  return owner?.wall ?? null;
}

interface Foot {
  readonly at: Vector2;
  readonly gap: number;
  /** Distance from the wall's start along it, by arc length. */
  readonly alongM: number;
  readonly tangent: Vector2;
}

/** The point of a wall's middle line nearest to a point. */
function footOn({ points }: WallAxis, p: Vector2): Foot {
  let best: Foot = { at: points[0]!, gap: Infinity, alongM: 0, tangent: [1, 0] };
  let run = 0;
  for (let i = 0; i + 1 < points.length; i++) {
    const [a, b] = [points[i]!, points[i + 1]!];
    const length = distanceBetween(a, b);
    if (length === 0) continue;
    const [dx, dy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const t = Math.max(0, Math.min(length, (p[0] - a[0]) * dx + (p[1] - a[1]) * dy));
    const at: Vector2 = [a[0] + dx * t, a[1] + dy * t];
    const gap = distanceBetween(at, p);
    if (gap < best.gap) best = { at, gap, alongM: run + t, tangent: [dx, dy] };
    run += length;
  }
  return best;
}

function intersections(a: readonly Vector2[], b: readonly Vector2[]): Vector2[] {
  const out: Vector2[] = [];
  for (let i = 0; i + 1 < a.length; i++) {
    for (let j = 0; j + 1 < b.length; j++) {
      const [p, q, r, s] = [a[i]!, a[i + 1]!, b[j]!, b[j + 1]!];
      const [ux, uy, vx, vy] = [q[0] - p[0], q[1] - p[1], s[0] - r[0], s[1] - r[1]];
      const det = ux * vy - uy * vx;
      if (Math.abs(det) < 1e-12) continue;
      const t = ((r[0] - p[0]) * vy - (r[1] - p[1]) * vx) / det;
      const k = ((r[0] - p[0]) * uy - (r[1] - p[1]) * ux) / det;
      if (t >= 0 && t <= 1 && k >= 0 && k <= 1) out.push([p[0] + ux * t, p[1] + uy * t]);
    }
  }
  return out;
}

const cosine = (a: Vector2, b: Vector2) => a[0] * b[0] + a[1] * b[1];
function direction(from: Vector2, to: Vector2): Vector2 {
  const length = distanceBetween(from, to);
  return length > 0 ? [(to[0] - from[0]) / length, (to[1] - from[1]) / length] : [1, 0];
}

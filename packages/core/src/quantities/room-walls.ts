import { LineIndex } from '../geometry/line-index.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import type { Vector2 } from '../geometry/vector.ts';
import type { WallAxis } from './wall-junctions.ts';

/** A straight stretch of a room's edge with the wall behind it. Metres along the edge, from its first corner. */
export interface RoomStretch {
  /** Number of the edge in the outline. */
  readonly edge: number;
  readonly fromM: number;
  readonly toM: number;
  /** Position of the wall in the list given; null where there is none. */
  readonly wall: number | null;
  /** True if the room lies to the left of the wall's middle line. */
  readonly isLeft: boolean;
}

const PARALLEL = Math.cos(Math.PI / 180);

/**
 * Finds the walls around rooms: those that run along an edge of the outline with their face, or their middle, no further from it than
 * `TOLERANCE.joint` and share a height with the room. Where several do, the one whose face is nearest counts.
 */
export class RoomWalls {
  private grid: LineIndex | null = null;

  constructor(private readonly walls: readonly WallAxis[]) {}

  /** The stretches of an outline, edge by edge; together they are its whole length. */
  listStretches(outline: readonly Vector2[], bottomM: number, topM: number): RoomStretch[] {
    const turn = Math.sign(signedArea(outline)) || 1;
    this.grid ??= new LineIndex(this.walls);
    const { grid } = this;
    return outline.flatMap((a, edge): RoomStretch[] => {
      const b = outline[(edge + 1) % outline.length]!;
      const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
      if (length < TOLERANCE.point) return [];
      const found = grid
        .nearLine({ points: [a, b], widthM: 0 })
        .flatMap((wall) => this.measureContact(wall, a, b, length, turn, bottomM, topM));
      found.sort((x, y) => x.gapM - y.gapM);
      const free: RoomStretch[] = [];
      let rest: [number, number][] = [[0, length]];
      for (const { fromM, toM, wall, isLeft } of found) {
        const next: [number, number][] = [];
        for (const [from, to] of rest) {
          const [s, e] = [Math.max(from, fromM), Math.min(to, toM)];
          if (e - s < TOLERANCE.touch) {
            next.push([from, to]);
            continue;
          }
          free.push({ edge, fromM: s, toM: e, wall, isLeft });
          if (s - from > TOLERANCE.touch) next.push([from, s]);
          if (to - e > TOLERANCE.touch) next.push([e, to]);
        }
        rest = next;
      }
      for (const [fromM, toM] of rest) free.push({ edge, fromM, toM, wall: null, isLeft: true });
      return free.sort((x, y) => x.fromM - y.fromM);
    });
  }

  private measureContact(
    wall: number,
    a: Vector2,
    b: Vector2,
    length: number,
    turn: number,
    bottomM: number,
    topM: number,
  ): { fromM: number; toM: number; wall: number; isLeft: boolean; gapM: number }[] {
    const w = this.walls[wall]!;
    if (Math.min(w.topM, topM) - Math.max(w.bottomM, bottomM) <= TOLERANCE.joint) return [];
    const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    return w.points.slice(1).flatMap((q, i) => {
      const p = w.points[i]!;
      const run = Math.hypot(q[0] - p[0], q[1] - p[1]);
      const cosine = run > 0 ? ((q[0] - p[0]) * ux + (q[1] - p[1]) * uy) / run : 0;
      if (Math.abs(cosine) < PARALLEL) return [];
      // Outward of the room is to the right of an edge that runs counter-clockwise.
      const aside = ([x, y]: Vector2) => ((x - a[0]) * uy - (y - a[1]) * ux) * turn;
      const off = (aside(p) + aside(q)) / 2;
      if (off < -TOLERANCE.joint || off > w.widthM / 2 + TOLERANCE.joint) return [];
      const along = ([x, y]: Vector2) => (x - a[0]) * ux + (y - a[1]) * uy;
      const [s, e] = [along(p), along(q)].sort((x, y) => x - y) as [number, number];
      // A wall's middle line ends at the middle of the wall it meets: its face goes on to the corner of the room.
      const reach = w.widthM / 2 + TOLERANCE.joint;
      const [fromM, toM] = [s <= reach ? Math.max(0, s - reach) : s, e >= length - reach ? Math.min(length, e + reach) : e]; // biome-ignore format: one stretch
      const isSame = cosine > 0;
      return toM - fromM > TOLERANCE.touch && toM > 0 && fromM < length
        ? [
            {
              fromM: Math.max(0, fromM),
              toM: Math.min(length, toM),
              wall,
              isLeft: isSame === turn > 0,
              gapM: Math.abs(off - w.widthM / 2),
            },
          ]
        : [];
    });
  }
}

function signedArea(outline: readonly Vector2[]): number {
  return outline.reduce((sum, [x, y], i) => {
    const [nx, ny] = outline[(i + 1) % outline.length]!;
    return sum + (x * ny - nx * y) / 2;
  }, 0);
}

/**
 * An outline with each of its stretches moved outward by its own distance. Neighbours are joined where their lines meet; two in one
 * line that moved differently by a step. Returns the corners.
 */
export function moveOutline(
  outline: readonly Vector2[],
  stretches: readonly { readonly edge: number; readonly fromM: number; readonly toM: number; readonly outM: number }[],
): Vector2[] {
  const turn = Math.sign(signedArea(outline)) || 1;
  const lines = stretches.map(({ edge, fromM, toM, outM }) => {
    const [a, b] = [outline[edge]!, outline[(edge + 1) % outline.length]!];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const [ox, oy] = [uy * turn * outM, -ux * turn * outM];
    const at = (m: number): Vector2 => [a[0] + ux * m + ox, a[1] + uy * m + oy];
    return { from: at(fromM), to: at(toM), u: [ux, uy] as Vector2 };
  });
  return lines.flatMap((line, i): Vector2[] => {
    const next = lines[(i + 1) % lines.length]!;
    const det = line.u[0] * next.u[1] - line.u[1] * next.u[0];
    if (Math.abs(det) < 1e-9) {
      const isStep = Math.hypot(next.from[0] - line.to[0], next.from[1] - line.to[1]) > 1e-9;
      return isStep ? [line.to, next.from] : [line.to];
    }
    const [dx, dy] = [next.from[0] - line.to[0], next.from[1] - line.to[1]];
    const t = (dx * next.u[1] - dy * next.u[0]) / det;
    return [[line.to[0] + line.u[0] * t, line.to[1] + line.u[1] * t]];
  });
}

/**
 * Thickness of a wall's finish on one side: the layers that lie on that side of its thickest one, m.
 * @param thicknesses layer by layer, from the first face
 */
export function measureFinishM(thicknesses: readonly number[], isFirstSide: boolean): number {
  const core = thicknesses.indexOf(Math.max(...thicknesses));
  const side = isFirstSide ? thicknesses.slice(0, Math.max(0, core)) : thicknesses.slice(core + 1);
  return side.reduce((sum, m) => sum + m, 0);
}

import { type Outline, type OutlineVertex, outlineToPolygon, type Vector2 } from '@tally/core';
import { asCoordinates, asEnum, asNumber, asNumbers, asRef, asRefs, type StepFile } from '../step/step-file.ts';
import { StepEnum, StepRef, StepTyped, type StepValue } from '../step/step-value.ts';
import type { PlacementReader } from './placements.ts';

/** An open or closed run of straight edges and arcs: `sweeps[i]` is the arc angle from point i to i + 1. */
interface Path {
  readonly points: Vector2[];
  readonly sweeps: number[];
}

const CLOSE = 1e-6;
const ELLIPSE_CHORDS = 256;
const isNear = (a: Vector2, b: Vector2) => Math.hypot(a[0] - b[0], a[1] - b[1]) < CLOSE;

/** Reads plane curves as outlines with exact arcs, metres. Null for kinds that only a mesh can follow. */
export class CurveReader {
  constructor(
    private readonly file: StepFile,
    private readonly placements: PlacementReader,
    readonly angleFactor: number,
  ) {}

  /** A closed curve as an outline; null if it is not closed or of another kind. */
  readOutline(id: number): Outline | null {
    const path = this.readPath(id, 0);
    if (!path || path.points.length < 2) return null;
    const { points, sweeps } = path;
    const isClosed = isNear(points[0]!, points.at(-1)!);
    const count = isClosed ? points.length - 1 : points.length;
    // An unclosed polyline is closed by a straight edge, as profiles must be closed.
    const vertices = points.slice(0, count).map(([x, y], i): OutlineVertex => ({ x, y, sweep: sweeps[i] ?? 0 }));
    const distinct = vertices.filter(
      (v, i) => v.sweep !== 0 || !isNear([v.x, v.y], [vertices[(i + 1) % count]!.x, vertices[(i + 1) % count]!.y]),
    );
    return distinct.length >= 3 || distinct.some((v) => v.sweep !== 0) ? distinct : null;
  }

  /** A curve from its start to its end as points, arcs in chords; null for kinds that are not read. */
  readLine(id: number): Vector2[] | null {
    const path = this.readPath(id, 0);
    if (!path) return null;
    const out: Vector2[] = [];
    path.points.forEach((p, i) => {
      const next = path.points[i + 1];
      out.push(p);
      const sweep = path.sweeps[i] ?? 0;
      // An outline of this arc and the straight way back gives the arc's chords between its two ends.
      if (next && sweep !== 0)
        out.push(
          ...outlineToPolygon([
            { x: p[0], y: p[1], sweep },
            { x: next[0], y: next[1], sweep: 0 },
          ]).slice(1, -1),
        );
    });
    return out;
  }

  /**
   * The band of one width along an open curve, as the profile of a bent sheet is given: corners mitred, arcs about the same centre.
   * Null where a bend is tighter than the band, or arcs do not run on smoothly.
   */
  readBand(id: number, widthM: number): Outline | null {
    const path = this.readPath(id, 0);
    if (!path || path.points.length < 2 || !(widthM > 0)) return null;
    const [right, left] = [movePath(path, widthM / 2), movePath(path, -widthM / 2)];
    if (!right || !left) return null;
    const there = right.map(([x, y], i): OutlineVertex => ({ x, y, sweep: path.sweeps[i] ?? 0 }));
    const back = [...left].reverse().map(([x, y], i): OutlineVertex => ({ x, y, sweep: i < left.length - 1 ? -(path.sweeps[left.length - 2 - i] ?? 0) : 0 })); // biome-ignore format: one map
    return [...there, ...back];
  }

  private point(ref: number): Vector2 {
    const [x, y] = this.placements.point(new StepRef(ref));
    return [x, y];
  }

  private readPath(id: number, depth: number): Path | null {
    if (depth > 16) return null;
    const a = this.file.attributes(id);
    switch (this.file.typeOf(id)) {
      case 'IFCPOLYLINE': {
        const points = asRefs(a[0]).map((p) => this.point(p));
        return { points, sweeps: points.slice(1).map(() => 0) };
      }
      case 'IFCINDEXEDPOLYCURVE':
        return this.readIndexed(a);
      case 'IFCCOMPOSITECURVE':
      case 'IFC2DCOMPOSITECURVE':
        return this.readComposite(asRefs(a[0]), depth);
      case 'IFCCIRCLE': {
        const { center, radius, start } = this.circle(a);
        const at = (angle: number): Vector2 => [
          center[0] + radius * Math.cos(angle),
          center[1] + radius * Math.sin(angle),
        ];
        return radius > 0 ? { points: [at(start), at(start + Math.PI), at(start)], sweeps: [Math.PI, Math.PI] } : null;
      }
      case 'IFCELLIPSE':
        return this.readEllipse(a, 0, 2 * Math.PI);
      case 'IFCTRIMMEDCURVE':
        return this.readTrimmed(a);
      default:
        return null;
    }
  }

  /** An ellipse between two of its parameters (radians), in chords so fine that areas are right to 0.01 %. */
  private readEllipse(a: readonly StepValue[], from: number, sweep: number): Path | null {
    const m = this.placements.readAxis(asRef(a[0]));
    const f = this.placements.lengthFactor;
    const [rx, ry] = [(asNumber(a[1]) ?? 0) * f, (asNumber(a[2]) ?? 0) * f];
    if (!(rx > 0) || !(ry > 0)) return null;
    const steps = Math.max(8, Math.ceil((Math.abs(sweep) / (2 * Math.PI)) * ELLIPSE_CHORDS));
    const points = Array.from({ length: steps + 1 }, (_, i): Vector2 => {
      const t = from + (sweep * i) / steps;
      const [u, v] = [rx * Math.cos(t), ry * Math.sin(t)];
      return [m[3] + m[0] * u + m[1] * v, m[7] + m[4] * u + m[5] * v];
    });
    return { points, sweeps: points.slice(1).map(() => 0) };
  }

  private circle(a: readonly StepValue[]): { center: Vector2; radius: number; start: number } {
    const m = this.placements.readAxis(asRef(a[0]));
    return {
      center: [m[3], m[7]],
      radius: (asNumber(a[1]) ?? 0) * this.placements.lengthFactor,
      start: Math.atan2(m[4], m[0]),
    };
  }

  private readIndexed(a: readonly StepValue[]): Path | null {
    const list = asRef(a[0]);
    const rows = list === null ? null : this.file.attributes(list)[0];
    if (!Array.isArray(rows)) return null;
    const f = this.placements.lengthFactor;
    const all = rows.map((row): Vector2 => {
      const [x, y] = asCoordinates(row);
      return [x * f, y * f];
    });
    if (!Array.isArray(a[1])) return { points: all, sweeps: all.slice(1).map(() => 0) };
    const path: Path = { points: [], sweeps: [] };
    for (const segment of a[1]) {
      if (!(segment instanceof StepTyped)) return null;
      const points = asNumbers(segment.value).map((i) => all[i - 1]);
      if (points.some((p) => p === undefined)) return null;
      if (segment.type === 'IFCARCINDEX' && points.length === 3)
        append(path, { points: [points[0]!, points[2]!], sweeps: [sweepThrough(points[0]!, points[1]!, points[2]!)] });
      else append(path, { points: points as Vector2[], sweeps: points.slice(1).map(() => 0) });
    }
    return path;
  }

  private readComposite(segments: readonly number[], depth: number): Path | null {
    const path: Path = { points: [], sweeps: [] };
    for (const id of segments) {
      const a = this.file.attributes(id);
      const parent = asRef(a[2]);
      const part = parent === null ? null : this.readPath(parent, depth + 1);
      if (!part) return null;
      append(path, asEnum(a[1]) === 'F' ? reverse(part) : part);
    }
    return path;
  }

  private readTrimmed(a: readonly StepValue[]): Path | null {
    const basis = asRef(a[0]);
    if (basis === null) return null;
    const isForward = !(a[3] instanceof StepEnum) || a[3].name !== 'F';
    if (this.file.typeOf(basis) === 'IFCLINE') {
      const [p, q] = [this.trimPoint(a[1]), this.trimPoint(a[2])];
      if (p && q) return { points: [p, q], sweeps: [0] };
      return this.trimLine(basis, a);
    }
    if (this.file.typeOf(basis) === 'IFCELLIPSE') return this.trimEllipse(this.file.attributes(basis), a, isForward);
    if (this.file.typeOf(basis) !== 'IFCCIRCLE') return null;
    const { center, radius, start } = this.circle(this.file.attributes(basis));
    const angleOf = (trim: StepValue): number | null => {
      const p = this.trimPoint(trim);
      if (p) return Math.atan2(p[1] - center[1], p[0] - center[0]);
      const value = trimParameter(trim);
      return value === null ? null : start + value * this.angleFactor;
    };
    const [from, to] = [angleOf(a[1]), angleOf(a[2])];
    if (from === null || to === null || !(radius > 0)) return null;
    const turn = 2 * Math.PI;
    let sweep = (((to - from) % turn) + turn) % turn;
    if (!isForward) sweep = sweep === 0 ? -turn : sweep - turn;
    if (Math.abs(sweep) < 1e-9) sweep = turn;
    const at = (angle: number): Vector2 => [center[0] + radius * Math.cos(angle), center[1] + radius * Math.sin(angle)];
    // Arcs are kept to less than a full turn so that their chord is never zero.
    const half = sweep / 2;
    return { points: [at(from), at(from + half), at(from + sweep)], sweeps: [half, half] };
  }

  private trimEllipse(ellipse: readonly StepValue[], a: readonly StepValue[], isForward: boolean): Path | null {
    const m = this.placements.readAxis(asRef(ellipse[0]));
    const f = this.placements.lengthFactor;
    const [rx, ry] = [(asNumber(ellipse[1]) ?? 0) * f, (asNumber(ellipse[2]) ?? 0) * f];
    const parameterOf = (trim: StepValue): number | null => {
      const p = this.trimPoint(trim);
      if (!p) {
        const value = trimParameter(trim);
        return value === null ? null : value * this.angleFactor;
      }
      const [dx, dy] = [p[0] - m[3], p[1] - m[7]];
      return Math.atan2((dx * m[1] + dy * m[5]) / ry, (dx * m[0] + dy * m[4]) / rx);
    };
    const [from, to] = [parameterOf(a[1] ?? null), parameterOf(a[2] ?? null)];
    if (from === null || to === null || !(rx > 0) || !(ry > 0)) return null;
    const turn = 2 * Math.PI;
    let sweep = (((to - from) % turn) + turn) % turn;
    if (!isForward) sweep = sweep === 0 ? -turn : sweep - turn;
    if (Math.abs(sweep) < 1e-9) sweep = turn;
    return this.readEllipse(ellipse, from, sweep);
  }

  private trimLine(line: number, a: readonly StepValue[]): Path | null {
    const [start, vector] = this.file.attributes(line);
    const [from, to] = [trimParameter(a[1]), trimParameter(a[2])];
    const v = asRef(vector);
    if (asRef(start) === null || v === null || from === null || to === null) return null;
    const [direction, magnitude] = this.file.attributes(v);
    const d = this.placements.direction(direction) ?? [1, 0, 0];
    const length = (asNumber(magnitude) ?? 1) * this.placements.lengthFactor;
    const n = Math.hypot(d[0], d[1]) || 1;
    const origin = this.point(asRef(start)!);
    const at = (t: number): Vector2 => [origin[0] + (d[0] / n) * length * t, origin[1] + (d[1] / n) * length * t];
    return { points: [at(from), at(to)], sweeps: [0] };
  }

  private trimPoint(trim: StepValue): Vector2 | null {
    const ref = asRefs(trim)[0];
    return ref !== undefined && this.file.is(ref, 'IFCCARTESIANPOINT') ? this.point(ref) : null;
  }
}

function trimParameter(trim: StepValue): number | null {
  return (Array.isArray(trim) ? trim : [trim]).map(asNumber).find((v) => v !== null) ?? null;
}

function append(path: Path, part: Path): void {
  const joins = path.points.length > 0 && isNear(path.points.at(-1)!, part.points[0]!);
  if (path.points.length > 0 && !joins) path.sweeps.push(0);
  path.points.push(...(joins ? part.points.slice(1) : part.points));
  path.sweeps.push(...part.sweeps);
}

function reverse({ points, sweeps }: Path): Path {
  return { points: [...points].reverse(), sweeps: [...sweeps].reverse().map((s) => -s) };
}

/** Angle of the arc from a through b to c, counter-clockwise positive; 0 if they lie on a line. */
function sweepThrough(a: Vector2, b: Vector2, c: Vector2): number {
  const d = 2 * (a[0] * (b[1] - c[1]) + b[0] * (c[1] - a[1]) + c[0] * (a[1] - b[1]));
  if (Math.abs(d) < 1e-15) return 0;
  const sq = (p: Vector2) => p[0] * p[0] + p[1] * p[1];
  const cx = (sq(a) * (b[1] - c[1]) + sq(b) * (c[1] - a[1]) + sq(c) * (a[1] - b[1])) / d;
  const cy = (sq(a) * (c[0] - b[0]) + sq(b) * (a[0] - c[0]) + sq(c) * (b[0] - a[0])) / d;
  const angle = (p: Vector2) => Math.atan2(p[1] - cy, p[0] - cx);
  const turn = 2 * Math.PI;
  const forward = (from: number, to: number) => (((to - from) % turn) + turn) % turn;
  const whole = forward(angle(a), angle(c));
  return forward(angle(a), angle(b)) <= whole ? whole : whole - turn;
}

/** Points of a path moved to its right by a distance; null where an arc has no room for it or does not run on smoothly. */
function movePath({ points, sweeps }: Path, byM: number): Vector2[] | null {
  const tangents = sweeps.map((sweep, i) => {
    const [a, b] = [points[i]!, points[i + 1]!];
    const chord = Math.atan2(b[1] - a[1], b[0] - a[0]);
    const radius = sweep === 0 ? Number.POSITIVE_INFINITY : Math.hypot(b[0] - a[0], b[1] - a[1]) / (2 * Math.abs(Math.sin(sweep / 2))); // biome-ignore format: one radius
    return { start: chord - sweep / 2, end: chord + sweep / 2, isArc: sweep !== 0, radius };
  });
  if (tangents.some((t) => t.isArc && t.radius <= Math.abs(byM))) return null;
  const out: Vector2[] = [];
  for (let i = 0; i < points.length; i++) {
    const [before, next] = [tangents[i - 1], tangents[i]];
    const [into, from] = [before?.end ?? next!.start, next?.start ?? before!.end];
    const turn = Math.atan2(Math.sin(from - into), Math.cos(from - into));
    if (Math.abs(turn) > 1e-4 && (before?.isArc || next?.isArc)) return null;
    const middle = into + turn / 2;
    const reach = byM / Math.cos(turn / 2);
    if (Math.abs(turn) > Math.PI * 0.97) return null;
    out.push([points[i]![0] + Math.sin(middle) * reach, points[i]![1] - Math.cos(middle) * reach]);
  }
  return out;
}

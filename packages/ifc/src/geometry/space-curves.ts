import {
  arcSegment,
  cross,
  dot,
  lengthOf,
  type Matrix,
  normalize,
  type PathSegment,
  roundPath,
  straightSegment,
  subtract,
  transformDirection,
  transformPoint,
  type Vector3,
} from '@tally/core';
import { asCoordinates, asEnum, asNumber, asNumbers, asRef, asRefs, type StepFile } from '../step/step-file.ts';
import { StepEnum, StepRef, StepTyped, type StepValue } from '../step/step-value.ts';
import type { PlacementReader } from './placements.ts';

/** A curve in space from its start to its end; segments follow each other. */
export type SpacePath = PathSegment[];

/** Reads curves in space as straight stretches and arcs, metres. Null for kinds that have no length by formula. */
export class SpaceCurveReader {
  constructor(
    private readonly file: StepFile,
    private readonly placements: PlacementReader,
    private readonly angleFactor: number,
  ) {}

  /**
   * A directrix between two of its parameters; null parameters are its ends.
   * @param filletM radius that its corners are rounded with, m; 0 for none
   */
  readDirectrix(id: number, from: number | null, to: number | null, filletM = 0): SpacePath | null {
    const corners = this.readCorners(id);
    if (corners) {
      const cut = cutCorners(corners, from ?? 0, to ?? corners.length - 1);
      return cut && (filletM > 0 ? roundPath(cut, filletM) : toStraight(cut));
    }
    if (filletM > 0) return null;
    const path = this.read(id, 0);
    if (!path || path.length === 0) return null;
    if (from === null && to === null) return path;
    // A composite curve counts one for each segment; other parameters than its own ends are left to the mesh.
    const count = this.file.is(id, 'IFCCOMPOSITECURVE') ? asRefs(this.file.attributes(id)[0]).length : null;
    const isWhole = (from ?? 0) <= 1e-9 && count !== null && Math.abs((to ?? count) - count) < 1e-6;
    return isWhole || this.isWholeTurn(id, from, to) ? path : null;
  }

  private isWholeTurn(id: number, from: number | null, to: number | null): boolean {
    const turn = ((to ?? 0) - (from ?? 0)) * this.angleFactor;
    return this.file.typeOf(id) === 'IFCCIRCLE' && Math.abs(turn - 2 * Math.PI) < 1e-6;
  }

  /** Corners of a curve of straight stretches only. */
  private readCorners(id: number): Vector3[] | null {
    const a = this.file.attributes(id);
    if (this.file.typeOf(id) === 'IFCPOLYLINE') return asRefs(a[0]).map((p) => this.placements.point(new StepRef(p)));
    if (this.file.typeOf(id) !== 'IFCINDEXEDPOLYCURVE' || Array.isArray(a[1])) return null;
    return this.listPoints(asRef(a[0]));
  }

  private listPoints(list: number | null): Vector3[] | null {
    const rows = list === null ? null : this.file.attributes(list)[0];
    if (!Array.isArray(rows)) return null;
    const f = this.placements.lengthFactor;
    return rows.map((row): Vector3 => {
      const [x, y, z] = asCoordinates(row);
      return [x * f, y * f, z * f];
    });
  }

  private read(id: number, depth: number): SpacePath | null {
    if (depth > 16) return null;
    const a = this.file.attributes(id);
    switch (this.file.typeOf(id)) {
      case 'IFCPOLYLINE':
        return toStraight(asRefs(a[0]).map((p) => this.placements.point(new StepRef(p))));
      case 'IFCINDEXEDPOLYCURVE':
        return this.readIndexed(a);
      case 'IFCCOMPOSITECURVE':
      case 'IFCGRADIENTCURVE':
        return this.readComposite(asRefs(a[0]), depth);
      case 'IFCCIRCLE': {
        const m = this.placements.readAxis(asRef(a[0]));
        const radius = (asNumber(a[1]) ?? 0) * this.placements.lengthFactor;
        const arc = this.arcOn(m, radius, 0, 2 * Math.PI);
        return arc && [arc];
      }
      case 'IFCTRIMMEDCURVE':
        return this.readTrimmed(a);
      default:
        return null;
    }
  }

  private arcOn(m: Matrix, radius: number, from: number, sweep: number): PathSegment | null {
    const start = transformPoint(m, [radius * Math.cos(from), radius * Math.sin(from), 0]);
    return arcSegment([m[3], m[7], m[11]], start, normalize(transformDirection(m, [0, 0, 1])), sweep);
  }

  private readIndexed(a: readonly StepValue[]): SpacePath | null {
    const all = this.listPoints(asRef(a[0]));
    if (!all) return null;
    if (!Array.isArray(a[1])) return toStraight(all);
    const path: SpacePath = [];
    for (const segment of a[1]) {
      if (!(segment instanceof StepTyped)) return null;
      const points = asNumbers(segment.value).map((i) => all[i - 1]);
      if (points.some((p) => p === undefined)) return null;
      const [p, q, r] = points as Vector3[];
      const arc = segment.type === 'IFCARCINDEX' && p && q && r ? arcThrough(p, q, r) : null;
      const part = arc ? [arc] : toStraight(points as Vector3[]);
      if (!part) return null;
      path.push(...part);
    }
    return path;
  }

  private readComposite(segments: readonly number[], depth: number): SpacePath | null {
    const path: SpacePath = [];
    for (const id of segments) {
      const a = this.file.attributes(id);
      const parent = asRef(a[2]);
      const part = parent === null ? null : this.read(parent, depth + 1);
      if (!part) return null;
      path.push(...(asEnum(a[1]) === 'F' ? reversePath(part) : part));
    }
    return path;
  }

  private readTrimmed(a: readonly StepValue[]): SpacePath | null {
    const basis = asRef(a[0]);
    if (basis === null) return null;
    const isForward = !(a[3] instanceof StepEnum) || a[3].name !== 'F';
    const kind = this.file.typeOf(basis);
    if (kind === 'IFCLINE') {
      const ends = [a[1] ?? null, a[2] ?? null].map((trim) => this.trimPoint(trim) ?? this.pointOnLine(basis, trim));
      const straight = ends[0] && ends[1] ? straightSegment(ends[0], ends[1]) : null;
      return straight && [straight];
    }
    if (kind !== 'IFCCIRCLE') return null;
    const circle = this.file.attributes(basis);
    const m = this.placements.readAxis(asRef(circle[0]));
    const radius = (asNumber(circle[1]) ?? 0) * this.placements.lengthFactor;
    const angleOf = (trim: StepValue): number | null => {
      const p = this.trimPoint(trim);
      if (p) {
        const d = subtract(p, [m[3], m[7], m[11]]);
        return Math.atan2(dot(d, [m[1], m[5], m[9]]), dot(d, [m[0], m[4], m[8]]));
      }
      const value = parameterOf(trim);
      return value === null ? null : value * this.angleFactor;
    };
    const [from, to] = [angleOf(a[1] ?? null), angleOf(a[2] ?? null)];
    if (from === null || to === null || !(radius > 0)) return null;
    const turn = 2 * Math.PI;
    let sweep = (((to - from) % turn) + turn) % turn;
    if (!isForward) sweep = sweep === 0 ? -turn : sweep - turn;
    if (Math.abs(sweep) < 1e-9) sweep = turn;
    const arc = this.arcOn(m, radius, from, sweep);
    return arc && [arc];
  }

  private trimPoint(trim: StepValue): Vector3 | null {
    const ref = asRefs(trim)[0];
    return ref !== undefined && this.file.is(ref, 'IFCCARTESIANPOINT') ? this.placements.point(new StepRef(ref)) : null;
  }

  private pointOnLine(line: number, trim: StepValue): Vector3 | null {
    const [start, vector] = this.file.attributes(line);
    const [at, v] = [parameterOf(trim), asRef(vector)];
    if (at === null || v === null) return null;
    const [direction, magnitude] = this.file.attributes(v);
    const d = normalize(this.placements.direction(direction) ?? [1, 0, 0]);
    const reach = at * (asNumber(magnitude) ?? 1) * this.placements.lengthFactor;
    const p = this.placements.point(start);
    return [p[0] + d[0] * reach, p[1] + d[1] * reach, p[2] + d[2] * reach];
  }
}

function parameterOf(trim: StepValue): number | null {
  return (Array.isArray(trim) ? trim : [trim]).map(asNumber).find((v) => v !== null) ?? null;
}

function toStraight(points: readonly Vector3[]): SpacePath | null {
  const path = points.slice(1).flatMap((q, i) => straightSegment(points[i]!, q) ?? []);
  return path.length > 0 ? path : null;
}

/** The part of a run of corners between two parameters, which count one from corner to corner. */
function cutCorners(points: readonly Vector3[], from: number, to: number): Vector3[] | null {
  const last = points.length - 1;
  if (last < 1 || !(to > from) || from < -1e-9 || to > last + 1e-6) return null;
  const at = (t: number): Vector3 => {
    const i = Math.min(last - 1, Math.max(0, Math.floor(t)));
    const [p, q] = [points[i]!, points[i + 1]!];
    const share = Math.min(1, t - i);
    return [p[0] + (q[0] - p[0]) * share, p[1] + (q[1] - p[1]) * share, p[2] + (q[2] - p[2]) * share];
  };
  const inner = points.filter((_, i) => i > from + 1e-9 && i < to - 1e-9);
  return [at(from), ...inner, at(to)];
}

function reversePath(path: SpacePath): SpacePath {
  const back = (v: Vector3): Vector3 => [-v[0], -v[1], -v[2]];
  return [...path].reverse().map((s) => ({ ...s, from: s.to, to: s.from, start: back(s.end), end: back(s.start), points: [...s.points].reverse() })); // biome-ignore format: one map
}

/** The arc from a through b to c; null if they lie on a line. */
function arcThrough(a: Vector3, b: Vector3, c: Vector3): PathSegment | null {
  const [u, v] = [subtract(b, a), subtract(c, a)];
  const n = cross(u, v);
  const n2 = dot(n, n);
  if (n2 < 1e-24) return null;
  const [uu, vv] = [dot(u, u), dot(v, v)];
  const toCentre = [0, 1, 2].map((k) => (vv * cross(n, u)[k]! * -1 + uu * cross(n, v)[k]!) / (-2 * n2)) as unknown as Vector3; // biome-ignore format: one vector
  const centre: Vector3 = [a[0] + toCentre[0], a[1] + toCentre[1], a[2] + toCentre[2]];
  const axis = normalize(n);
  const arm = subtract(a, centre);
  const side = cross(axis, arm);
  const angleOf = (p: Vector3) => {
    const d = subtract(p, centre);
    const angle = Math.atan2(dot(d, side) / lengthOf(side), dot(d, arm) / lengthOf(arm));
    return angle <= 1e-12 ? angle + 2 * Math.PI : angle;
  };
  return arcSegment(centre, a, axis, angleOf(c));
}

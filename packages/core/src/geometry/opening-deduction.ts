import { listFacets } from './facets.ts';
import { isPointInPolygon, outlineToPolygon } from './outline.ts';
import { listPlaneOutlines } from './plane-outlines.ts';
import { measureProfile, profileToOutlines } from './profile.ts';
import { asAlignedBox, listSweptPoints, measureSweptSolid, type SweptSolid, sweptDirection } from './swept-solid.ts';
import { TOLERANCE } from './tolerances.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { type Figure, measureSharedAreaM2, measureUnionAreaM2 } from './union-area.ts';
import { boundPoints, cross, dot, normalize, transformPoint, type Vector2, type Vector3 } from './vector.ts';

/** What openings take out of a host, in m2 of the face square to the host's normal and m3 of its body. */
export interface Deduction {
  readonly areaM2: number;
  readonly volumeM3: number;
}

/** An opening seen along the host's normal: its figure, how far it reaches along the normal, and its area if arcs are in it. */
interface SeenOpening {
  readonly figure: Figure;
  readonly from: number;
  readonly to: number;
  /** Exact area where the figure has arcs in chords; null where the figure itself is exact. */
  readonly curvedM2: number | null;
  readonly low: Vector2;
  readonly high: Vector2;
}

/**
 * Exact deduction of prismatic openings from one straight solid; where openings overlap they are counted once, parts that stick out
 * of the host not at all, recesses take volume but no face area. Returns null where only a mesh can tell (a slanted
 * opening, or a rounded one that touches the host's edge or another opening).
 * @param normal unit normal of the face that areas refer to, in the element's frame (across a wall, up for a slab)
 */
export function deductOpenings(host: SweptSolid, openings: readonly SweptSolid[], normal: Vector3): Deduction | null {
  const plain = deductPlainBoxes(host, openings, normal);
  if (plain) return plain;
  const u = normalize(cross(Math.abs(normal[2]) > 0.9 ? [1, 0, 0] : [0, 0, 1], normal));
  const v = cross(normal, u);
  const face = seeAlong(host, normal, u, v);
  if (!face) return null;
  const seen: SeenOpening[] = [];
  for (const o of openings) {
    const one = seeAlong(o, normal, u, v);
    if (!one) return null;
    const [from, to] = [Math.max(one.from, face.from), Math.min(one.to, face.to)];
    if (to - from > 1e-9) seen.push({ ...one, from, to });
  }
  const thickness = face.to - face.from;
  const isThrough = (o: SeenOpening) => thickness - (o.to - o.from) < TOLERANCE.touch;
  const [through, recesses] = [seen.filter(isThrough), seen.filter((o) => !isThrough(o))];
  const areaM2 = measureTaken(face, through);
  if (areaM2 === null) return null;
  if (recesses.length === 0) return { areaM2, volumeM3: areaM2 * thickness };
  // Layer by layer along the normal, all that is open there.
  const cuts = [...new Set([face.from, face.to, ...recesses.flatMap((o) => [o.from, o.to])])].sort((a, b) => a - b);
  let volumeM3 = 0;
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [from, to] = [cuts[i]!, cuts[i + 1]!];
    if (to - from < 1e-9) continue;
    const open = [...through, ...recesses.filter((o) => o.from <= from + 1e-9 && o.to >= to - 1e-9)];
    const layerM2 = measureTaken(face, open);
    if (layerM2 === null) return null;
    volumeM3 += layerM2 * (to - from);
  }
  return { areaM2, volumeM3 };
}

/** More openings are compared figure by figure. */
const MOST_PLAIN = 12;

/** The usual case at once: a few boxes through a box, apart from each other. Null for all others. */
function deductPlainBoxes(host: SweptSolid, openings: readonly SweptSolid[], normal: Vector3): Deduction | null {
  const box = openings.length > MOST_PLAIN ? null : asAlignedBox(host);
  const axis = normal.findIndex((c) => 1 - Math.abs(c) < TOLERANCE.parallel);
  if (!box || axis < 0) return null;
  const cut: { min: number[]; max: number[] }[] = [];
  let areaM2 = 0;
  for (const o of openings) {
    const own = asAlignedBox(o);
    if (!own) return null;
    const min = own.min.map((c, k) => Math.max(c, box.min[k]!));
    const max = own.max.map((c, k) => Math.min(c, box.max[k]!));
    if (min.some((c, k) => max[k]! - c <= 1e-9)) continue;
    const isThrough = min[axis]! - box.min[axis]! < TOLERANCE.touch && box.max[axis]! - max[axis]! < TOLERANCE.touch;
    const isApart = cut.every((other) => min.some((c, k) => k !== axis && Math.min(max[k]!, other.max[k]!) <= Math.max(c, other.min[k]!))); // biome-ignore format: one test
    if (!isThrough || !isApart) return null;
    cut.push({ min, max });
    areaM2 += [0, 1, 2].reduce((area, k) => (k === axis ? area : area * (max[k]! - min[k]!)), 1);
  }
  return { areaM2, volumeM3: areaM2 * (box.max[axis]! - box.min[axis]!) };
}

/** A solid seen along a direction; null if it is neither drawn along it nor a box whose sides lie along the directions given. */
function seeAlong(solid: SweptSolid, normal: Vector3, u: Vector3, v: Vector3): SeenOpening | null {
  const isStraight = 1 - Math.abs(solid.direction[2]) < TOLERANCE.parallel;
  const isAlong = isStraight && 1 - Math.abs(dot(sweptDirection(solid), normal)) < TOLERANCE.parallel;
  const isBox = isAlong || asAlignedBox(solid) !== null;
  const points = listSweptPoints(solid);
  const [[u0, u1], [v0, v1], [from, to]] = [rangeAlong(points, u), rangeAlong(points, v), rangeAlong(points, normal)];
  const frame = { from, to, low: [u0, v0] as Vector2, high: [u1, v1] as Vector2 };
  if (isAlong) {
    const { outer, holes } = profileToOutlines(solid.profile);
    const rings = [outer, ...holes];
    const figure = rings.map((ring) =>
      outlineToPolygon(ring).map(([x, y]): Vector2 => {
        const p = transformPoint(solid.placement, [x, y, 0]);
        return [dot(p, u), dot(p, v)];
      }),
    );
    const isCurved = solid.profile.kind === 'ellipse' || rings.some((ring) => ring.some((p) => p.sweep !== 0));
    return { ...frame, figure, curvedM2: isCurved ? measureProfile(solid.profile).areaM2 : null };
  }
  const isSquare = [u, v, normal].every((axis) => axis.some((c) => 1 - Math.abs(c) < TOLERANCE.parallel));
  if (!isBox || !isSquare) return null;
  return { ...frame, figure: [[[u0, v0], [u1, v0], [u1, v1], [u0, v1]]], curvedM2: null }; // biome-ignore format: corners in order
}

/** Area that openings take out of a face, m2; null if arcs are in it that overlap or run over an edge. */
function measureTaken(face: SeenOpening, open: readonly SeenOpening[]): number | null {
  if (open.length === 0) return 0;
  const lone = open.length === 1 ? open[0]! : null;
  if (lone && face.curvedM2 === null && isFullyInBox(lone, face)) return lone.curvedM2 ?? measureUnionAreaM2([lone.figure]); // biome-ignore format: one case
  const isExact = face.curvedM2 === null && open.every((o) => o.curvedM2 === null);
  if (isExact)
    return measureSharedAreaM2(
      [face.figure],
      open.map((o) => o.figure),
    );
  // Arcs: each opening must lie apart from all others and from the edges.
  const sorted = [...open].sort((a, b) => a.low[0] - b.low[0]);
  let sum = 0;
  for (const [i, o] of sorted.entries()) {
    for (let j = i + 1; j < sorted.length && sorted[j]!.low[0] < o.high[0]; j++)
      if (sorted[j]!.low[1] < o.high[1] && o.low[1] < sorted[j]!.high[1]) return null;
    if (!isClearOfEdges(o, face.figure)) return null;
    sum += o.curvedM2 ?? measureUnionAreaM2([o.figure]);
  }
  return sum;
}

const isFullyInBox = (o: SeenOpening, face: SeenOpening): boolean =>
  face.figure.length === 1 &&
  face.figure[0]!.length === 4 &&
  Math.abs(measureUnionAreaM2([face.figure]) - (face.high[0] - face.low[0]) * (face.high[1] - face.low[1])) < 1e-9 &&
  o.low.every((c, k) => c >= face.low[k]!) &&
  o.high.every((c, k) => c <= face.high[k]!);

/** True if an opening lies within a face whole, and no edge of the face runs through the rectangle around it. */
function isClearOfEdges(o: SeenOpening, figure: Figure): boolean {
  const [outer, ...holes] = figure;
  const ring = o.figure[0]!;
  if (!ring.every((p) => isPointInPolygon(p, outer!) && !holes.some((h) => isPointInPolygon(p, h)))) return false;
  const rect: Vector2[] = [o.low, [o.high[0], o.low[1]], o.high, [o.low[0], o.high[1]]];
  return figure.every((edgeRing) => {
    const shared = measureSharedAreaM2([[edgeRing]], [[rect]]);
    const area = (o.high[0] - o.low[0]) * (o.high[1] - o.low[1]);
    return shared < 1e-12 || Math.abs(shared - area) < 1e-9 * Math.max(1, area);
  });
}

/** Size of an opening seen along the host's normal, m and m2, and the height of its lower edge in the host's frame. */
export interface OpeningSize {
  readonly widthM: number;
  readonly heightM: number;
  readonly areaM2: number;
  readonly perimeterM: number;
  readonly bottomM: number;
}

/** Level across what is looked at, and up it; of what lies level, its own x and y. */
function viewAxes(normal: Vector3): [Vector3, Vector3] {
  if (1 - Math.abs(normal[2]) < TOLERANCE.parallel) return [[1, 0, 0], [0, 1, 0]]; // biome-ignore format: two axes
  const u = normalize(cross([0, 0, 1], normal));
  return [u, cross(normal, u)];
}

/** Least and greatest place of points along a direction. */
function rangeAlong(points: readonly Vector3[], axis: Vector3): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const p of points) {
    const at = dot(p, axis);
    if (at < low) low = at;
    if (at > high) high = at;
  }
  return [low, high];
}

function extentAlong(points: readonly Vector3[], axis: Vector3): number {
  const [low, high] = rangeAlong(points, axis);
  return high - low;
}

/** Width, height, area and perimeter of a straight opening seen along the host's normal: width is level, height goes up the host. */
export function measureOpeningSize(solid: SweptSolid, normal: Vector3): OpeningSize {
  const [u, v] = viewAxes(normal);
  const points = listSweptPoints(solid);
  const [widthM, heightM] = [extentAlong(points, u), extentAlong(points, v)];
  const bottomM = boundPoints(points)!.min[2];
  if (1 - Math.abs(dot(sweptDirection(solid), normal)) < TOLERANCE.parallel) {
    const { areaM2, perimeterM } = measureSweptSolid(solid);
    return { widthM, heightM, areaM2, perimeterM, bottomM };
  }
  return { widthM, heightM, areaM2: widthM * heightM, perimeterM: 2 * (widthM + heightM), bottomM };
}

/**
 * The same of an opening drawn by its faces. Null if it is not of one size all the way through (a splayed one), as it then has no
 * one width, or if it is not one piece.
 */
export function measureDrawnOpening(mesh: TriangleMesh, normal: Vector3): OpeningSize | null {
  const facets = listFacets(mesh);
  const isFront = (n: Vector3) => dot(n, normal) > 1 - 1e-4;
  if (!facets.every((f) => Math.abs(dot(f.normal, normal)) > 1 - 1e-4 || Math.abs(dot(f.normal, normal)) < 0.02)) return null; // biome-ignore format: one test
  const outlines = listPlaneOutlines(mesh, isFront);
  if (outlines.length !== 1) return null;
  const points = outlines[0]!.outline;
  const [u, v] = viewAxes(normal);
  const perimeterM = points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return sum + Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]);
  }, 0);
  return {
    widthM: extentAlong(points, u),
    heightM: extentAlong(points, v),
    areaM2: facets.filter((f) => isFront(f.normal)).reduce((sum, f) => sum + f.areaM2, 0),
    perimeterM,
    bottomM: boundPoints(points)!.min[2],
  };
}

import { isPolygonInside } from './outline.ts';
import { measureProfile, profileToOutlines, profileToPolygon } from './profile.ts';
import { asAlignedBox, listSweptPoints, measureSweptSolid, type SweptSolid, sweptDirection } from './swept-solid.ts';
import { TOLERANCE } from './tolerances.ts';
import { cross, dot, normalize, transformPoint, type Vector2, type Vector3 } from './vector.ts';

/** What openings take out of a host, in m2 of the face square to the host's normal and m3 of its body. */
export interface Deduction {
  readonly areaM2: number;
  readonly volumeM3: number;
}

interface Box3 {
  readonly min: Vector3;
  readonly max: Vector3;
}

/**
 * Exact deduction of prismatic openings from one straight solid; overlapping boxes are counted once, parts that stick out
 * of the host not at all, recesses take volume but no face area. Returns null where only a mesh can tell (a slanted
 * opening, or a shaped one that touches the host's edge or another opening).
 * @param normal unit normal of the face that areas refer to, in the element's frame (across a wall, up for a slab)
 */
export function deductOpenings(host: SweptSolid, openings: readonly SweptSolid[], normal: Vector3): Deduction | null {
  const hostBox = asAlignedBox(host);
  const boxes = openings.map(asAlignedBox);
  const axis = normal.findIndex((c) => 1 - Math.abs(c) < TOLERANCE.parallel);
  if (hostBox && axis >= 0 && boxes.every((b) => b !== null)) return deductBoxes(hostBox, boxes as Box3[], axis);
  return deductParallelPrisms(host, hostBox, openings, normal);
}

function deductBoxes(host: Box3, openings: readonly Box3[], axis: number): Deduction {
  const clipped = openings
    .map((o) => ({
      min: o.min.map((v, k) => Math.max(v, host.min[k]!)) as unknown as Vector3,
      max: o.max.map((v, k) => Math.min(v, host.max[k]!)) as unknown as Vector3,
    }))
    .filter((o) => o.min.every((v, k) => o.max[k]! - v > 1e-9));
  const isThrough = (o: Box3) =>
    o.min[axis]! - host.min[axis]! < TOLERANCE.touch && host.max[axis]! - o.max[axis]! < TOLERANCE.touch;
  const flat = (o: Box3): Box3 => {
    const min = [...o.min] as [number, number, number];
    const max = [...o.max] as [number, number, number];
    min[axis] = 0;
    max[axis] = 1;
    return { min, max };
  };
  return { volumeM3: measureUnionM3(clipped), areaM2: measureUnionM3(clipped.filter(isThrough).map(flat)) };
}

/** Volume of the union of aligned boxes, by cutting space at every face. */
function measureUnionM3(boxes: readonly Box3[]): number {
  const size = (b: Box3) => (b.max[0] - b.min[0]) * (b.max[1] - b.min[1]) * (b.max[2] - b.min[2]);
  if (boxes.length === 1) return size(boxes[0]!);
  const cuts = [0, 1, 2].map((k) => [...new Set(boxes.flatMap((b) => [b.min[k]!, b.max[k]!]))].sort((a, b) => a - b));
  let sum = 0;
  for (let i = 0; i + 1 < cuts[0]!.length; i++) {
    for (let j = 0; j + 1 < cuts[1]!.length; j++) {
      for (let k = 0; k + 1 < cuts[2]!.length; k++) {
        const cell: Box3 = {
          min: [cuts[0]![i]!, cuts[1]![j]!, cuts[2]![k]!],
          max: [cuts[0]![i + 1]!, cuts[1]![j + 1]!, cuts[2]![k + 1]!],
        };
        if (boxes.some((b) => cell.min.every((v, c) => b.min[c]! <= v && cell.max[c]! <= b.max[c]!))) sum += size(cell);
      }
    }
  }
  return sum;
}

function deductParallelPrisms(
  host: SweptSolid,
  hostBox: Box3 | null,
  openings: readonly SweptSolid[],
  normal: Vector3,
): Deduction | null {
  const isAlong = (s: SweptSolid) =>
    1 - Math.abs(dot(sweptDirection(s), normal)) < TOLERANCE.parallel &&
    1 - Math.abs(s.direction[2]) < TOLERANCE.parallel;
  if (!openings.every(isAlong) || !(isAlong(host) || hostBox)) return null;
  const u = normalize(cross(Math.abs(normal[2]) > 0.9 ? [1, 0, 0] : [0, 0, 1], normal));
  const v = cross(normal, u);
  const project = (s: SweptSolid): Vector2[] =>
    profileToPolygon(s.profile).map(([x, y]) => {
      const p = transformPoint(s.placement, [x, y, 0]);
      return [dot(p, u), dot(p, v)];
    });
  const span = (s: SweptSolid) => {
    const along = listSweptPoints(s).map((p) => dot(p, normal));
    return [Math.min(...along), Math.max(...along)] as const;
  };
  const face = isAlong(host) ? project(host) : boxFace(hostBox!, u, v);
  if (isAlong(host) && profileToOutlines(host.profile).holes.length > 0) return null;
  const [from, to] = span(host);
  const faces = openings.map(project);
  for (const [i, polygon] of faces.entries()) {
    const [start, end] = span(openings[i]!);
    if (start - from > TOLERANCE.touch || to - end > TOLERANCE.touch) return null;
    if (!isPolygonInside(polygon, face)) return null;
    if (
      faces.some(
        (other, j) =>
          j < i &&
          (isPolygonInside(polygon, other) || isPolygonInside(other, polygon) || doExtentsMeet(polygon, other)),
      )
    )
      return null;
  }
  const areaM2 = openings.reduce((sum, o) => sum + measureProfile(o.profile).areaM2, 0);
  return { areaM2, volumeM3: areaM2 * (to - from) };
}

function doExtentsMeet(a: readonly Vector2[], b: readonly Vector2[]): boolean {
  return ([0, 1] as const).every(
    (k) =>
      Math.min(...a.map((p) => p[k])) < Math.max(...b.map((p) => p[k])) &&
      Math.min(...b.map((p) => p[k])) < Math.max(...a.map((p) => p[k])),
  );
}

function boxFace({ min, max }: Box3, u: Vector3, v: Vector3): Vector2[] {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map(
    (i): Vector3 => [i & 1 ? max[0] : min[0], i & 2 ? max[1] : min[1], i & 4 ? max[2] : min[2]],
  );
  const us = corners.map((c) => dot(c, u));
  const vs = corners.map((c) => dot(c, v));
  const [u0, u1, v0, v1] = [Math.min(...us), Math.max(...us), Math.min(...vs), Math.max(...vs)];
  return [[u0, v0], [u1, v0], [u1, v1], [u0, v1]]; // biome-ignore format: corners in order
}

/**
 * Width, height, area and perimeter of an opening seen along the host's normal, and the height of its lower edge in the host's
 * frame; height is the upward one of a wall.
 */
export function measureOpeningSize(
  solid: SweptSolid,
  normal: Vector3,
): { widthM: number; heightM: number; areaM2: number; perimeterM: number; bottomM: number } {
  const isWall = Math.abs(normal[2]) < 0.9;
  const u = isWall ? normalize(cross([0, 0, 1], normal)) : ([1, 0, 0] as Vector3);
  const v = isWall ? ([0, 0, 1] as Vector3) : ([0, 1, 0] as Vector3);
  const points = listSweptPoints(solid);
  const extent = (axis: Vector3) =>
    Math.max(...points.map((p) => dot(p, axis))) - Math.min(...points.map((p) => dot(p, axis)));
  const [widthM, heightM] = [extent(u), extent(v)];
  const bottomM = Math.min(...points.map((p) => p[2]));
  if (1 - Math.abs(dot(sweptDirection(solid), normal)) < TOLERANCE.parallel) {
    const { areaM2, perimeterM } = measureSweptSolid(solid);
    return { widthM, heightM, areaM2, perimeterM, bottomM };
  }
  return { widthM, heightM, areaM2: widthM * heightM, perimeterM: 2 * (widthM + heightM), bottomM };
}

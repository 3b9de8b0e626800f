import type { Exactness, QuantityMethod } from '../elements/model-element.ts';
import { type Facet, listFaceDirections, triangleAt } from '../geometry/facets.ts';
import { type Outline, polygonToOutline } from '../geometry/outline.ts';
import { listPlaneOutlines } from '../geometry/plane-outlines.ts';
import { profileToOutlines } from '../geometry/profile.ts';
import { findStrip, type Strip } from '../geometry/strip.ts';
import { asAlignedBox, measureSweptSolid, type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { type Figure, measureUnionAreaM2 } from '../geometry/union-area.ts';
import { cross, dot, normalize, transformPoint, type Vector2, type Vector3 } from '../geometry/vector.ts';
import type { BodyShape, FaceView } from './body-shape.ts';
import { isCurved } from './element-body.ts';
import { measureSweptFaces } from './face-areas.ts';
import { isOnFaces, type MeasureContext, reachAlong, sizeOf, TOWARDS } from './measure-context.ts';

/** Faces of a wall by what they are, m2; left and right are the two sides. */
interface WallFaces {
  readonly left: number;
  readonly right: number;
  readonly ends: number;
  readonly top: number;
  readonly bottom: number;
}
type WallFace = keyof WallFaces;

/** A wall without its openings. Null is "not known". */
interface WallView {
  readonly lengthM: number | null;
  readonly widthM: number | null;
  /** One face as seen from the side. */
  readonly sideM2: number | null;
  readonly footprintM2: number | null;
  readonly faces: WallFaces | null;
  readonly exactness: Exactness;
  readonly method: QuantityMethod;
  /** What a face of its mesh is; null for what is no face of the wall without openings (a reveal). */
  readonly nameFacet: ((facet: Facet) => WallFace | null) | null;
  /** Direction across, if the wall is straight. */
  readonly across: Vector3 | null;
  readonly strip: Strip | null;
}

/** The two sides of a wall and its middle line, in the frame it is measured in. */
export interface WallSides {
  readonly middle: readonly Vector2[];
  readonly leftM2: number;
  readonly rightM2: number;
}

/** Measures a wall by its body; returns its middle line and sides where it is a strip of one thickness. */
export function measureWall(c: MeasureContext): WallSides | null {
  const { add, shape } = c;
  const wall = viewWall(shape, c.layersM);
  const exact = (value: number | null): ReturnType<typeof figure> | null => value === null ? null : figure(value, wall.method, wall.exactness); // biome-ignore format: one line
  const [, , height] = sizeOf(shape);
  add('Length', exact(wall.lengthM));
  add('Width', exact(wall.widthM));
  add('Height', figure(height, wall.method, shape.extentsExactness));
  add('GrossSideArea', exact(wall.sideM2));
  add('GrossFootprintArea', exact(wall.footprintM2));
  add('GrossVolume', shape.gross);
  add('NetVolume', shape.net);
  const { faces } = wall;
  if (faces) add('OuterSurfaceArea', exact(faces.left + faces.right + faces.ends));
  const net = deductWall(c, wall);
  if (net) {
    add('NetSideArea', net.sideM2);
    add('SidesArea', net.sidesM2);
    add('BottomArea', net.bottomM2);
  }
  if (faces) {
    add('EndsArea', exact(faces.ends));
    add('TopArea', exact(faces.top));
  }
  if (!wall.strip || !net) return null;
  return { middle: wall.strip.middle, leftM2: net.leftM2, rightM2: net.rightM2 };
}

const figure = (value: number, method: QuantityMethod, exactness: Exactness) => ({ value, method, exactness });
type Figured = ReturnType<typeof figure>;

interface NetWall {
  readonly sideM2: Figured | null;
  readonly sidesM2: Figured;
  readonly bottomM2: Figured;
  readonly leftM2: number;
  readonly rightM2: number;
}

/** Sides and underside of a wall with its openings taken out. */
function deductWall(c: MeasureContext, wall: WallView): NetWall | null {
  const { shape, deductedM2 } = c;
  const { faces } = wall;
  if (!faces) return null;
  const as = (value: number, method: QuantityMethod = wall.method, exactness: Exactness = wall.exactness) =>
    figure(value, method, exactness);
  if (!shape.hasOpenings)
    return {
      sideM2: wall.sideM2 === null ? null : as(wall.sideM2),
      sidesM2: as(faces.left + faces.right),
      bottomM2: as(faces.bottom),
      leftM2: faces.left,
      rightM2: faces.right,
    };
  if (deductedM2 !== null) {
    const method: QuantityMethod = wall.method === 'swept' ? 'swept-openings' : wall.method;
    const atFloor = c.openings.filter((o) => o.sill !== null && o.sill < TOLERANCE.touch);
    const cutM2 = atFloor.reduce((sum, o) => sum + (o.width ?? 0) * (wall.widthM ?? 0), 0);
    return {
      sideM2: wall.sideM2 === null ? null : as(wall.sideM2 - deductedM2, method),
      sidesM2: as(faces.left + faces.right - 2 * deductedM2, method),
      bottomM2: as(faces.bottom - cutM2, method),
      leftM2: faces.left - deductedM2,
      rightM2: faces.right - deductedM2,
    };
  }
  const view = shape.netFaces();
  const { nameFacet } = wall;
  if (!view || !nameFacet) return null;
  const found = sumFaces(view.facets, nameFacet);
  const sideM2 = wall.sideM2 === null ? null : wall.across && !wall.strip ? seenArea(view, wall.across, (f) => nameFacet(f) !== null) : (found.left + found.right) / 2; // biome-ignore format: one choice
  return {
    sideM2: sideM2 === null ? null : as(sideM2, 'mesh', 'mesh'),
    sidesM2: as(found.left + found.right, 'mesh', 'mesh'),
    bottomM2: as(found.bottom, 'mesh', 'mesh'),
    leftM2: found.left,
    rightM2: found.right,
  };
}

function sumFaces(facets: readonly Facet[], name: (facet: Facet) => WallFace | null): WallFaces {
  const sums = { left: 0, right: 0, ends: 0, top: 0, bottom: 0 };
  for (const f of facets) {
    const key = name(f);
    if (key) sums[key] += f.areaM2;
  }
  return sums;
}

function viewWall(shape: BodyShape, layersM: number | null): WallView {
  const { solid } = shape;
  if (solid) {
    const along = sweptDirection(solid);
    const isStraight = 1 - Math.abs(solid.direction[2]) < TOLERANCE.parallel;
    if (asAlignedBox(solid)) return viewBox(shape, layersM);
    if (isStraight && 1 - Math.abs(along[2]) < TOLERANCE.parallel) {
      const upright = viewFootprint(shape, solid);
      if (upright) return upright;
    }
    const [dx] = sizeOf(shape);
    const isAcross = isStraight && Math.abs(along[2]) < TOLERANCE.parallel && solid.depth < dx - TOLERANCE.point;
    if (isAcross && 1 - Math.abs(along[1]) < TOLERANCE.parallel) return viewElevation(shape, solid);
  }
  const view = shape.grossFaces();
  return (view && viewFacets(shape, view)) ?? unknownWall(shape);
}

const unknownWall = (shape: BodyShape): WallView => ({
  lengthM: null,
  widthM: null,
  sideM2: null,
  footprintM2: null,
  faces: null,
  exactness: shape.extentsExactness,
  method: shape.gross?.method ?? 'mesh',
  nameFacet: null,
  across: null,
  strip: null,
});

/** A straight wall of one height and one thickness. */
function viewBox(shape: BodyShape, layersM: number | null): WallView {
  const [dx, dy, dz] = sizeOf(shape);
  const isNear = (a: number, b: number) => Math.abs(a - b) < 0.01 * b;
  // The shorter side is the thickness, unless the layers say that a stub is shorter than it is thick.
  const isStub = layersM !== null && isNear(layersM, Math.max(dx, dy)) && !isNear(layersM, Math.min(dx, dy));
  const isAlongX = dx >= dy !== isStub;
  const [length, width] = isAlongX ? [dx, dy] : [dy, dx];
  const { min, max } = shape.extents;
  const across: Vector3 = isAlongX ? [0, 1, 0] : [1, 0, 0];
  const k = isAlongX ? 1 : 0;
  const at = (f: Facet, axis: number, place: number) => Math.abs(f.centre[axis]! - place) < 2 * TOLERANCE.touch;
  return {
    lengthM: length,
    widthM: width,
    sideM2: length * dz,
    footprintM2: dx * dy,
    faces: { left: length * dz, right: length * dz, ends: 2 * width * dz, top: dx * dy, bottom: dx * dy },
    exactness: 'exact',
    method: 'swept',
    across,
    strip: null,
    nameFacet: (f) => {
      if (Math.abs(f.normal[2]) > TOWARDS)
        return at(f, 2, max[2]) && f.normal[2] > 0 ? 'top' : at(f, 2, min[2]) && f.normal[2] < 0 ? 'bottom' : null;
      if (Math.abs(f.normal[k]!) > TOWARDS)
        return at(f, k, max[k]!) && f.normal[k]! > 0 ? 'left' : at(f, k, min[k]!) && f.normal[k]! < 0 ? 'right' : null;
      return at(f, 1 - k, max[1 - k]!) || at(f, 1 - k, min[1 - k]!) ? 'ends' : null;
    },
  };
}

/** A wall drawn upward from its footprint: a strip of one thickness, or at least straight. */
function viewFootprint(shape: BodyShape, solid: SweptSolid): WallView | null {
  const { outer, holes } = profileToOutlines(solid.profile);
  const place = (ring: Outline): Outline => ring.map((v) => {
    const [x, y] = transformPoint(solid.placement, [v.x, v.y, 0]);
    return { x, y, sweep: isMirrored(solid) ? -v.sweep : v.sweep };
  }); // biome-ignore format: one map
  const [rings, height] = [[outer, ...holes].map(place), sizeOf(shape)[2]];
  const { areaM2 } = measureSweptSolid(solid);
  const strip = findStrip(rings[0]!, rings.slice(1));
  if (strip) return viewStrip(shape, strip, height, areaM2, 'exact', 'swept');
  if (isCurved(solid) || holes.length > 0) return null;
  const straight = findStraight(rings[0]!.map((v): Vector2 => [v.x, v.y]));
  if (!straight) return null;
  const { across, lengthM, sideLengthM, endLengthM } = straight;
  return {
    lengthM,
    widthM: null,
    sideM2: lengthM * height,
    footprintM2: areaM2,
    faces: { left: (sideLengthM * height) / 2, right: (sideLengthM * height) / 2, ends: endLengthM * height, top: areaM2, bottom: areaM2 }, // biome-ignore format: one record
    exactness: 'exact',
    method: 'swept',
    across,
    strip: null,
    nameFacet: nameStraight(shape, across),
  };
}

const isMirrored = ({ placement: m, direction }: SweptSolid): boolean => m[0] * m[5] - m[1] * m[4] < 0 && direction[2] !== 0; // biome-ignore format: one test

function viewStrip(
  shape: BodyShape,
  strip: Strip,
  height: number,
  areaM2: number,
  exactness: Exactness,
  method: QuantityMethod,
): WallView {
  return {
    lengthM: strip.lengthM,
    widthM: strip.thicknessM,
    sideM2: strip.lengthM * height,
    footprintM2: areaM2,
    faces: { left: strip.leftM * height, right: strip.rightM * height, ends: strip.endsM * height, top: areaM2, bottom: areaM2 }, // biome-ignore format: one record
    exactness,
    method,
    across: null,
    strip,
    nameFacet: nameOnStrip(shape, strip),
  };
}

/** Tells faces of a mesh by the chord of the footprint they stand on. */
function nameOnStrip(shape: BodyShape, strip: Strip): (f: Facet) => WallFace | null {
  const { min } = shape.extents;
  const reach = Math.max(5e-3, 0.05 * strip.thicknessM);
  return (f) => {
    if (f.normal[2] > TOWARDS) return 'top';
    if (f.normal[2] < -TOWARDS) return f.centre[2] - min[2] < reach ? 'bottom' : null;
    let best: { gap: number; edge: Strip['chords'][number]['edge'] } | null = null;
    for (const { from, to, edge } of strip.chords) {
      const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
      const length = Math.hypot(dx, dy);
      // Outward of a chord that has the body to its left is to the right.
      if (length === 0 || (f.normal[0] * dy - f.normal[1] * dx) / length < TOWARDS) continue;
      const t = Math.max(0, Math.min(length, ((f.centre[0] - from[0]) * dx + (f.centre[1] - from[1]) * dy) / length));
      const gap = Math.hypot(from[0] + (dx / length) * t - f.centre[0], from[1] + (dy / length) * t - f.centre[1]);
      if (!best || gap < best.gap) best = { gap, edge };
    }
    if (!best || best.gap > reach) return null;
    return best.edge === 'end' ? 'ends' : best.edge;
  };
}

/** A straight wall of several thicknesses: every edge lies along it or square to it. */
function findStraight(
  ring: readonly Vector2[],
): { across: Vector3; lengthM: number; sideLengthM: number; endLengthM: number } | null {
  const edges = ring.map((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return { x: q[0] - p[0], y: q[1] - p[1], length: Math.hypot(q[0] - p[0], q[1] - p[1]) };
  });
  const longest = edges.reduce((a, b) => (b.length > a.length ? b : a));
  if (!(longest.length > 0)) return null;
  const [ux, uy] = [longest.x / longest.length, longest.y / longest.length];
  let [sideLengthM, endLengthM] = [0, 0];
  for (const { x, y, length } of edges) {
    if (length < TOLERANCE.point) continue;
    const cosine = Math.abs(x * ux + y * uy) / length;
    if (cosine > 1 - 1.5e-4) sideLengthM += length;
    else if (cosine < 0.0175) endLengthM += length;
    else return null;
  }
  const along = ring.map(([x, y]) => x * ux + y * uy);
  return { across: [-uy, ux, 0], lengthM: Math.max(...along) - Math.min(...along), sideLengthM, endLengthM };
}

/** A wall drawn as its elevation and across its thickness. */
function viewElevation(shape: BodyShape, solid: SweptSolid): WallView {
  const { areaM2 } = measureSweptSolid(solid);
  const across: Vector3 = [0, 1, 0];
  const found = measureSweptFaces(solid, { up: [0, 0, 1], across });
  return {
    lengthM: sizeOf(shape)[0],
    widthM: solid.depth,
    sideM2: areaM2,
    footprintM2: sizeOf(shape)[0] * solid.depth,
    faces: { left: areaM2, right: areaM2, ends: found.endsM2, top: found.topM2, bottom: found.bottomM2 },
    exactness: 'exact',
    method: 'swept',
    across,
    strip: null,
    nameFacet: nameStraight(shape, across),
  };
}

/** Tells faces of a straight wall; what is no face of it without openings is a reveal. */
function nameStraight(shape: BodyShape, across: Vector3): (f: Facet) => WallFace | null {
  const isOwn = isOnFaces(shape.grossFaces());
  return (f) => (isOwn(f) ? nameByLook(f, across) : null);
}

function nameByLook({ normal }: Facet, across: Vector3): WallFace {
  if (normal[2] > TOWARDS) return 'top';
  if (normal[2] < -TOWARDS) return 'bottom';
  const side = dot(normal, across);
  return Math.abs(side) <= TOWARDS ? 'ends' : side > 0 ? 'left' : 'right';
}

/** A wall known by its faces: straight, perhaps of several thicknesses or leaning, else a strip by its footprint. */
function viewFacets(shape: BodyShape, view: FaceView): WallView | null {
  const upright = view.facets.filter((f) => Math.abs(f.normal[2]) < TOWARDS);
  const [main] = listFaceDirections(upright);
  if (!main) return null;
  const level = normalize([main.direction[0], main.direction[1], 0]);
  const along = cross(level, [0, 0, 1]);
  const sides = upright.filter((f) => Math.abs(dot(f.normal, level)) > TOWARDS);
  const sidesM2 = sides.reduce((sum, f) => sum + f.areaM2, 0);
  // Askew faces belong to a bent or curved wall, unless they are mitred ends.
  const askewM2 = upright.reduce((sum, f) => {
    const on = Math.abs(dot(normalize([f.normal[0], f.normal[1], 0]), level));
    return on > 0.9998 || on < 0.0175 ? sum : sum + f.areaM2;
  }, 0);
  const strip = findFootprintStrip(shape, view);
  if (strip) return strip;
  const reachM = reachAlong(view, along);
  const height = sizeOf(shape)[2];
  // A wall that turns a corner has faces across it that are wider than it is thick.
  const thickM = shape.gross ? (2 * shape.gross.value) / sidesM2 : 0;
  const isBent = askewM2 > 0.02 * sidesM2 + 2 * thickM * height || upright.some((f) => Math.abs(dot(f.normal, level)) < 0.0175 && f.areaM2 > 1.6 * thickM * height); // biome-ignore format: one test
  if (isBent) return null;
  const pairs = pairThickness(sides, main.direction);
  const seen = seenArea(view, pairs !== null ? main.direction : level, () => true);
  if (seen === null) return null;
  const faces = sumFaces(view.facets, (f) => nameByLook(f, level));
  const under = view.facets.reduce((sum, f) => (f.normal[2] < -0.02 ? sum - f.areaM2 * f.normal[2] : sum), 0);
  const hasFlatFoot = view.facets.every((f) => f.normal[2] > -0.02 || f.normal[2] < -0.9998);
  const isMitred = askewM2 > 1e-6;
  const isUpright = Math.abs(main.direction[2]) < 1e-3;
  return {
    // Mitred ends: as long as along the middle.
    lengthM: isMitred && pairs !== null ? (hasFlatFoot && isUpright ? under / pairs : null) : reachM,
    widthM: pairs,
    sideM2: seen,
    footprintM2: isUpright && hasFlatFoot ? under : null,
    faces,
    exactness: view.exactness,
    method: view.method,
    across: pairs !== null ? main.direction : level,
    strip: null,
    nameFacet: nameStraight(shape, level),
  };
}

/** Thickness between the two planes that all sides lie in; null if they lie in more. */
function pairThickness(sides: readonly Facet[], across: Vector3): number | null {
  const offsets = (sign: number): number[] =>
    sides.filter((f) => sign * dot(f.normal, across) > TOWARDS).map((f) => dot(f.centre, across) * sign);
  const isFlat = sides.every((f) => Math.abs(dot(f.normal, across)) > 0.99995);
  const [front, back] = [offsets(1), offsets(-1)];
  if (!isFlat || front.length === 0 || back.length === 0) return null;
  const spread = (list: readonly number[]) => Math.max(...list) - Math.min(...list);
  if (spread(front) > TOLERANCE.touch || spread(back) > TOLERANCE.touch) return null;
  return Math.max(...front) + Math.max(...back);
}

/** More triangles are not laid over each other. */
const MOST_TRIANGLES = 1200;

/** Area seen along a direction, m2: what faces that look towards the eye cover together. Null if there are too many to tell. */
function seenArea(view: FaceView, towards: Vector3, isMeant: (f: Facet) => boolean): number | null {
  const front = view.facets.filter((f) => dot(f.normal, towards) > 1e-3 && isMeant(f));
  const planes = new Set(front.map((f) => Math.round(dot(f.centre, towards) / TOLERANCE.touch)));
  const sum = front.reduce((total, f) => total + f.areaM2 * dot(f.normal, towards), 0);
  // Faces of one plane do not stand before each other.
  if (planes.size <= 1) return sum;
  const u = normalize(cross(towards, Math.abs(towards[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  const v = cross(towards, u);
  if (front.some((f) => f.triangles.length === 0)) return null;
  const figures = front.flatMap((f) =>
    f.triangles.map((at): Figure => [triangleAt(view.mesh, at).map((p): Vector2 => [dot(p, u), dot(p, v)])]),
  );
  return figures.length > MOST_TRIANGLES ? null : measureUnionAreaM2(figures);
}

/** A bent or curved wall drawn by its faces: upright all round, on one flat foot. */
function findFootprintStrip(shape: BodyShape, view: FaceView): WallView | null {
  const { facets, mesh } = view;
  if (facets.some((f) => Math.abs(f.normal[2]) > 0.02 && f.normal[2] < 0.02 && f.normal[2] > -0.9998)) return null;
  const low = shape.extents.min[2];
  const feet = facets.filter((f) => f.normal[2] < -0.9998);
  if (feet.some((f) => f.centre[2] - low > TOLERANCE.touch)) return null;
  const outlines = listPlaneOutlines(mesh, (n) => n[2] < -0.9998, true);
  const [foot, ...more] = outlines;
  if (!foot || more.length > 0) return null;
  const toRing = (points: readonly Vector3[]) => polygonToOutline(points.map(([x, y]): Vector2 => [x, y]));
  const strip = findStrip(toRing(foot.outline), (foot.holes ?? []).map(toRing));
  if (!strip) return null;
  const areaM2 = feet.reduce((sum, f) => sum + f.areaM2, 0);
  const name = nameOnStrip(shape, strip);
  // Faces that stand on no edge of the foot belong to a wall that is thinner, or wider, above it.
  if (facets.some((f) => Math.abs(f.normal[2]) <= TOWARDS && name(f) === null)) return null;
  const faces = sumFaces(facets, name);
  return {
    ...viewStrip(shape, strip, sizeOf(shape)[2], areaM2, view.exactness, view.method),
    sideM2: (faces.left + faces.right) / 2,
    faces: { ...faces, top: facets.reduce((sum, f) => (f.normal[2] > TOWARDS ? sum + f.areaM2 : sum), 0) },
  };
}

import type { Exactness, QuantityMethod } from '../elements/model-element.ts';
import { type Facet, listFaceDirections, listFacetRings } from '../geometry/facets.ts';
import { distanceToPolygon } from '../geometry/outline.ts';
import { measureOwnRectangle } from '../geometry/own-axes.ts';
import { profileToPolygon } from '../geometry/profile.ts';
import { measureSweptSolid, type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { areaVector, cross, dot, normalize, type Vector2, type Vector3 } from '../geometry/vector.ts';
import type { FaceView } from './body-shape.ts';
import { isCurved, type Measured } from './element-body.ts';
import { measureSweptFaces } from './face-areas.ts';
import { type MeasureContext, reachAlong, sizeOf, sumAreas, TOWARDS } from './measure-context.ts';

const as = (value: number, method: QuantityMethod, exactness: Exactness): Measured => ({ value, method, exactness });
const exact = (value: number, method: QuantityMethod = 'swept'): Measured => as(value, method, 'exact');

/**
 * True if a member is drawn along its length: always if its profile is a section (round, hollow, I …), else unless the profile is
 * more than twice as long as the sweep, as that of a member drawn by its elevation.
 */
function isDrawnAlong(solid: SweptSolid): boolean {
  const { profile } = solid;
  if (profile.kind !== 'rectangle' && !(profile.kind === 'outline' && !profile.isSection)) return true;
  return measureOwnRectangle(profileToPolygon(profile)).longM <= 2 * solid.depth;
}

/** Measures a beam, column, member, pipe, bar or railing by its body. */
export function measureLinear(c: MeasureContext): void {
  const { add, shape } = c;
  const { solid, formed, base } = shape;
  if (formed) {
    if (formed.lengthM !== null) add('Length', exact(formed.lengthM, 'formed'));
    if (formed.sectionM2 !== null) add('CrossSectionArea', exact(formed.sectionM2, 'formed'));
    add('OuterSurfaceArea', exact(formed.lateralM2, 'formed'));
    add('EndsArea', exact(formed.endsM2, 'formed'));
  } else if (solid && isDrawnAlong(solid)) {
    const { areaM2, lateralAreaM2 } = measureSweptSolid(solid);
    add('Length', exact(solid.depth));
    add('CrossSectionArea', exact(areaM2));
    add('OuterSurfaceArea', exact(lateralAreaM2));
    if (!shape.hasOpenings || c.deductedM2 !== null) {
      const faces = measureSweptFaces(solid, { up: [0, 0, 1], along: sweptDirection(solid) });
      add('SidesArea', exact(faces.sidesM2));
      add('TopArea', exact(faces.topM2));
      add('BottomArea', exact(faces.bottomM2));
      add('EndsArea', exact(faces.endsM2));
    }
  } else if (base && isDrawnAlong(base)) measureCut(c, base);
  else {
    const view = shape.grossFaces();
    const along = view && findAxis(view);
    if (view && along) measureByFaces(c, view, along);
    else {
      const runM = measureThinRun(sizeOf(shape));
      const method = shape.extentsExactness === 'exact' ? 'swept' : 'mesh';
      if (runM !== null) add('Length', as(runM, method, shape.extentsExactness));
      if (view) add('OuterSurfaceArea', as(sumAreas(view.facets), view.method, view.exactness));
    }
  }
  add('GrossVolume', shape.gross);
  add('NetVolume', shape.net);
}

/** A member with something cut off: as long as what is left of it along its axis. */
function measureCut({ add, shape }: MeasureContext, base: SweptSolid): void {
  const along = sweptDirection(base);
  const { areaM2 } = measureSweptSolid(base);
  add('CrossSectionArea', exact(areaM2));
  const view = shape.grossFaces();
  if (!view) return;
  const reach = reachAlong(view, along);
  add('Length', as(Math.min(base.depth, reach), 'swept-clipped', 'mesh'));
  // Chords of fillets are shorter than the arcs: such faces are not measured on the mesh.
  if (!isCurved(base)) addFaces(add, view, along);
}

function addFaces(add: MeasureContext['add'], view: FaceView, along: Vector3): void {
  const isEnd = (f: Facet) => Math.abs(dot(f.normal, along)) > TOWARDS;
  const isInner = findInner(view, along);
  const round = view.facets.filter((f) => !isEnd(f) && !isInner(f));
  const figure = (facets: readonly Facet[]) => as(sumAreas(facets), view.method, view.exactness);
  add('OuterSurfaceArea', figure(round));
  add('EndsArea', figure(view.facets.filter(isEnd)));
  add('TopArea', figure(round.filter((f) => f.normal[2] > TOWARDS)));
  add('BottomArea', figure(round.filter((f) => f.normal[2] < -TOWARDS)));
  add('SidesArea', figure(round.filter((f) => Math.abs(f.normal[2]) <= TOWARDS)));
}

/** Tells the faces inside a hollow member: those that stand on a hole of one of its ends. */
function findInner({ mesh, facets }: FaceView, along: Vector3): (f: Facet) => boolean {
  const ends = facets.filter((f) => Math.abs(dot(f.normal, along)) > 0.9999 && f.triangles.length > 0);
  const rings = ends.flatMap((end) =>
    listFacetRings(mesh, end).map((ring) => ({ ring, isHole: dot(areaVector(ring), end.normal) < 0 })),
  );
  if (!rings.some((r) => r.isHole)) return () => false;
  const u = normalize(cross(along, Math.abs(along[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  const v = cross(along, u);
  const flat = (p: Vector3): Vector2 => [dot(p, u), dot(p, v)];
  const plan = rings.map(({ ring, isHole }) => ({ ring: ring.map(flat), isHole }));
  const nearest = (p: Vector2, isHole: boolean) =>
    Math.min(...plan.filter((r) => r.isHole === isHole).map((r) => distanceToPolygon(p, r.ring)));
  return (f) => nearest(flat(f.centre), true) < nearest(flat(f.centre), false);
}

/** A member known by its faces: straight if all but its ends lie along one direction. Of others neither length nor section is told. */
function measureByFaces({ add, shape }: MeasureContext, view: FaceView, along: Vector3): void {
  const length = reachAlong(view, along);
  add('Length', as(length, view.method, view.exactness));
  const ends = view.facets.filter((f) => Math.abs(dot(f.normal, along)) > TOWARDS);
  const isSquare = ends.every((f) => Math.abs(dot(f.normal, along)) > 0.9999);
  const flat = (sign: number) => ends.filter((f) => sign * dot(f.normal, along) > 0);
  const isOnePlane = [1, -1].every((sign) => {
    const places = flat(sign).map((f) => dot(f.centre, along));
    return places.length > 0 && Math.max(...places) - Math.min(...places) < TOLERANCE.touch;
  });
  if (isSquare && isOnePlane && shape.gross)
    add('CrossSectionArea', { ...shape.gross, value: shape.gross.value / length, method: view.method });
  addFaces(add, view, along);
}

/** A run of posts and rails in one line is as long as it is on plan. */
const THIN_M = 0.35;
function measureThinRun([dx, dy]: Vector3): number | null {
  return dy <= THIN_M && dx > 3 * dy ? dx : null;
}

/** Direction of a straight member: square to all its faces but the ends, and the longest way through it; null if there is none. */
function findAxis(view: FaceView): Vector3 | null {
  const whole = sumAreas(view.facets);
  if (!(whole > 0)) return null;
  const directions = listFaceDirections(view.facets);
  const candidates: Vector3[] = [];
  const [main] = directions;
  const other = directions.find((d) => Math.abs(dot(d.direction, main!.direction)) < 0.999 && d.areaM2 > 1e-3 * whole);
  for (const { direction } of directions.slice(0, 8)) candidates.push(direction);
  if (main && other) candidates.push(normalize(cross(main.direction, other.direction)));
  const isAxis = (axis: Vector3) => {
    const askew = view.facets.filter((f) => {
      const on = Math.abs(dot(f.normal, axis));
      return on > 5e-3 && on <= TOWARDS;
    });
    return sumAreas(askew) < 1e-3 * whole;
  };
  const usable = candidates.filter(isAxis);
  // Ends of one plane each before stepped or pointed ones, as a prism of many sides may be seen through its corners.
  const plain = usable.filter((axis) => hasPlainEnds(view, axis));
  return (plain.length > 0 ? plain : usable).reduce<Vector3 | null>(
    (best, a) => (best && reachAlong(view, best) >= reachAlong(view, a) ? best : a),
    null,
  );
}

function hasPlainEnds(view: FaceView, axis: Vector3): boolean {
  return [1, -1].every((sign) => {
    const end = view.facets.filter((f) => sign * dot(f.normal, axis) > TOWARDS);
    return end.length > 0 && end.every((f) => dot(f.normal, end[0]!.normal) > 0.9999);
  });
}

import type { Exactness, QuantityMethod } from '../elements/model-element.ts';
import { type Facet, listFaceDirections } from '../geometry/facets.ts';
import { measureOwnRectangle } from '../geometry/own-axes.ts';
import { listPlaneOutlines } from '../geometry/plane-outlines.ts';
import { profileToPolygon } from '../geometry/profile.ts';
import { measureSweptSolid, type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { cross, dot, lengthOf, normalize, type Vector2, type Vector3 } from '../geometry/vector.ts';
import type { FaceView } from './body-shape.ts';
import { isOnFaces, type MeasureContext, sizeOf, sumAreas, TOWARDS } from './measure-context.ts';

/** Faces steeper than this are edges of a folded plate, not its face: the upward part of their normal. */
const STEEPEST = Math.cos((75 * Math.PI) / 180);

/**
 * True if a slab is drawn across its thickness: its outline is the profile. A profile that is smaller than the widest face along the
 * sweep is its section.
 */
export function isDrawnAsPlate(solid: SweptSolid, layersM: number | null): boolean {
  const { areaM2, heightM } = measureSweptSolid(solid);
  if (layersM !== null && Math.abs(heightM - layersM) < 0.01 * layersM) return true;
  const ring = profileToPolygon(solid.profile);
  const longest = ring.reduce((most, p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return Math.max(most, Math.hypot(q[0] - p[0], q[1] - p[1]));
  }, 0);
  return areaM2 >= longest * solid.depth * (1 - 1e-9);
}

/** Measures a slab, roof, covering or plate by its body. */
export function measureSlab(c: MeasureContext): void {
  const { shape, add } = c;
  const { solid } = shape;
  if (solid && isDrawnAsPlate(solid, c.layersM)) measurePlate(c, solid);
  else {
    const view = shape.grossFaces();
    if (view) measureByFaces(c, view);
  }
  add('GrossVolume', shape.gross);
  add('NetVolume', shape.net);
}

function measurePlate({ add, shape, deductedM2 }: MeasureContext, solid: SweptSolid): void {
  const as = (value: number, method: QuantityMethod = 'swept', exactness: Exactness = 'exact') => ({ value, method, exactness }); // biome-ignore format: one line
  const { areaM2, heightM, perimeterM } = measureSweptSolid(solid);
  const own = measureOwnRectangle(profileToPolygon(solid.profile));
  add('Length', as(own.longM));
  add('Width', as(own.shortM));
  add('Depth', as(heightM));
  add('Perimeter', as(perimeterM));
  add('GrossArea', as(areaM2));
  add('EdgesArea', as(perimeterM * heightM));
  if (deductedM2 !== null || !shape.hasOpenings) {
    const net = as(areaM2 - (deductedM2 ?? 0), shape.hasOpenings ? 'swept-openings' : 'swept');
    for (const name of ['NetArea', 'TopArea', 'BottomArea']) add(name, net);
    return;
  }
  const view = shape.netFaces();
  const faces = view && splitFaces(view.facets.filter(isOnFaces(shape.grossFaces())), upwards(sweptDirection(solid)), TOWARDS); // biome-ignore format: one line
  if (!faces) return;
  add('NetArea', as(sumAreas(faces.top), 'mesh', 'mesh'));
  add('TopArea', as(sumAreas(faces.top), 'mesh', 'mesh'));
  add('BottomArea', as(sumAreas(faces.bottom), 'mesh', 'mesh'));
}

const upwards = (n: Vector3): Vector3 => (n[2] < 0 ? [-n[0], -n[1], -n[2]] : n);

interface SlabFaces {
  readonly top: readonly Facet[];
  readonly bottom: readonly Facet[];
  readonly edges: readonly Facet[];
}

function splitFaces(facets: readonly Facet[], normal: Vector3, limit: number): SlabFaces {
  const rise = (f: Facet) => dot(f.normal, normal);
  return {
    top: facets.filter((f) => rise(f) > limit),
    bottom: facets.filter((f) => rise(f) < -limit),
    edges: facets.filter((f) => Math.abs(rise(f)) <= limit),
  };
}

/** A slab drawn by its section, by faces, or cut: its face is what looks along the direction that most of it looks. */
function measureByFaces(c: MeasureContext, view: FaceView): void {
  const { add, shape } = c;
  const as = (value: number) => ({ value, method: view.method, exactness: view.exactness });
  const [main] = listFaceDirections(view.facets);
  if (!main) return;
  const normal = upwards(main.direction);
  const all = sumAreas(view.facets);
  // Large faces that lie neither along nor square to it: a plate folded or bent in several slopes.
  const askewM2 = sumAreas(view.facets.filter((f) => {
    const on = Math.abs(dot(f.normal, normal));
    return on < 0.9998 && on > 0.05;
  })); // biome-ignore format: one sum
  const isFolded = askewM2 > 0.05 * all;
  const [towards, limit]: [Vector3, number] = isFolded ? [[0, 0, 1], STEEPEST] : [normal, TOWARDS];
  const faces = splitFaces(view.facets, towards, limit);
  const topM2 = sumAreas(faces.top);
  const depth = isFolded ? pairDepth(faces) : planeDepth(faces, normal);
  if (depth !== null) add('Depth', as(depth));
  add('GrossArea', as(topM2));
  add('EdgesArea', as(sumAreas(faces.edges)));
  const [dx, dy] = sizeOf(shape);
  const sides = isFolded ? { longM: Math.max(dx, dy), shortM: Math.min(dx, dy) } : measureSides(view, normal);
  add('Length', as(sides.longM));
  add('Width', as(sides.shortM));
  const perimeter = isFolded ? null : measureOutline(view, normal);
  if (perimeter !== null) add('Perimeter', as(perimeter));
  if (!shape.hasOpenings) {
    add('NetArea', as(topM2));
    add('TopArea', as(topM2));
    add('BottomArea', as(sumAreas(faces.bottom)));
    return;
  }
  const aligned = c.normal && Math.abs(dot(c.normal, normal)) > 1 - TOLERANCE.parallel;
  if (c.deductedM2 !== null && aligned) {
    const less = (m2: number) => ({ ...as(m2 - c.deductedM2!), method: 'swept-openings' as const });
    add('NetArea', less(topM2));
    add('TopArea', less(topM2));
    add('BottomArea', less(sumAreas(faces.bottom)));
    return;
  }
  const net = shape.netFaces();
  if (!net) return;
  const left = splitFaces(net.facets.filter(isOnFaces(view)), towards, limit);
  const byMesh = (value: number) => ({ value, method: 'mesh' as const, exactness: 'mesh' as const });
  add('NetArea', byMesh(sumAreas(left.top)));
  add('TopArea', byMesh(sumAreas(left.top)));
  add('BottomArea', byMesh(sumAreas(left.bottom)));
}

/** Thickness between the one plane that all of the top lies in and that of the bottom; null if there are more. */
function planeDepth({ top, bottom }: SlabFaces, normal: Vector3): number | null {
  const one = (facets: readonly Facet[]): number | null => {
    const places = facets.map((f) => dot(f.centre, normal));
    const isFlat = facets.every((f) => Math.abs(dot(f.normal, normal)) > 0.9998);
    return facets.length > 0 && isFlat && Math.max(...places) - Math.min(...places) < TOLERANCE.touch
      ? places[0]!
      : null;
  };
  const [high, low] = [one(top), one(bottom)];
  return high === null || low === null ? null : high - low;
}

/** Thickness of a folded plate whose every face has one below it at the same distance; null if they differ. */
function pairDepth({ top, bottom }: SlabFaces): number | null {
  let depth: number | null = null;
  for (const f of top) {
    const below = bottom.filter((b) => dot(b.normal, f.normal) < -0.9998).map((b) => f.offsetM + b.offsetM);
    if (below.length !== 1 || !(below[0]! > 0)) return null;
    if (depth !== null && Math.abs(below[0]! - depth) > TOLERANCE.touch) return null;
    depth = below[0]!;
  }
  return depth;
}

/** Smallest rectangle around the body seen along its normal. */
function measureSides({ mesh }: FaceView, normal: Vector3): { longM: number; shortM: number } {
  const u = normalize(cross(normal, Math.abs(normal[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  const v = cross(normal, u);
  const points: Vector2[] = [];
  for (let i = 0; i < mesh.positions.length; i += 3) {
    const p: Vector3 = [mesh.positions[i]!, mesh.positions[i + 1]!, mesh.positions[i + 2]!];
    points.push([dot(p, u), dot(p, v)]);
  }
  return measureOwnRectangle(points);
}

/** Outer boundary of the top, m; null if it is not one flat piece. */
function measureOutline({ mesh }: FaceView, normal: Vector3): number | null {
  const outlines = listPlaneOutlines(mesh, (n) => dot(n, normal) > 0.9998);
  if (outlines.length !== 1) return null;
  const { outline } = outlines[0]!;
  return outline.reduce((sum, p, i) => {
    const q = outline[(i + 1) % outline.length]!;
    return sum + lengthOf([q[0] - p[0], q[1] - p[1], q[2] - p[2]]);
  }, 0);
}

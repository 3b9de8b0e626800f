import type { Exactness, QuantityMethod } from '../elements/model-element.ts';
import { type Facet, listFacets, triangleAt } from '../geometry/facets.ts';
import type { FormedSolid } from '../geometry/formed-solid.ts';
import { joinMeshes, meshSweptSolid } from '../geometry/mesh-solid.ts';
import { measureSignedAreaM2, polygonToOutline } from '../geometry/outline.ts';
import { uniteFigures } from '../geometry/polygon-union.ts';
import { profileToOutlines } from '../geometry/profile.ts';
import {
  asAlignedBox,
  boundSweptSolid,
  measureSweptSolid,
  type SweptSolid,
  sweptDirection,
} from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import { listPieces, measureMesh, orientMesh, type TriangleMesh } from '../geometry/triangle-mesh.ts';
import { type Figure, measureSharedAreaM2, measureUnionAreaM2 } from '../geometry/union-area.ts';
import {
  boundPoints,
  cross,
  dot,
  IDENTITY,
  invertRigid,
  multiplyMatrices,
  normalize,
  transformDirection,
  transformPoint,
  type Vector2,
  type Vector3,
} from '../geometry/vector.ts';
import {
  type BodyProblem,
  boundBody,
  type ElementBody,
  type ElementMeshes,
  type Extents,
  isCurved,
  type Measured,
  meshOwnParts,
} from './element-body.ts';
import { type EnclosedVolume, measureEnclosed } from './enclosed-volume.ts';

/** The faces of a body: flat parts of its mesh, less what touches other parts of the same body. */
export interface FaceView {
  readonly facets: readonly Facet[];
  readonly mesh: TriangleMesh;
  /** Figures from these faces: exact where the body has straight edges only and was meshed here. */
  readonly exactness: Exactness;
  readonly method: QuantityMethod;
}

/** A body as the classes measure it, in its own frame: x along, z up. */
export interface BodyShape {
  /** The one straight solid that the whole body is, openings aside. */
  readonly solid: SweptSolid | null;
  /** The one straight solid that something was cut off. */
  readonly base: SweptSolid | null;
  /** The one solid by formula that the whole body is. */
  readonly formed: FormedSolid | null;
  readonly extents: Extents;
  readonly extentsExactness: Exactness;
  readonly gross: Measured | null;
  readonly net: Measured | null;
  /** Faces with openings filled, and as the body is; null if they are not known. Found when asked for. */
  readonly grossFaces: () => FaceView | null;
  readonly netFaces: () => FaceView | null;
  readonly hasOpenings: boolean;
  readonly problem: BodyProblem | null;
}

/** Which meshes of the reader a body needs. */
export interface MeshNeed {
  readonly net: boolean;
  readonly gross: boolean;
  readonly uncut: boolean;
}

/** What only the mesh reader can tell of a body; `deductionM3` is what its openings take if that is known exactly. */
export function findMeshNeed(body: ElementBody, deductionM3: number | null): MeshNeed {
  const isOther = body.isClipped || body.hasOther;
  const hasOpenings = body.openings.length > 0;
  const net = isOther || (hasOpenings && deductionM3 === null);
  const curved = body.solids.length === 1 && !body.hasOther && isCurved(body.solids[0]!);
  return {
    net,
    gross: net && hasOpenings && (isOther || curved || (body.formed?.length ?? 0) > 0),
    uncut: net && body.isClipped && curved,
  };
}

/** Solids of one body that are one prism together: drawn along one direction over one length. Else null. */
export function mergePrisms(solids: readonly SweptSolid[]): SweptSolid | null {
  const [first] = solids;
  if (!first || solids.length === 1) return first ?? null;
  if (solids.length > 200 || solids.some((s) => Math.abs(s.depth - first.depth) > TOLERANCE.point)) return null;
  if (solids.some(isCurved)) return null;
  const toFirst = invertRigid(first.placement);
  const along = transformDirection(first.placement, first.direction);
  const figures: Figure[] = [];
  for (const s of solids) {
    const own = transformDirection(s.placement, s.direction);
    const isSame = dot(own, along) > 1 - TOLERANCE.parallel;
    const isTurned = dot(own, along) < -1 + TOLERANCE.parallel;
    if (!isSame && !isTurned) return null;
    const matrix = multiplyMatrices(toFirst, s.placement);
    const d = first.direction;
    const back = isTurned ? first.depth : 0;
    const { outer, holes } = profileToOutlines(s.profile);
    const rings = [outer, ...holes].map((ring) => ring.map(({ x, y }) => transformPoint(matrix, [x, y, 0])));
    if (rings.flat().some((p) => Math.abs(p[2] - d[2] * back) > TOLERANCE.point)) return null;
    figures.push(rings.map((ring) => ring.map(([x, y]): Vector2 => [x - d[0] * back, y - d[1] * back])));
  }
  const [whole, ...rest] = uniteFigures(figures);
  if (!whole || rest.length > 0) return null;
  const [outer, ...holes] = whole.map(polygonToOutline);
  return { ...first, profile: { kind: 'outline', outer: outer!, holes } };
}

/**
 * Builds the shape of a body in its own frame. Null if there is nothing to measure.
 * @param known its extents, where they are at hand
 */
export function shapeBody(
  body: ElementBody,
  solid: SweptSolid | null,
  deductionM3: number | null,
  meshes: ElementMeshes | null,
  known: Extents | null = null,
): BodyShape | null {
  const hasOpenings = body.openings.length > 0;
  const need = findMeshNeed(body, deductionM3);
  const net = meshes?.net ? orientMesh(meshes.net) : null;
  const gross = meshes?.gross ? orientMesh(meshes.gross) : null;
  const isOther = body.isClipped || body.hasOther;
  const extents = known ?? boundBody(body, IDENTITY, gross ?? net);
  if (!extents) return null;
  const formed = !isOther && !solid && body.formed?.length === 1 && body.solids.length + (body.drawn?.length ?? 0) === 0 ? body.formed[0]! : null; // biome-ignore format: one test
  const isClippedSweep = body.isClipped && !body.hasOther && body.solids.length === 1 && !body.drawn?.length && !body.formed?.length; // biome-ignore format: one test
  const base = isClippedSweep ? body.solids[0]! : (body.base ?? null);
  const own = remember(() => {
    const parts = meshOwnParts(solid ? { ...body, solids: [solid], drawn: [] } : body)?.map(orientMesh);
    return parts ? { parts, mesh: parts.length === 1 ? parts[0]! : joinMeshes(parts) } : null;
  });
  // A straight-edged solid cut by planes has straight edges.
  const isCutStraight = body.base != null && !isCurved(body.base);
  const isStraight = body.solids.every((s) => !isCurved(s)) && (!body.drawn?.length || isCutStraight);
  const ownFaces = remember((): FaceView | null => {
    const made = own();
    const method: QuantityMethod = isCutStraight ? 'swept-clipped' : isStraight ? 'swept' : 'mesh';
    return made && viewFaces(made.mesh, made.parts, isStraight ? 'exact' : 'mesh', method);
  });
  const readFaces = (mesh: TriangleMesh | null) => remember(() => mesh && viewFaces(mesh, null, 'mesh', 'mesh'));
  const volumes = measureVolumes({ body, solid, formed, base, deductionM3, need, net, gross, own, uncut: meshes?.uncut ?? null }); // biome-ignore format: one call
  const netByReader = readFaces(net);
  const grossByReader = readFaces(gross);
  return {
    solid,
    base,
    formed,
    extents,
    extentsExactness: isOther || (body.drawn?.length && !isCutStraight) ? 'mesh' : 'exact',
    ...volumes,
    grossFaces: !isOther ? ownFaces : hasOpenings ? grossByReader : netByReader,
    netFaces: need.net ? netByReader : ownFaces,
    hasOpenings,
  };
}

function remember<T>(work: () => T): () => T {
  let value: { readonly of: T } | null = null;
  return () => {
    value ??= { of: work() };
    return value.of;
  };
}

interface VolumeBasis {
  readonly body: ElementBody;
  readonly solid: SweptSolid | null;
  readonly formed: FormedSolid | null;
  readonly base: SweptSolid | null;
  readonly deductionM3: number | null;
  readonly need: MeshNeed;
  readonly net: TriangleMesh | null;
  readonly gross: TriangleMesh | null;
  readonly own: () => { readonly mesh: TriangleMesh; readonly parts: readonly TriangleMesh[] } | null;
  readonly uncut: TriangleMesh | null;
}

function measureVolumes(b: VolumeBasis): Pick<BodyShape, 'gross' | 'net' | 'problem'> {
  const { body, solid, formed, base, need } = b;
  const none = { gross: null, net: null };
  const isOther = body.isClipped || body.hasOther;
  const hasOpenings = body.openings.length > 0;
  let gross: Measured | null = null;
  let problem: BodyProblem | null = null;
  if (!isOther) {
    const exact = solid ? measureSweptSolid(solid).volumeM3 : formed ? formed.volumeM3 : null;
    if (exact !== null) {
      if (!(exact > 0)) return { ...none, problem: 'volume-not-positive' };
      gross = { value: exact, method: solid ? 'swept' : 'formed', exactness: 'exact' };
    } else {
      const sum = sumApart(body);
      const own = sum ? null : b.own();
      const found = own ? measureEnclosed(own.mesh, own.parts) : null;
      problem = found?.problem ?? (found?.isOverlapping ? 'solids-overlap' : null);
      // A curved solid cut by planes: both meshed alike, what is left is the same share.
      const scale = base && isCurved(base) ? measureSweptSolid(base).volumeM3 / (measureMesh(meshSweptSolid(base))?.volumeM3 ?? Number.NaN) : 1; // biome-ignore format: one share
      const cut: Pick<Measured, 'method' | 'exactness'> = base ? { method: 'swept-clipped', exactness: isCurved(base) ? 'mesh' : 'exact' } : { method: 'mesh', exactness: 'mesh' }; // biome-ignore format: one record
      gross = sum ?? (found?.volumeM3 == null ? null : { value: found.volumeM3 * scale, ...cut });
    }
  } else {
    // The mesh reader cuts curves into chords: both meshed alike, what is cut off is the same share.
    const uncut = b.uncut ? measureEnclosed(orientMesh(b.uncut)).volumeM3 : null;
    const scale = base && uncut ? measureSweptSolid(base).volumeM3 / uncut : base && isCurved(base) ? null : 1;
    const found = measureEnclosedOf(hasOpenings ? b.gross : b.net);
    problem = found?.problem ?? (found?.isOverlapping ? 'solids-overlap' : null);
    if (found?.volumeM3 != null && scale !== null)
      gross = { value: found.volumeM3 * scale, method: base ? 'swept-clipped' : 'mesh', exactness: 'mesh' };
  }
  if (!hasOpenings) return { gross, net: gross, problem };
  if (!need.net) {
    const left = gross ? gross.value - (b.deductionM3 ?? 0) : null;
    const method: QuantityMethod = gross?.method === 'swept' ? 'swept-openings' : (gross?.method ?? 'mesh');
    return left !== null && left > 1e-12
      ? { gross, net: { ...gross!, value: left, method }, problem }
      : { gross, net: null, problem: problem ?? (gross ? 'volume-not-positive' : null) };
  }
  const found = measureEnclosedOf(b.net);
  if (!found) return { gross, net: null, problem };
  if (found.volumeM3 === null) return { gross, net: null, problem: found.problem ?? problem };
  const meshGross = b.gross ? measureEnclosedOf(b.gross)?.volumeM3 : null;
  const scale = gross && meshGross ? gross.value / meshGross : 1;
  return {
    gross,
    net: { value: found.volumeM3 * scale, method: base || solid ? 'swept-clipped' : 'mesh', exactness: 'mesh' },
    problem,
  };
}

const measureEnclosedOf = (mesh: TriangleMesh | null): EnclosedVolume | null => mesh && measureEnclosed(mesh);

/** Volume of solids that have figures by formula: their sum where they stand apart or only touch, of boxes what they fill together. */
function sumApart(body: ElementBody): Measured | null {
  if (body.drawn?.length) return null;
  const method: QuantityMethod = body.solids.length > 0 ? 'swept' : 'formed';
  const exact = (value: number): Measured | null => (value > 0 ? { value, method, exactness: 'exact' } : null);
  const boxes = body.formed?.length ? [] : body.solids.flatMap((s) => asAlignedBox(s) ?? []);
  if (boxes.length > 0 && boxes.length === body.solids.length) return exact(measureBoxesM3(boxes));
  const parts = [
    ...body.solids.map((solid) => ({
      solid,
      volumeM3: measureSweptSolid(solid).volumeM3,
      box: boundSweptSolid(solid),
    })),
    ...(body.formed ?? []).map((f) => ({ solid: null, volumeM3: f.volumeM3, box: boundPoints(f.points)! })),
  ].sort((a, b) => a.box.min[0] - b.box.min[0]);
  for (const [i, a] of parts.entries()) {
    for (let j = i + 1; j < parts.length && parts[j]!.box.min[0] < a.box.max[0]; j++) {
      const b = parts[j]!.box;
      const isMeeting = [0, 1, 2].every(
        (k) => Math.min(a.box.max[k]!, b.max[k]!) - Math.max(a.box.min[k]!, b.min[k]!) > TOLERANCE.point,
      );
      if (isMeeting && !arePrismsApart(a.solid, parts[j]!.solid)) return null;
    }
  }
  return exact(parts.reduce((sum, p) => sum + p.volumeM3, 0));
}

/** True if all corners of one profile lie in a four-cornered hole of another; both in one direction. */
function standsInHole(inner: SweptSolid, frame: SweptSolid): boolean {
  const { holes } = profileToOutlines(frame.profile);
  if (holes.length === 0) return false;
  const toFrame = multiplyMatrices(invertRigid(frame.placement), inner.placement);
  const corners = profileToOutlines(inner.profile).outer.map(({ x, y }) => transformPoint(toFrame, [x, y, 0]));
  return holes.some((hole) => {
    const turn = Math.sign(measureSignedAreaM2(hole));
    return (
      hole.length === 4 &&
      hole.every((a, i) => {
        const b = hole[(i + 1) % 4]!;
        return corners.every(([x, y]) => ((b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x)) * turn >= -1e-9);
      })
    );
  });
}

/** True if two prisms drawn along one direction share no room: a pane stands within its frame, but not in it. */
function arePrismsApart(a: SweptSolid | null, b: SweptSolid | null): boolean {
  if (!a || !b || isCurved(a) || isCurved(b)) return false;
  const [along, other] = [sweptDirection(a), sweptDirection(b)];
  const isSquare = [a, b].every((s) => 1 - Math.abs(s.direction[2]) < TOLERANCE.parallel);
  if (!isSquare || 1 - Math.abs(dot(along, other)) > TOLERANCE.parallel) return false;
  const u = normalize(cross(along, Math.abs(along[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  const v = cross(along, u);
  const span = (s: SweptSolid): [number, number] => {
    const start = dot([s.placement[3], s.placement[7], s.placement[11]], along);
    const end = start + s.depth * Math.sign(dot(sweptDirection(s), along));
    return [Math.min(start, end), Math.max(start, end)];
  };
  const [[a0, a1], [b0, b1]] = [span(a), span(b)];
  const depth = Math.min(a1, b1) - Math.max(a0, b0);
  if (depth < TOLERANCE.point) return true;
  if (standsInHole(a, b) || standsInHole(b, a)) return true;
  const figureOf = (s: SweptSolid): Figure => {
    const { outer, holes } = profileToOutlines(s.profile);
    return [outer, ...holes].map((ring) =>
      ring.map(({ x, y }): Vector2 => {
        const p = transformPoint(s.placement, [x, y, 0]);
        return [dot(p, u), dot(p, v)];
      }),
    );
  };
  return measureSharedAreaM2([figureOf(a)], [figureOf(b)]) * depth < TOLERANCE.point ** 2;
}

/** Volume that boxes along the axes fill together, m3: layer by layer between the heights at which one begins or ends. */
function measureBoxesM3(boxes: readonly Extents[]): number {
  const isApart = (a: Extents, b: Extents) => [0, 1, 2].some((k) => Math.min(a.max[k]!, b.max[k]!) - Math.max(a.min[k]!, b.min[k]!) < 1e-9); // biome-ignore format: one test
  if (boxes.length < 40 && boxes.every((a, i) => boxes.every((b, j) => j <= i || isApart(a, b))))
    return boxes.reduce((sum, { min, max }) => sum + (max[0] - min[0]) * (max[1] - min[1]) * (max[2] - min[2]), 0);
  const levels = [...new Set(boxes.flatMap((b) => [b.min[2], b.max[2]]))].sort((a, b) => a - b);
  let sum = 0;
  for (let i = 0; i + 1 < levels.length; i++) {
    const [from, to] = [levels[i]!, levels[i + 1]!];
    if (to - from < 1e-9) continue;
    const here = boxes.filter((b) => b.min[2] < to - 1e-9 && b.max[2] > from + 1e-9);
    const figures = here.map(({ min, max }): Figure => [[[min[0], min[1]], [max[0], min[1]], [max[0], max[1]], [min[0], max[1]]]]); // biome-ignore format: one rectangle
    sum += measureUnionAreaM2(figures) * (to - from);
  }
  return sum;
}
/** More faces are not compared with each other. */
const MOST_FACES = 3000;

/** Faces of an oriented mesh. Null if pieces of it run through each other, as what lies inside is no face. */
function viewFaces(
  mesh: TriangleMesh,
  parts: readonly TriangleMesh[] | null,
  exactness: Exactness,
  method: QuantityMethod,
): FaceView | null {
  const pieces = parts && parts.length > 1 ? parts : listPieces(mesh);
  if (pieces.length === 1) return { facets: listFacets(mesh), mesh, exactness, method };
  if (measureMesh(mesh)?.isClosed && measureEnclosed(mesh, parts).isOverlapping) return null;
  const facets = pieces.map((piece) => ({ piece, facets: listFacets(piece) }));
  const all = facets.flatMap(({ piece, facets: list }, i) => list.map((facet) => ({ facet, piece, i })));
  if (all.length > MOST_FACES) return null;
  const covered = new Map<Facet, number>();
  const byOffset = [...all].sort((a, b) => Math.abs(a.facet.offsetM) - Math.abs(b.facet.offsetM));
  for (let a = 0; a < byOffset.length; a++) {
    const x = byOffset[a]!;
    for (let b = a + 1; b < byOffset.length; b++) {
      const y = byOffset[b]!;
      if (Math.abs(y.facet.offsetM) - Math.abs(x.facet.offsetM) > TOLERANCE.touch) break;
      if (x.i === y.i || dot(x.facet.normal, y.facet.normal) > -0.9999) continue;
      if (Math.abs(x.facet.offsetM + y.facet.offsetM) > TOLERANCE.touch) continue;
      const shared = measureSharedAreaM2(projectFacet(x, x.facet.normal), projectFacet(y, x.facet.normal));
      if (shared < 1e-9) continue;
      covered.set(x.facet, (covered.get(x.facet) ?? 0) + shared);
      covered.set(y.facet, (covered.get(y.facet) ?? 0) + shared);
    }
  }
  return {
    mesh,
    exactness,
    method,
    facets: all.flatMap(({ facet, piece }) => {
      const areaM2 = facet.areaM2 - (covered.get(facet) ?? 0);
      // Triangles are told in the mesh as a whole: pieces share its points.
      return areaM2 > 1e-9 ? [{ ...facet, areaM2, triangles: piece === mesh ? facet.triangles : [] }] : [];
    }),
  };
}

function projectFacet({ facet, piece }: { facet: Facet; piece: TriangleMesh }, normal: Vector3): Figure[] {
  const u = normalize(cross(normal, Math.abs(normal[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  const v = cross(normal, u);
  return facet.triangles.map((at) => [triangleAt(piece, at).map((p): Vector2 => [dot(p, u), dot(p, v)])]);
}

import type { QuantityMethod } from '../elements/model-element.ts';
import {
  listSweptPoints,
  measureChordedVolumeM3,
  measureSweptSolid,
  type SweptSolid,
} from '../geometry/swept-solid.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import { type MeshMeasures, measureMesh } from '../geometry/triangle-mesh.ts';
import { boundPoints, type Vector3 } from '../geometry/vector.ts';

/** An opening cut out of an element; `solid` is null if it is not one straight solid. In the host's frame, metres. */
export interface OpeningBody {
  readonly globalId: string;
  readonly filledBy: string | null;
  readonly solid: SweptSolid | null;
}

/** The shape of one element as far as it is known without a mesh. In the element's own frame, metres. */
export interface ElementBody {
  readonly solids: readonly SweptSolid[];
  /** Something is cut off the solids (a clipping, a boolean difference). */
  readonly isClipped: boolean;
  /** There are bodies that are no straight solids. */
  readonly hasOther: boolean;
  readonly openings: readonly OpeningBody[];
}

/** Meshes of an element in its own frame; `gross` without openings, needed only where there are openings. */
export interface ElementMeshes {
  readonly net: TriangleMesh | null;
  readonly gross: TriangleMesh | null;
}

/** A figure with the way it was found; null is "not known". */
export interface Measured {
  readonly value: number;
  readonly method: QuantityMethod;
}

/** Why a body gives no volume, or no figures at all. */
export type BodyProblem = 'open-body' | 'volume-not-positive' | 'profile-crosses-itself';

/** What can be said of any body before its class gives the figures their names. */
export interface BodyMeasures {
  readonly gross: Measured | null;
  readonly net: Measured | null;
  readonly min: Vector3;
  readonly max: Vector3;
  /** True if the extents come from the mesh or the body is whole, so that they are the true ones. */
  readonly mesh: MeshMeasures | null;
  readonly problem: BodyProblem | null;
}

/** True if only a mesh can tell the volume. `deduction` is the exact one, if there is any. */
export function isMeshNeeded(body: ElementBody, deductionM3: number | null): boolean {
  return body.isClipped || body.hasOther || (body.openings.length > 0 && deductionM3 === null);
}

/** Measures volumes and extents. Null if there is nothing to measure. */
export function measureBody(
  body: ElementBody,
  deductionM3: number | null,
  meshes: ElementMeshes | null,
): BodyMeasures | null {
  const exact = body.solids.reduce((sum, s) => sum + measureSweptSolid(s).volumeM3, 0);
  const netMesh = meshes?.net ? measureMesh(meshes.net) : null;
  const grossMesh = meshes?.gross ? measureMesh(meshes.gross) : null;
  const bounds =
    body.solids.length === 1
      ? boundPoints(listSweptPoints(body.solids[0]!))
      : boundPoints(body.solids.flatMap(listSweptPoints));
  const extents = body.isClipped || body.hasOther ? (grossMesh ?? netMesh ?? bounds) : (bounds ?? netMesh);
  if (!extents) return null;
  const base = { min: extents.min, max: extents.max, mesh: netMesh };
  if (!isMeshNeeded(body, deductionM3)) {
    if (!(exact > 0)) return { ...base, gross: null, net: null, problem: 'volume-not-positive' };
    const net = exact - (deductionM3 ?? 0);
    return {
      ...base,
      gross: { value: exact, method: 'swept' },
      net: net > 0 ? { value: net, method: body.openings.length > 0 ? 'swept-openings' : 'swept' } : null,
      problem: net > 0 ? null : 'volume-not-positive',
    };
  }
  const isWhole = !body.isClipped && !body.hasOther;
  const chorded = body.solids.reduce((sum, s) => sum + measureChordedVolumeM3(s), 0);
  const scale = body.hasOther || !(chorded > 0) ? 1 : exact / chorded;
  const method: QuantityMethod = body.hasOther ? 'mesh' : 'swept-clipped';
  const take = (mesh: MeshMeasures | null): Measured | null =>
    mesh?.isClosed && mesh.volumeM3 > 1e-12 ? { value: mesh.volumeM3 * scale, method } : null;
  const net = take(netMesh);
  const gross = isWhole
    ? ({ value: exact, method: 'swept' } as const)
    : body.openings.length > 0
      ? take(grossMesh)
      : net;
  const problem = !netMesh || net ? null : netMesh.isClosed ? 'volume-not-positive' : 'open-body';
  return { ...base, gross, net, problem };
}

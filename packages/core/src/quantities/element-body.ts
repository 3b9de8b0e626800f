import type { Exactness, QuantityMethod } from '../elements/model-element.ts';
import type { FormedSolid } from '../geometry/formed-solid.ts';
import { joinMeshes, meshSweptSolid } from '../geometry/mesh-solid.ts';
import { profileToOutlines } from '../geometry/profile.ts';
import { boundSweptSolid, type SweptSolid } from '../geometry/swept-solid.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import { boundPoints, type Matrix, multiplyMatrices, transformPoint, type Vector3 } from '../geometry/vector.ts';

/** An opening cut out of an element. In the host's frame, metres. */
export interface OpeningBody {
  readonly globalId: string;
  readonly filledBy: string | null;
  /** Null if it is not one straight solid. */
  readonly solid: SweptSolid | null;
  /** Its shape if it is drawn by its faces instead. */
  readonly drawn?: TriangleMesh | null;
}

/** The shape of one element as far as it is known without the mesh reader. In the element's own frame, metres. */
export interface ElementBody {
  readonly solids: readonly SweptSolid[];
  /** Solids with figures by formula that are no straight sweeps. */
  readonly formed?: readonly FormedSolid[];
  /** Bodies drawn by their faces, or straight solids cut by planes. */
  readonly drawn?: readonly TriangleMesh[];
  /** The one straight solid that the one drawn body was cut from. */
  readonly base?: SweptSolid | null;
  /** Something is cut off the solids (a clipping, a boolean difference). */
  readonly isClipped: boolean;
  /** There are bodies that only the mesh reader can draw. */
  readonly hasOther: boolean;
  readonly openings: readonly OpeningBody[];
}

/**
 * Meshes of an element in its own frame by the mesh reader: `net` as it is, `gross` without its openings, `uncut` the solid before
 * anything was cut off it. The last two are there only where they are needed.
 */
export interface ElementMeshes {
  readonly net: TriangleMesh | null;
  readonly gross: TriangleMesh | null;
  readonly uncut?: TriangleMesh | null;
}

/** A measured figure with the way it was found and how far it can be trusted. */
export interface Measured {
  readonly value: number;
  readonly method: QuantityMethod;
  readonly exactness: Exactness;
}

/** Why a body gives no volume, or no figures at all. */
export type BodyProblem =
  | 'open-body'
  | 'volume-not-positive'
  | 'profile-crosses-itself'
  | 'solids-overlap'
  | 'size-out-of-range';

/** Extents along the axes, m. */
export interface Extents {
  readonly min: Vector3;
  readonly max: Vector3;
}

/** True if a profile's outline has arcs, so that any mesh of it is cut into chords. */
export function isCurved({ profile }: SweptSolid): boolean {
  if (profile.kind === 'ellipse') return true;
  const { outer, holes } = profileToOutlines(profile);
  return [outer, ...holes].some((ring) => ring.some((v) => v.sweep !== 0));
}

/** Extents of a body after a map: exact of solids, of others those of their points. Null without a shape. */
export function boundBody(body: ElementBody, matrix: Matrix, mesh: TriangleMesh | null): Extents | null {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max: [number, number, number] = [-Infinity, -Infinity, -Infinity];
  const note = (box: Extents | null) => {
    for (let k = 0; box && k < 3; k++) {
      if (box.min[k]! < min[k]!) min[k] = box.min[k]!;
      if (box.max[k]! > max[k]!) max[k] = box.max[k]!;
    }
  };
  if ((body.hasOther || body.isClipped) && mesh) note(boundMesh(mesh, matrix));
  else {
    for (const s of body.solids) note(boundSweptSolid({ ...s, placement: multiplyMatrices(matrix, s.placement) }));
    for (const f of body.formed ?? []) note(boundPoints(f.points.map((p) => transformPoint(matrix, p))));
    for (const d of body.drawn ?? []) note(boundMesh(d, matrix));
  }
  return min[0] === Infinity ? null : { min, max };
}

/** Extents of the points of a mesh after a map. */
export function boundMesh({ positions, indices }: TriangleMesh, matrix: Matrix): Extents | null {
  const used = function* () {
    for (let i = 0; i < indices.length; i++) {
      const at = indices[i]! * 3;
      yield transformPoint(matrix, [positions[at]!, positions[at + 1]!, positions[at + 2]!]);
    }
  };
  return boundPoints(used());
}

/**
 * Meshes of the parts of a body without its openings, made here; null if something of it only the mesh reader can draw.
 * @param chords per full turn of a curve; those of figures if absent
 */
export function meshOwnParts(body: ElementBody, chords?: number): TriangleMesh[] | null {
  if (body.isClipped || body.hasOther || (body.formed?.length ?? 0) > 0) return null;
  const meshes = [...body.solids.map((s) => meshSweptSolid(s, chords)), ...(body.drawn ?? [])];
  return meshes.length === 0 ? null : meshes;
}

/** The same as one mesh. */
export function meshOwnBody(body: ElementBody, chords?: number): TriangleMesh | null {
  const parts = meshOwnParts(body, chords);
  return parts && (parts.length === 1 ? parts[0]! : joinMeshes(parts));
}

import type { ChosenAreas } from '../elements/element-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import { cross, dot, lengthOf, normalize, type Vector3 } from '../geometry/vector.ts';
import type { MeshOfRow } from './measure-parts.ts';

/** A flat face of an element: the way it looks, and its distance along that from the middle of the element's extents, m. */
export interface ChosenFace {
  readonly normal: Vector3;
  readonly offsetM: number;
}

/** Faces look the same way within 1°. */
const ALIKE = Math.cos(Math.PI / 180);
/** Triangles lie in one face within this, m. */
const FLAT_M = 0.002;
/** A face is found again in a later revision if it has moved no further within its element, m. */
const MOVED_M = 0.25;

/** A triangle of a mesh with its plane. */
interface Facet {
  readonly at: number;
  readonly areaM2: number;
  readonly offsetM: number;
}

/** Triangles that look the way of a face, their offsets counted from `middle`. */
function listFacets({ positions, indices }: TriangleMesh, normal: Vector3, middle: Vector3): Facet[] {
  const out: Facet[] = [];
  const corner = (i: number): Vector3 => {
    const p = indices[i]! * 3;
    return [positions[p]!, positions[p + 1]!, positions[p + 2]!];
  };
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [corner(at), corner(at + 1), corner(at + 2)];
    const n = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]]);
    const size = lengthOf(n);
    if (size === 0 || dot(n, normal) < ALIKE * size) continue;
    const centre: Vector3 = [0, 1, 2].map((k) => (a[k]! + b[k]! + c[k]!) / 3 - middle[k]!) as unknown as Vector3;
    out.push({ at, areaM2: size / 2, offsetM: dot(centre, normal) });
  }
  return out;
}

/** The triangles of the face of a mesh that is meant: the nearest plane that looks the same way; empty if there is none. */
function findFace(mesh: TriangleMesh, { normal, offsetM }: ChosenFace, middle: Vector3): Facet[] {
  const facets = listFacets(mesh, normalize(normal), middle);
  const distance = (f: Facet) => Math.abs(f.offsetM - offsetM);
  const nearest = facets.reduce<Facet | null>((best, f) => (best && distance(best) <= distance(f) ? best : f), null);
  if (!nearest || distance(nearest) > MOVED_M) return [];
  return facets.filter((f) => Math.abs(f.offsetM - nearest.offsetM) <= FLAT_M);
}

/**
 * Area of chosen faces of an element, m2, each triangle once; NaN if one of them is not there any more.
 * @param middle middle of the element's extents, in the mesh's own world
 */
export function measureChosenFacesM2(mesh: TriangleMesh, faces: readonly ChosenFace[], middle: Vector3): number {
  const found = new Map<number, number>();
  for (const face of faces) {
    const facets = findFace(mesh, face, middle);
    if (facets.length === 0) return Number.NaN;
    for (const f of facets) found.set(f.at, f.areaM2);
  }
  return [...found.values()].reduce((sum, m2) => sum + m2, 0);
}

/** The face of a mesh that a triangle belongs to, with the triangles in it (their positions in `indices`) and its area. */
export function describeFace(
  mesh: TriangleMesh,
  triangle: number,
  middle: Vector3,
): { face: ChosenFace; triangles: number[]; areaM2: number } | null {
  const corner = (i: number): Vector3 => {
    const p = mesh.indices[triangle + i]! * 3;
    return [mesh.positions[p]!, mesh.positions[p + 1]!, mesh.positions[p + 2]!];
  };
  const [a, b, c] = [corner(0), corner(1), corner(2)];
  const n = cross([b[0] - a[0], b[1] - a[1], b[2] - a[2]], [c[0] - a[0], c[1] - a[1], c[2] - a[2]]);
  if (lengthOf(n) === 0) return null;
  const normal = normalize(n);
  const face = { normal, offsetM: dot([a[0] - middle[0], a[1] - middle[1], a[2] - middle[2]], normal) };
  const facets = findFace(mesh, face, middle);
  return { face, triangles: facets.map((f) => f.at), areaM2: facets.reduce((sum, f) => sum + f.areaM2, 0) };
}

/** Middle of a row's extents. */
export function middleOf(table: ElementTable, row: number): Vector3 {
  const b = table.boxes.subarray(row * 6, row * 6 + 6);
  return [(b[0]! + b[3]!) / 2, (b[1]! + b[4]!) / 2, (b[2]! + b[5]!) / 2];
}

/** Areas of the faces chosen in a project, by name and row of a table. */
export function measureChosen(
  table: ElementTable,
  chosen: ReadonlyMap<number, Readonly<Record<string, readonly ChosenFace[]>>>,
  meshOf: MeshOfRow,
): ChosenAreas[] {
  const byName = new Map<string, Map<number, number>>();
  for (let row = 0; row < table.count; row++) {
    for (const [name, faces] of Object.entries(chosen.get(table.keys[row]!) ?? {})) {
      const areas = byName.get(name) ?? new Map<number, number>();
      byName.set(name, areas);
      const mesh = meshOf(row);
      areas.set(row, mesh ? measureChosenFacesM2(mesh, faces, middleOf(table, row)) : Number.NaN);
    }
  }
  return [...byName].map(([name, areas]) => ({ name, areas }));
}

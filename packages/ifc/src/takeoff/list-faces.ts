import {
  type ElementMeshes,
  type Face,
  type FaceAreas,
  type FaceDirections,
  type FaceLook,
  type MeasureOutcome,
  measureMeshFaces,
  measureSweptFaces,
  nameFace,
  type TriangleMesh,
  type Vector3,
} from '@tally/core';
import type { FileElement } from '../reader/read-elements.ts';

/** Meshes of an element; also one by one for its drawn items, by record number, where those are styled differently. */
export interface FileMeshes extends ElementMeshes {
  readonly byItem?: ReadonlyMap<number, TriangleMesh>;
}

const LOOKS: Record<keyof FaceAreas, FaceLook> = { topM2: 'top', bottomM2: 'bottom', sidesM2: 'side', endsM2: 'end' };
/** Figures that are the faces of an element by the way they look; the edges of a slab are its sides. */
const FACE_FIGURES: readonly (readonly [string, FaceLook])[] = [
  ['TopArea', 'top'],
  ['BottomArea', 'bottom'],
  ['SidesArea', 'side'],
  ['EdgesArea', 'side'],
  ['EndsArea', 'end'],
];

const upOf = ({ placement: p }: FileElement): Vector3 => [p[8], p[9], p[10]];
const stylesOf = (e: FileElement): ReadonlySet<string | null> =>
  new Set(e.items.flatMap((i) => i.faces?.map((f) => f.style) ?? [i.style]));

/** True if an element's faces differ in style and only the mesh of each of its items can tell their areas. */
export function isStyledByItem(e: FileElement): boolean {
  if (e.items.length < 2 || e.group === 'space' || !e.body) return false;
  const isHidden = e.body.openings.length > 0 || e.items.some((i) => i.solid === null && i.faces === null && !i.drawn);
  return isHidden && stylesOf(e).size > 1;
}

/**
 * Faces of an element by surface style and the way they look. One style all over: the element's own figures. Several: each item for
 * itself, straight ones exactly, others over their mesh; faces that are styled one by one as they are drawn. Where the file gives
 * no style the only material stands for it.
 */
export function listFaces(e: FileElement, outcome: MeasureOutcome, meshes: FileMeshes | null): Face[] {
  if (e.group === 'space' || !e.body) return [];
  const plain = e.material.names.length === 1 ? e.material.names[0]! : null;
  const first = e.items[0];
  const isAlike = e.items.every((i) => i.faces === null && i.style === first?.style);
  if (first && isAlike && e.group !== 'filler') {
    const style = first.style ?? plain;
    if (style === null) return [];
    const found = FACE_FIGURES.flatMap(([name, look]): Face[] => {
      const q = outcome.quantities.find((f) => f.name === name);
      return q ? [{ style, look, area: q.value }] : [];
    });
    if (found.length > 0) return found;
    const all = outcome.quantities.find((f) => f.name === 'OuterSurfaceArea');
    return all ? [{ style, look: 'all', area: all.value }] : [];
  }
  const sums = new Map<string, Face>();
  const add = (style: string | null, look: FaceLook, area: number) => {
    const name = style ?? plain;
    if (name === null || !(area > 0)) return;
    const known = sums.get(`${look}/${name}`);
    sums.set(`${look}/${name}`, { style: name, look, area: area + (known?.area ?? 0) });
  };
  const directions: FaceDirections = { up: upOf(e) };
  const isCut = e.body.openings.length > 0;
  for (const { id, style, solid, faces, drawn } of e.items) {
    if (faces) {
      for (const f of faces) add(f.style, LOOKS[nameFace(f.normal, directions)], f.areaM2);
      continue;
    }
    const mesh = meshes?.byItem?.get(id) ?? (isCut ? null : drawn);
    const areas =
      solid && !isCut ? measureSweptFaces(solid, directions) : mesh ? measureMeshFaces(mesh, directions) : null;
    for (const [key, look] of Object.entries(LOOKS) as [keyof FaceAreas, FaceLook][])
      if (areas) add(style, look, areas[key]);
  }
  return [...sums.values()];
}

/** Faces of elements; of those that share their figures (one body, one size, one way up) and what stands for a style, listed once. */
export class FaceMemory {
  private readonly byFigures = new Map<
    MeasureOutcome['quantities'],
    { readonly plain: string | null; readonly faces: Face[] }
  >();

  list(e: FileElement, outcome: MeasureOutcome, meshes: FileMeshes | null): Face[] {
    if (meshes || !e.body || e.body.openings.length > 0) return listFaces(e, outcome, meshes);
    const plain = e.material.names.length === 1 ? e.material.names[0]! : null;
    const known = this.byFigures.get(outcome.quantities);
    if (known?.plain === plain) return known.faces;
    const faces = listFaces(e, outcome, null);
    this.byFigures.set(outcome.quantities, { plain, faces });
    return faces;
  }
}

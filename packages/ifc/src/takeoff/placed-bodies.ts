import {
  type CutBody,
  type ElementBody,
  IDENTITY,
  measureCommonVolume,
  meshOwnBody,
  meshSweptSolid,
  moveMesh,
  type PlacedBody,
  SAME_PLACE_SHARE,
  type SharedLabel,
  type SurfaceSketch,
  SurfaceSum,
  type TriangleMesh,
  transformPoint,
} from '@tally/core';
import type { MeasuredElement } from './site-figures.ts';

/** Bodies of all elements that have a volume, in the model's world, by row. */
export function placeBodies(all: readonly MeasuredElement[]): Map<number, PlacedBody> {
  const parentOf = new Map<string, string>();
  for (const { element: e } of all) if (e.parent !== null) parentOf.set(e.globalId, e.parent);
  const wholesOf = (id: string): string[] => {
    const out: string[] = [];
    for (let at = parentOf.get(id); at !== undefined && out.length < 16; at = parentOf.get(at)) out.push(at);
    return out;
  };
  const out = new Map<number, PlacedBody>();
  for (const [row, m] of all.entries()) {
    const { element: e, outcome } = m;
    const find = (...names: readonly string[]) => outcome.quantities.find((q) => names.includes(q.name))?.value;
    const volumeM3 = find('GrossVolume') ?? find('NetVolume');
    if (!outcome.worldExtents || volumeM3 === undefined) continue;
    out.set(row, {
      row,
      globalId: e.globalId,
      ifcClass: e.ifcClass,
      label: `${e.ifcClass} ${e.name ?? e.globalId}`,
      group: e.group,
      spaceKind: e.group === 'space' ? e.spaceKind : null,
      wholes: wholesOf(e.globalId),
      min: outcome.worldExtents.min,
      max: outcome.worldExtents.max,
      volumeM3,
      widthM: e.group === 'wall' ? (find('Width') ?? outcome.planWidthM) : null,
      shape: () => shapeOf(m),
    });
  }
  return out;
}

/** Chords per full turn of shapes that are only laid into each other. */
const ROUGH_CHORDS = 12;

/** The shape of an element in the model's world: its mesh by the reader, else its own body with its openings as cuts. */
function shapeOf({ element: e, meshes }: MeasuredElement): CutBody | null {
  const place = (mesh: TriangleMesh) => moveMesh(mesh, e.placement);
  if (meshes?.net) return { mesh: place(meshes.net), cuts: [] };
  const own = e.body && meshOwnBody(e.body, ROUGH_CHORDS);
  if (!own) return null;
  const cuts = e.body!.openings.flatMap((o) =>
    o.solid ? [meshSweptSolid(o.solid, ROUGH_CHORDS)] : o.drawn ? [o.drawn] : [],
  );
  return { mesh: place(own), cuts: cuts.map(place) };
}

/** Surfaces of elements, openings of what is drawn here filled; of those that show one body found once. */
export class SketchMemory {
  /** Of bodies without openings, in their own frame. */
  private readonly byBody = new Map<ElementBody, SurfaceSketch | null>();

  /** The surface of an element in the model's world; null without a shape that can be meshed. */
  sketch({ element: e, meshes }: MeasuredElement): SurfaceSketch | null {
    if (meshes?.net) return new SurfaceSum().addMesh(meshes.net).sketch(e.placement);
    const { body } = e;
    if (!body || body.isClipped || body.hasOther || (body.formed?.length ?? 0) > 0) return null;
    if (body.openings.length > 0) return sumBody(body).sketch(e.placement);
    let own = this.byBody.get(body);
    if (own === undefined) {
      own = sumBody(body).sketch(IDENTITY);
      this.byBody.set(body, own);
    }
    return own && { ...own, centre: transformPoint(e.placement, own.centre) };
  }
}

function sumBody(body: ElementBody): SurfaceSum {
  const sum = new SurfaceSum();
  for (const solid of body.solids) sum.addSwept(solid, ROUGH_CHORDS);
  for (const drawn of body.drawn ?? []) sum.addMesh(drawn);
  return sum;
}

/** True if two elements fill the same room: by what they share, or where neither can be meshed here by the places they reach. */
export function fillSameRoom(
  a: PlacedBody | undefined,
  b: PlacedBody | undefined,
  first: MeasuredElement,
  second: MeasuredElement,
): boolean {
  if (!a || !b) return true;
  const [x, y] = [a.shape(), b.shape()];
  if (x && y) return measureCommonVolume(x, y) > SAME_PLACE_SHARE * 0.99 * Math.max(a.volumeM3, b.volumeM3);
  const [p, q] = [listPlaces(first), listPlaces(second)];
  if (p.size === 0 || q.size === 0) return true;
  return [...p].every((place) => q.has(place));
}

/** Places on formed solids in the model's world, by the centimetre. */
function listPlaces({ element: e }: MeasuredElement): Set<string> {
  const m = e.placement;
  return new Set(
    (e.body?.formed ?? []).flatMap((f) =>
      f.points.map(([x, y, z]) =>
        [0, 4, 8].map((r) => Math.round((m[r]! * x + m[r + 1]! * y + m[r + 2]! * z + m[r + 3]!) * 100)).join(),
      ),
    ),
  );
}

export const labelBody = ({ globalId, label, ifcClass, volumeM3 }: PlacedBody): SharedLabel => ({
  globalId,
  label,
  ifcClass,
  volumeM3,
});

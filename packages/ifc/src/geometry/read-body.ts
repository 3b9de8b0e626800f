import {
  type FormedSolid,
  IDENTITY,
  type Matrix,
  moveFormed,
  multiplyMatrices,
  type SweptSolid,
  type TriangleMesh,
  transformDirection,
  transformPoint,
} from '@tally/core';
import type { DrawnFace } from './drawn-faces.ts';

/** One drawn item of a body: its record, its surface style, and its faces where the file styles them one by one. */
export interface BodyItem {
  readonly id: number;
  readonly style: string | null;
  /** Null for bodies other than straight solids. */
  readonly solid: SweptSolid | null;
  /** Its triangles if it is drawn by its faces. */
  readonly drawn?: TriangleMesh | null;
  readonly faces: readonly DrawnFace[] | null;
}

/** What a representation holds: solids of each kind, whether something is cut off, whether there are bodies that must be meshed. */
export interface ReadBody {
  readonly solids: readonly SweptSolid[];
  readonly formed: readonly FormedSolid[];
  readonly drawn: readonly TriangleMesh[];
  /** Record numbers of the straight solids, in their order. */
  readonly sweeps: readonly number[];
  /** The one straight solid that the one drawn body was cut from; null if there is none, or more. */
  readonly base: SweptSolid | null;
  readonly isClipped: boolean;
  readonly hasOther: boolean;
  /** A reference circle or a damaged record was met; the mesh reader must not be given this one. */
  readonly isDamaged: boolean;
  readonly items: readonly BodyItem[];
}

/** A body while its items are gathered. */
export interface Gathering {
  readonly solids: SweptSolid[];
  readonly formed: FormedSolid[];
  readonly drawn: TriangleMesh[];
  readonly sweeps: number[];
  base: SweptSolid | null;
  items: BodyItem[];
  isClipped: boolean;
  hasOther: boolean;
  isDamaged: boolean;
}

export const nothing = (): Gathering => ({
  solids: [],
  formed: [],
  drawn: [],
  sweeps: [],
  base: null,
  items: [],
  isClipped: false,
  hasOther: false,
  isDamaged: false,
});
/** A body of which nothing can be trusted. */
export const DAMAGED: ReadBody = { ...nothing(), isDamaged: true };
export const hasShape = (b: ReadBody) =>
  b.solids.length + b.formed.length + b.drawn.length > 0 || b.hasOther || b.isDamaged;

/** What a map shows, and where it was placed last. */
export interface MappedBody {
  readonly own: ReadBody;
  readonly placed: { readonly matrix: Matrix; readonly body: ReadBody }[];
}

/** Places of one map that are remembered: most files place a map where it is, or in a few turns. */
const MOST_PLACES = 8;

/** What a map shows, placed: one body for all that are placed alike. */
export function placeMapped({ own, placed }: MappedBody, matrix: Matrix): ReadBody {
  if (isSameMatrix(matrix, IDENTITY)) return own;
  const known = placed.find((p) => isSameMatrix(p.matrix, matrix));
  if (known) return known.body;
  const body = moveBody(own, matrix);
  if (placed.length === MOST_PLACES) placed.shift();
  placed.push({ matrix, body });
  return body;
}

const isSameMatrix = (a: Matrix, b: Matrix): boolean => a.every((value, i) => value === b[i]);

/** The same body somewhere else. */
function moveBody(body: ReadBody, matrix: Matrix): ReadBody {
  const moved = new Map(
    body.solids.map((s): [SweptSolid, SweptSolid] => [s, { ...s, placement: multiplyMatrices(matrix, s.placement) }]),
  );
  const drawn = new Map(body.drawn.map((mesh): [TriangleMesh, TriangleMesh] => [mesh, moveTriangles(mesh, matrix)]));
  const items = body.items.map((item) => ({
    ...item,
    solid: item.solid && moved.get(item.solid)!,
    ...(item.drawn ? { drawn: drawn.get(item.drawn)! } : {}),
    faces: item.faces?.map((f) => ({ ...f, normal: transformDirection(matrix, f.normal) })) ?? null,
  }));
  const formed = body.formed.map((f) => moveFormed(f, matrix));
  const base = body.base && { ...body.base, placement: multiplyMatrices(matrix, body.base.placement) };
  return { ...body, solids: [...moved.values()], formed, drawn: [...drawn.values()], base, items };
}

/** A mesh after a map; one that mirrors turns its faces, so that they still look outward. */
export function moveTriangles({ positions, indices }: TriangleMesh, m: Matrix): TriangleMesh {
  const out = new Float64Array(positions.length);
  for (let i = 0; i < out.length; i += 3)
    out.set(transformPoint(m, [positions[i]!, positions[i + 1]!, positions[i + 2]!]), i);
  const isMirrored = m[0] * (m[5] * m[10] - m[6] * m[9]) - m[1] * (m[4] * m[10] - m[6] * m[8]) + m[2] * (m[4] * m[9] - m[5] * m[8]) < 0; // biome-ignore format: one determinant
  if (!isMirrored) return { positions: out, indices };
  const turned = Uint32Array.from(indices);
  for (let i = 0; i < turned.length; i += 3) [turned[i + 1], turned[i + 2]] = [indices[i + 2]!, indices[i + 1]!];
  return { positions: out, indices: turned };
}

/** Adds a body to one that is gathered. */
export function merge(into: Gathering, from: ReadBody): void {
  // A body of several items was not cut from one solid.
  const isFirst = into.solids.length + into.drawn.length + into.formed.length === 0 && !into.hasOther;
  into.base = isFirst ? from.base : from.items.length === 0 ? into.base : null;
  for (const s of from.solids) into.solids.push(s);
  for (const s of from.formed) into.formed.push(s);
  for (const d of from.drawn) into.drawn.push(d);
  for (const s of from.sweeps) into.sweeps.push(s);
  into.items.push(...from.items);
  into.isClipped ||= from.isClipped;
  into.hasOther ||= from.hasOther;
  into.isDamaged ||= from.isDamaged;
}

/** Several bodies as one; one alone is itself. */
export function joinBodies(bodies: readonly ReadBody[]): ReadBody {
  if (bodies.length === 1) return bodies[0]!;
  const into = nothing();
  for (const body of bodies) merge(into, body);
  return into;
}

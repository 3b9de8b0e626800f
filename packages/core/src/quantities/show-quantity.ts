import { type ElementTable, readBox } from '../elements/element-table.ts';
import type { WallJunction } from '../elements/site-data.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import { cross, dot, lengthOf, type Vector3 } from '../geometry/vector.ts';

/** What of a shape a figure belongs to: faces, by the positions of their triangles in the indices, or a line between two places, m. */
export type ShownQuantity =
  | { readonly kind: 'faces'; readonly triangles: readonly number[] }
  | { readonly kind: 'line'; readonly from: Vector3; readonly to: Vector3 };

type Way = 'side' | 'top' | 'bottom' | 'ends' | 'whole' | 'length' | 'width' | 'height';

/** Which way the faces of a figure look, or which way a length runs, by words in its name; the first that fits counts. */
const WAYS: readonly (readonly [RegExp, Way])[] = [
  [/outersurface|volume|weight|count/, 'whole'],
  [/side/, 'side'],
  [/crosssection|end/, 'ends'],
  [/bottom|ceiling|perimeter/, 'bottom'],
  [/area/, 'top'],
  [/height|depth/, 'height'],
  [/width|thickness/, 'width'],
  [/length/, 'length'],
];

/** A face looks up or down if its normal stands so steep. */
const STEEP = 0.5;
/** Faces look the same way if their normals agree so far. */
const ALIKE = 0.9;

interface Triangle {
  readonly at: number;
  readonly normal: Vector3;
  readonly area: number;
}

/**
 * What of a shape a figure belongs to, by its name: of a side area the larger face of the two, of a length the middle line along it. Null where the name says nothing
 * of a shape, or the shape has no such face.
 * @param mesh the shape in the model's world, z up
 * @example of a wall 'NetSideArea' are the triangles of one side, 'Height' is a line upwards through its middle
 */
export function showQuantity(name: string, mesh: TriangleMesh): ShownQuantity | null {
  const word = name.toLowerCase();
  const way = WAYS.find(([words]) => words.test(word))?.[1];
  const all = listTriangles(mesh);
  if (way === undefined || all.length === 0) return null;
  if (way === 'whole') return { kind: 'faces', triangles: all.map((t) => t.at) };
  const side = findSide(all);
  if (way === 'length' || way === 'width' || way === 'height') return lineAlong(mesh, way === 'height' ? UP : way === 'width' ? side : cross(UP, side)); // biome-ignore format: one choice
  const isUp = way === 'top' && !all.some((t) => t.normal[2] > STEEP && t.area > largest(all, side) / 4);
  const wanted: Readonly<Record<'side' | 'top' | 'bottom' | 'ends', (t: Triangle) => boolean>> = {
    side: (t) => dot(t.normal, side) > ALIKE,
    // What stands upright has its area at its side: a door, a window.
    top: (t) => (isUp ? dot(t.normal, side) > ALIKE : t.normal[2] > STEEP),
    bottom: (t) => t.normal[2] < -STEEP,
    ends: (t) => Math.abs(t.normal[2]) < STEEP && Math.abs(dot(t.normal, side)) < STEEP,
  };
  const triangles = all.filter(wanted[way]).map((t) => t.at);
  return triangles.length > 0 ? { kind: 'faces', triangles } : null;
}

const UP: Vector3 = [0, 0, 1];
const EAST: Vector3 = [1, 0, 0];

function listTriangles({ positions, indices }: TriangleMesh): Triangle[] {
  const found: Triangle[] = [];
  const corner = (i: number): Vector3 => [0, 1, 2].map((k) => positions[indices[i]! * 3 + k]!) as unknown as Vector3;
  for (let at = 0; at < indices.length; at += 3) {
    const [a, b, c] = [corner(at), corner(at + 1), corner(at + 2)];
    const [u, v] = [sub(b, a), sub(c, a)];
    const normal = cross(u, v);
    const twice = lengthOf(normal);
    if (twice > 0) found.push({ at, normal: normal.map((n) => n / twice) as unknown as Vector3, area: twice / 2 });
  }
  return found;
}

const sub = (a: Vector3, b: Vector3): Vector3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const largest = (all: readonly Triangle[], side: Vector3) =>
  all.reduce((sum, t) => sum + (dot(t.normal, side) > ALIKE ? t.area : 0), 0);

/** The level direction that most upright area looks in; east where nothing stands upright. */
function findSide(all: readonly Triangle[]): Vector3 {
  const sums = new Map<string, { readonly way: Vector3; area: number }>();
  for (const { normal, area } of all) {
    const level = Math.hypot(normal[0], normal[1]);
    if (Math.abs(normal[2]) >= STEEP || level === 0) continue;
    const way: Vector3 = [normal[0] / level, normal[1] / level, 0];
    const id = `${Math.round(way[0] * 20)},${Math.round(way[1] * 20)}`;
    const known = sums.get(id) ?? { way, area: 0 };
    known.area += area;
    sums.set(id, known);
  }
  return [...sums.values()].reduce((best, s) => (s.area > best.area + 1e-9 ? s : best), { way: EAST, area: 0 }).way;
}

/** The line through the middle of a shape along a direction, from its one end to the other. */
function lineAlong({ positions }: TriangleMesh, way: Vector3): ShownQuantity | null {
  const [low, high] = [[Infinity, Infinity, Infinity], [-Infinity, -Infinity, -Infinity]]; // biome-ignore format: a box
  let [from, to] = [Infinity, -Infinity];
  for (let i = 0; i < positions.length; i += 3) {
    const at: Vector3 = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
    const along = dot(at, way);
    from = Math.min(from, along);
    to = Math.max(to, along);
    for (let k = 0; k < 3; k++) {
      low![k] = Math.min(low![k]!, at[k]!);
      high![k] = Math.max(high![k]!, at[k]!);
    }
  }
  if (!(to > from)) return null;
  const middle = low!.map((l, k) => (l + high![k]!) / 2) as unknown as Vector3;
  const place = dot(middle, way);
  const move = (m: number): Vector3 => middle.map((c, k) => c + way[k]! * (m - place)) as unknown as Vector3;
  return { kind: 'line', from: move(from), to: move(to) };
}

/** Junctions that a figure counts, by its name in lower case. */
const COUNTED: Readonly<Record<string, WallJunction['kind']>> = {
  corners: 'corner',
  tees: 'tee',
  crosses: 'cross',
  freeends: 'free end',
};

/** Where the pieces that a figure of an element counts are, half way up it: the corners, tees, crosses and free ends of a wall. None of what has no known places. */
export function placesOfCount(table: Pick<ElementTable, 'junctions' | 'boxes'>, row: number, name: string): Vector3[] {
  const kind = COUNTED[name.toLowerCase()];
  if (kind === undefined) return [];
  const [, , bottom, , , top] = readBox(table, row);
  const up = Number.isNaN(bottom) ? 0 : (bottom + top) / 2;
  return table.junctions.filter((j) => j.owner === row && j.kind === kind).map(({ at }) => [at[0], at[1], up]);
}

import type { PartRun } from '../book/assembly.ts';
import type { DecidedPart } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { WallJunction } from '../elements/site-data.ts';
import type { FormulaName } from '../formulas/formula-types.ts';
import { measureDecidedParts } from '../quantities/measure-decided-parts.ts';
import type { SiUnit } from '../units/branded.ts';
import { siUnitToDimension } from '../units/si-units.ts';

/** Parts whose figures formulas may read: those that a line runs over, and those that a decision is about. */
export type PartKind = PartRun | DecidedPart;

/** Figures of one part, as a line that runs over them, or a decision that is about them, reads them. */
const PART_FIGURES: Readonly<Record<PartKind, readonly { readonly name: string; readonly word: string; readonly column: string; readonly unit: SiUnit }[]>> = {
  opening: [
    { name: 'OpeningWidth', word: 'Opening, width', column: 'width', unit: 'm' },
    { name: 'OpeningHeight', word: 'Opening, height', column: 'height', unit: 'm' },
    { name: 'OpeningArea', word: 'Opening, area', column: 'area', unit: 'm2' },
    { name: 'OpeningPerimeter', word: 'Opening, perimeter', column: 'perimeter', unit: 'm' },
    { name: 'OpeningSill', word: 'Opening, sill height', column: 'sill', unit: 'm' },
  ],
  layer: [
    { name: 'LayerThickness', word: 'Layer, thickness', column: 'thickness', unit: 'm' },
    { name: 'LayerArea', word: 'Layer, area', column: 'area', unit: 'm2' },
    { name: 'LayerVolume', word: 'Layer, volume', column: 'volume', unit: 'm3' },
    { name: 'LayerWeight', word: 'Layer, weight', column: 'weight', unit: 'kg' },
  ],
  junction: [
    { name: 'JunctionHeight', word: 'Junction, height', column: 'height', unit: 'm' },
    { name: 'JunctionWalls', word: 'Junction, walls', column: 'walls', unit: 'each' },
  ],
  face: [{ name: 'FaceArea', word: 'Face, area', column: 'area', unit: 'm2' }],
  finish: [
    { name: 'FinishArea', word: 'Finish, area', column: 'area', unit: 'm2' },
    { name: 'FinishLength', word: 'Finish, length', column: 'length', unit: 'm' },
  ],
}; // biome-ignore format: a table

/** Names of the part that a line runs over, or that a decision is about. */
export const PART_NAMES: Readonly<Record<PartKind, readonly FormulaName[]>> = {
  opening: PART_FIGURES.opening.map(toName),
  layer: PART_FIGURES.layer.map(toName),
  junction: PART_FIGURES.junction.map(toName),
  // They are summed of faces, and of what rooms have around them.
  face: PART_FIGURES.face.map((f) => ({ ...toName(f), reads: ['*'] })),
  finish: PART_FIGURES.finish.map((f) => ({ ...toName(f), reads: ['*'] })),
};

function toName({ name, unit }: { name: string; unit: SiUnit }): FormulaName {
  return { name, dimension: siUnitToDimension(unit), source: 'part' };
}

/** What people call the figures of parts, by name. */
export const PART_WORDS: ReadonlyMap<string, string> = new Map(
  Object.values(PART_FIGURES).flatMap((figures) => figures.map(({ name, word }) => [name, word] as const)),
);

/** Figures of junctions, and the places of those counted with each row. */
interface JunctionParts {
  readonly height: Float64Array;
  readonly walls: Float64Array;
  readonly offset: Uint32Array;
  readonly order: readonly number[];
}

const known = new WeakMap<readonly WallJunction[], JunctionParts>();

/** The junctions of a table as parts of the walls they are counted with. The height is the one that all its walls share, m. */
function listJunctionParts({ junctions, wallAxes, count }: ElementTable): JunctionParts {
  const before = known.get(junctions);
  if (before) return before;
  const axisOf = new Map(wallAxes.map((axis) => [axis.row, axis]));
  const height = Float64Array.from(junctions, ({ walls }) => {
    const axes = walls.flatMap((row) => axisOf.get(row) ?? []);
    if (axes.length < walls.length) return Number.NaN;
    return Math.min(...axes.map((a) => a.topM)) - Math.max(...axes.map((a) => a.bottomM));
  });
  const offset = new Uint32Array(count + 1);
  for (const { owner } of junctions) offset[owner + 1]!++;
  for (let row = 0; row < count; row++) offset[row + 1]! += offset[row]!;
  const order = junctions.map((_, i) => i).sort((a, b) => junctions[a]!.owner - junctions[b]!.owner || a - b);
  const parts = { height, walls: Float64Array.from(junctions, (j) => j.walls.length), offset, order };
  known.set(junctions, parts);
  return parts;
}

/** The parts of one kind of all rows: their columns, where those of each row begin, and in which order if not their own. */
function listParts(
  table: ElementTable,
  run: PartKind,
): { readonly offset: Uint32Array; readonly order?: readonly number[] } {
  if (run === 'junction') return listJunctionParts(table);
  if (run === 'face' || run === 'finish') return measureDecidedParts(table, run);
  return run === 'opening' ? table.openings : table.layers;
}

/** Columns of a table's parts by the names that formulas use, in small letters. */
export function listPartColumns(table: ElementTable, run: PartKind): ReadonlyMap<string, Float64Array> {
  const columns = listParts(table, run) as unknown as Record<string, Float64Array>;
  return new Map(PART_FIGURES[run].map(({ name, column }) => [name.toLowerCase(), columns[column]!]));
}

/** Places of the parts of a row. A junction belongs to the wall it is counted with, so that over all walls each is met once. */
export function* listPartPlaces(table: ElementTable, run: PartKind, row: number): Generator<number> {
  const { offset, order } = listParts(table, run);
  for (let i = offset[row]!; i < offset[row + 1]!; i++) yield order ? order[i]! : i;
}

import type { LineRun } from '../book/assembly.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { FormulaName } from '../formulas/formula-types.ts';
import type { SiUnit } from '../units/branded.ts';
import { siUnitToDimension } from '../units/si-units.ts';

/** Figures of one opening or layer, as a line that runs over them reads them. */
const PART_FIGURES: Readonly<Record<LineRun, readonly { readonly name: string; readonly column: string; readonly unit: SiUnit }[]>> = {
  opening: [
    { name: 'OpeningWidth', column: 'width', unit: 'm' },
    { name: 'OpeningHeight', column: 'height', unit: 'm' },
    { name: 'OpeningArea', column: 'area', unit: 'm2' },
    { name: 'OpeningPerimeter', column: 'perimeter', unit: 'm' },
    { name: 'OpeningSill', column: 'sill', unit: 'm' },
  ],
  layer: [
    { name: 'LayerThickness', column: 'thickness', unit: 'm' },
    { name: 'LayerArea', column: 'area', unit: 'm2' },
    { name: 'LayerVolume', column: 'volume', unit: 'm3' },
    { name: 'LayerWeight', column: 'weight', unit: 'kg' },
  ],
}; // biome-ignore format: a table

/** Names of the opening or layer that a line runs over. */
export const PART_NAMES: Readonly<Record<LineRun, readonly FormulaName[]>> = {
  opening: PART_FIGURES.opening.map(toName),
  layer: PART_FIGURES.layer.map(toName),
};

function toName({ name, unit }: { name: string; unit: SiUnit }): FormulaName {
  return { name, dimension: siUnitToDimension(unit), source: 'part' };
}

/** Columns of a table's openings or layers by the names that formulas use, in small letters. */
export function listPartColumns(table: ElementTable, run: LineRun): ReadonlyMap<string, Float64Array> {
  const columns = (run === 'opening' ? table.openings : table.layers) as unknown as Record<string, Float64Array>;
  return new Map(PART_FIGURES[run].map(({ name, column }) => [name.toLowerCase(), columns[column]!]));
}

/** First and one past the last opening or layer of a row. */
export function partRange(table: ElementTable, run: LineRun, row: number): readonly [number, number] {
  const { offset } = run === 'opening' ? table.openings : table.layers;
  return [offset[row]!, offset[row + 1]!];
}

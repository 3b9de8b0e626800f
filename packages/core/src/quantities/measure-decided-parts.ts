import { readText } from '../elements/columns.ts';
import { listDecidedParts } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { listRoomFinishes } from './room-finishes.ts';

/** Face styles or finishes of all rows with their figures; NaN where one is not known, or is of the other kind. */
export interface MeasuredParts {
  readonly offset: Uint32Array;
  /** m2. */
  readonly area: Float64Array;
  /** m; of skirtings. */
  readonly length: Float64Array;
}

const known = new WeakMap<ElementTable, Partial<Record<'face' | 'finish', MeasuredParts>>>();

/** What there is of each face style, or of each finish, of a table's elements: the area of its faces of that style; the area, or of a skirting the length, that has the finish. Worked out once per table. */
export function measureDecidedParts(table: ElementTable, part: 'face' | 'finish'): MeasuredParts {
  const kept = known.get(table) ?? {};
  known.set(table, kept);
  kept[part] ??= part === 'face' ? measureStyles(table) : measureFinishes(table);
  return kept[part];
}

function measureStyles(table: ElementTable): MeasuredParts {
  const { offset, rows, name } = listDecidedParts(table, 'face');
  const { faces } = table;
  const area = Float64Array.from(rows, (row, at) => {
    const style = readText(name, at);
    let sum = 0;
    for (let i = faces.offset[row]!; i < faces.offset[row + 1]!; i++)
      if (readText(faces.style, i) === style) sum += faces.area[i]!;
    return sum;
  });
  return { offset, area, length: new Float64Array(rows.length).fill(Number.NaN) };
}

function measureFinishes(table: ElementTable): MeasuredParts {
  const { offset, rows, name, surface } = listDecidedParts(table, 'finish');
  const amounts = new Map<string, number>();
  for (const { row, surface: of, finish, amount } of listRoomFinishes(table)) {
    const key = `${row}|${of}|${finish}`;
    amounts.set(key, (amounts.get(key) ?? 0) + amount);
  }
  const amountOf = (at: number) => amounts.get(`${rows[at]}|${surface![at]}|${readText(name, at)}`) ?? 0;
  const of = (isLength: boolean) => Float64Array.from(rows, (_, at) => ((surface![at] === 'skirting') === isLength ? amountOf(at) : Number.NaN)); // biome-ignore format: one step
  return { offset, area: of(false), length: of(true) };
}

import { type DecidedPart, listDecidedParts } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { foldText } from '../units/fold-text.ts';
import type { FieldCondition } from './condition.ts';
import { isWithin, maskText, type RowMask } from './text-mask.ts';

/** Parts that a condition on a field means, one byte a part; null if the field is not about such parts but about their element. */
export function maskPartField(condition: FieldCondition, table: ElementTable, part: DecidedPart): RowMask | null {
  const { field, of = '' } = condition;
  const { name, surface, rows } = listDecidedParts(table, part);
  if (part === 'layer' && field === 'material') return maskText(name, condition);
  if (part === 'face' && field === 'style') return maskText(name, condition);
  if (part === 'finish' && field === 'finish') {
    const wanted = foldText(of) || 'floor';
    return maskText(name, condition).map((hit, at) => (surface![at] === wanted ? hit : 0));
  }
  if (part !== 'layer' || field !== 'layer') return null;
  const fact = foldText(of) || 'material';
  if (fact === 'thickness') return Uint8Array.from(table.layers.thickness, (m) => testThickness(m, condition));
  if (fact !== 'function') return maskText(name, condition);
  return table.layers.function
    ? maskText(table.layers.function, condition)
    : new Uint8Array(rows.length).fill(Number(condition.op === 'missing'));
}

/** Rows that have any of some parts: one byte a row. */
export function maskRowsOf(parts: RowMask, table: ElementTable, part: DecidedPart): RowMask {
  const mask = new Uint8Array(table.count);
  listDecidedParts(table, part).rows.forEach((row, at) => {
    if (parts[at]) mask[row] = 1;
  });
  return mask;
}

function testThickness(metres: number, { op, min, max, value }: FieldCondition): number {
  const isKnown = !Number.isNaN(metres);
  if (op === 'missing') return Number(!isKnown);
  if (op === 'range') return Number(isWithin(metres, min, max));
  if (op === 'is') return Number(isWithin(metres, Number(value), Number(value)));
  return Number(isKnown);
}

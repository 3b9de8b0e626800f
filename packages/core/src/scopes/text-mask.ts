import type { TextColumn, TextListColumn } from '../elements/columns.ts';
import { exceeds, reaches } from '../units/at-limit.ts';
import { foldText } from '../units/fold-text.ts';
import { readFileNumber } from '../units/typed-number.ts';
import type { FieldCondition } from './condition.ts';
import { compileTextMatcher } from './text-matcher.ts';

/** One byte a row: 1 where the condition catches it. */
export type RowMask = Uint8Array;

/** Test on one text value; true of any for the operators that only ask for presence. */
export function textTest({ op, value, values, min, max }: FieldCondition): (text: string) => boolean {
  if (op === 'contains') {
    const match = compileTextMatcher(String(value ?? ''), true);
    return (text) => match(foldText(text));
  }
  if (op === 'oneOf' || op === 'is') {
    const wanted = op === 'is' ? [value ?? ''] : (values ?? []);
    const matchers = wanted.map((v) => compileTextMatcher(String(v)));
    return (text) => matchers.some((match) => match(foldText(text)));
  }
  if (op === 'range') {
    return (text) => isWithin(readFileNumber(text), min, max);
  }
  return () => true;
}

/** Whether a figure is known and within bounds, both included. */
export function isWithin(value: number, min?: number, max?: number): boolean {
  return (
    Number.isFinite(value) && (min === undefined || reaches(value, min)) && (max === undefined || !exceeds(value, max))
  );
}

/** Rows of a column whose text passes; each distinct text is tested once. An empty text is none. */
export function maskText(column: TextColumn, condition: FieldCondition, test = textTest(condition)): RowMask {
  const hits = column.pool.map((text) => (test(text) ? 1 : 0));
  const empty = condition.op === 'missing';
  return Uint8Array.from(column.index, (i) => (i < 0 || column.pool[i] === '' ? Number(empty) : empty ? 0 : hits[i]!));
}

/** Rows of a column of lists any of whose texts passes. */
export function maskTextList(column: TextListColumn, condition: FieldCondition): RowMask {
  const test = textTest(condition);
  const hits = column.pool.map((text) => (test(text) ? 1 : 0));
  const mask = new Uint8Array(column.offset.length - 1);
  for (let row = 0; row < mask.length; row++) {
    const [from, to] = [column.offset[row]!, column.offset[row + 1]!];
    if (condition.op === 'missing') mask[row] = from === to ? 1 : 0;
    else for (let i = from; i < to; i++) if (hits[column.index[i]!]) mask[row] = 1;
  }
  return mask;
}

import type { ScaleKey, ScaleRange, ScaleRow } from '@tally/core';
import { editFigure, readFigure } from '../../ui/format.ts';

/** A place of a row as it is typed: the ends of a range, or a text. */
export interface CellDraft {
  readonly from: string;
  readonly to: string;
  readonly text: string;
}

/** A row of a scale as it is typed. */
export interface RowDraft {
  readonly at: readonly CellDraft[];
  readonly value: string;
}

const EMPTY: CellDraft = { from: '', to: '', text: '' };

export const emptyCells = (keys: readonly ScaleKey[]): RowDraft => ({ at: keys.map(() => EMPTY), value: '' });

const show = (figure: number | undefined) => (figure === undefined ? '' : editFigure(figure));

export function rowsToDraft(rows: readonly ScaleRow[]): RowDraft[] {
  return rows.map(({ at, value }) => ({
    at: at.map((a) =>
      typeof a === 'string' ? { ...EMPTY, text: a } : { ...EMPTY, from: show(a.from), to: show(a.to) },
    ),
    value: editFigure(value),
  }));
}

/** The row after the last: it begins where that one ends. */
export function nextRow(cells: readonly RowDraft[], keys: readonly ScaleKey[]): RowDraft {
  const last = cells.at(-1);
  return {
    at: keys.map((key, i) => (key.unit === undefined ? EMPTY : { ...EMPTY, from: last?.at[i]?.to ?? '' })),
    value: '',
  };
}

function readEnd(text: string): number | undefined | null {
  return text.trim() === '' ? undefined : readFigure(text);
}

/** Rows of the scale; a text in place of one says what cannot be read. */
export function draftToRows(cells: readonly RowDraft[], keys: readonly ScaleKey[]): (ScaleRow | string)[] {
  return cells.map((cell, n): ScaleRow | string => {
    const value = readFigure(cell.value);
    if (value === null)
      return `Row ${n + 1}: ${cell.value.trim() === '' ? 'the figure is missing' : `"${cell.value}" is no figure`}.`;
    const at: (ScaleRange | string)[] = [];
    for (const [i, key] of keys.entries()) {
      const { from, to, text } = cell.at[i] ?? EMPTY;
      if (key.unit === undefined) {
        if (text.trim() === '') return `Row ${n + 1}: the text for ${key.name} is missing.`;
        at.push(text.trim());
        continue;
      }
      const [low, high] = [readEnd(from), readEnd(to)];
      if (low === null || high === null) return `Row ${n + 1}: "${low === null ? from : to}" is no figure.`;
      at.push({ ...(low === undefined ? {} : { from: low }), ...(high === undefined ? {} : { to: high }) });
    }
    return { at, value };
  });
}

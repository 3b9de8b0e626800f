import type { CostItem, EntryDiff } from '@tally/core';
import { readFigure } from '../ui/format.ts';

/** The change that gives an item another rate; a text says why the figure cannot be taken. */
export function changeRate(item: CostItem, text: string): { cause: string; diff: Partial<EntryDiff> } | string {
  const figure = text.trim() === '' ? null : readFigure(text);
  if (figure === null && text.trim() !== '') return `"${text}" is no rate. Write a figure such as 12.50.`;
  if (figure !== null && (figure < 0 || figure > 1e9)) return 'A rate lies between 0 and 1,000,000,000.';
  const rate = figure === null ? null : String(figure);
  return {
    cause: `Rate of ${item.code} ${item.rate ?? 'none'} > ${rate ?? 'none'}`,
    diff: { updated: [{ kind: 'item', id: item.code, from: item, to: { ...item, rate } }] },
  };
}

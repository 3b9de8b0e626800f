import type { CostItem, EntryDiff, NamedValue } from '@tally/core';
import { rateText } from '../../store/change-rate.ts';

const WORDS: Readonly<Record<string, string>> = {
  item: 'Item',
  assembly: 'Assembly',
  value: 'Value',
  scale: 'Scale',
  classification: 'Classification',
};

/** What changed between two versions of a book, a line for each entry; of rates and values what they were and are. */
export function describeBookChange({ added, updated, removed }: EntryDiff): string[] {
  const name = ({ kind, id }: { readonly kind: string; readonly id: string }) => `${WORDS[kind] ?? kind} ${id}`;
  return [
    ...updated.map((u) => `${name(u)}: ${describeMove(u.kind, u.from, u.to)}`),
    ...added.map((a) => `${name(a)}: new`),
    ...removed.map((r) => `${name(r)}: gone`),
  ];
}

function describeMove(kind: string, from: unknown, to: unknown): string {
  if (kind === 'item') {
    const [before, after] = [rateText(from as CostItem), rateText(to as CostItem)];
    if (before !== after) return `rate ${before || 'none'} > ${after || 'none'}`;
  }
  if (kind === 'value') {
    const [before, after] = [(from as NamedValue).value, (to as NamedValue).value];
    if (before !== after) return `${before} > ${after}`;
  }
  return 'changed';
}

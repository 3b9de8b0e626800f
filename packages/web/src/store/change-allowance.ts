import {
  type Allowance,
  type AllowanceMeasure,
  allowanceSchema,
  describeBase,
  type EntryDiff,
  type ProjectStateDto,
} from '@tally/core';
import { askFigure, editFigure, readFigure } from '../ui/format.ts';
import { makeKey } from './make-key.ts';

/** What an allowance goes by, in words. */
export const MEASURE_WORDS: Readonly<Record<AllowanceMeasure, string>> = {
  once: 'once',
  weeks: 'by the week',
  months: 'by the month',
  floorArea: 'by floor area',
  units: 'by the unit',
  percent: 'a per cent of',
};

type Change = { readonly cause: string; readonly diff: Partial<EntryDiff> };
type Allowances = ProjectStateDto['layer']['allowances'];

/** A code that no allowance has yet. */
function freeCode(allowances: Allowances): string {
  const taken = new Set(Object.values(allowances).map((a) => a.code));
  let n = Object.keys(allowances).length + 1;
  while (taken.has(`AL-${n}`)) n++;
  return `AL-${n}`;
}

export function addAllowance(allowances: Allowances): Change {
  const body: Allowance = { code: freeCode(allowances), name: 'New allowance', measure: 'once', kind: 'fee' };
  return {
    cause: `Allowance added: ${body.code}`,
    diff: { added: [{ kind: 'allowance', id: String(makeKey()), body }] },
  };
}

export function removeAllowance(id: string, body: Allowance): Change {
  return { cause: `Allowance removed: ${body.name}`, diff: { removed: [{ kind: 'allowance', id, body }] } };
}

/** Another state of an allowance; a text says why it cannot be taken. */
export function changeAllowance(
  id: string,
  from: Allowance,
  part: Partial<Allowance>,
): (Change & { readonly to: Allowance }) | string {
  const next = Object.fromEntries(Object.entries({ ...from, ...part }).filter(([, v]) => v !== undefined && v !== ''));
  const parsed = allowanceSchema.safeParse(next);
  if (!parsed.success) return parsed.error.issues[0]!.message;
  const to = parsed.data;
  const changed = [
    to.name !== from.name && `called ${to.name}`,
    to.code !== from.code && `code ${to.code}`,
    to.measure !== from.measure && MEASURE_WORDS[to.measure],
    to.amount !== from.amount &&
      (to.measure === 'percent' ? `${to.amount ?? 'no'} per cent` : `${to.amount ?? 1} times`),
    JSON.stringify(to.of) !== JSON.stringify(from.of) && `of ${describeBase({ ...to.of })}`,
    to.counted !== from.counted && `counts ${to.counted}`,
    to.rate !== from.rate && (to.rate === undefined ? 'rate of the book' : `rate ${showAllowanceRate(to)}`),
    to.kind !== from.kind && `kind ${to.kind}`,
    to.section !== from.section && 'another section',
  ].filter((text) => text !== false);
  return {
    cause: `${from.name}: ${changed.join(', ') || 'as it was'}`,
    diff: { updated: [{ kind: 'allowance', id, from, to }] },
    to,
  };
}

/** A typed rate or amount as it is kept: '' for none, or why it cannot be read. */
export function readAllowanceFigure(text: string): { readonly value: string } | string {
  const typed = text.trim();
  if (typed === '') return { value: '' };
  const unclear = askFigure(typed);
  if (unclear) return unclear;
  const figure = readFigure(typed);
  return figure === null || figure < 0 ? `"${typed}" is no figure. Write e.g. 185.00.` : { value: String(figure) };
}

/** Its rate as it is shown and typed, with two decimals at least. */
export function showAllowanceRate({ rate }: Allowance): string {
  if (rate === undefined) return '';
  const [whole, decimals = ''] = rate.split('.');
  return editFigure(`${whole}.${decimals.padEnd(2, '0')}`);
}

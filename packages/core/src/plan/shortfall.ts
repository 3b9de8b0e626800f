import { classWord } from '../elements/class-word.ts';
import { readText } from '../elements/columns.ts';
import type { SourceKind } from '../elements/model-element.ts';
import { COMPLETENESS_STATES, type CompletenessState, type Plan } from './plan.ts';

/** What a plan lacks: its total is of what is priced only. */
export interface Shortfall {
  /** Elements that are not priced, or in part only. */
  readonly open: number;
  /** Elements that the plan is to price: all but those left out. */
  readonly of: number;
  /** The open ones by class, or by what they are if they have none; the most first. */
  readonly kinds: readonly { readonly ifcClass: string; readonly count: number }[];
  /** Amounts of single elements that are unknown. */
  readonly unknown: number;
  /** The total is more than can be counted to the cent. */
  readonly isTooLarge: boolean;
}

const OPEN: ReadonlySet<CompletenessState> = new Set(['unpriced', 'partly']);

/** What elements are called that have no class. */
const ORIGIN_WORDS: Record<SourceKind, string> = {
  model: 'without a class',
  list: 'list lines',
  hand: 'measured by hand',
  form: 'of the form',
  allowance: 'allowances',
};

/** What a plan lacks; null if it is whole. */
export function findShortfall({ parts, counts, unknownLines, total }: Plan): Shortfall | null {
  const open = counts.unpriced + counts.partly;
  const isTooLarge = !Number.isSafeInteger(total);
  if (open === 0 && unknownLines === 0 && !isTooLarge) return null;
  const kinds = new Map<string, number>();
  for (const { table, completeness } of parts)
    completeness.forEach((state, row) => {
      if (!OPEN.has(COMPLETENESS_STATES[state]!)) return;
      const ifcClass = readText(table.ifcClass, row) || ORIGIN_WORDS[table.origin?.kind ?? 'model'];
      kinds.set(ifcClass, (kinds.get(ifcClass) ?? 0) + 1);
    });
  return {
    open,
    of: open + counts.priced,
    kinds: [...kinds].map(([ifcClass, count]) => ({ ifcClass, count })).sort((a, b) => b.count - a.count),
    unknown: unknownLines,
    isTooLarge,
  };
}

/** Kinds that are named one by one. */
const MOST_NAMED = 4;

/**
 * What a total is of, in words: never "Total" alone while something is missing.
 * @example 'Total so far: 16 of 441 elements are not fully priced (12 Furniture, 4 Door)'
 */
export function nameTotal(shortfall: Shortfall | null): string {
  if (!shortfall) return 'Total';
  const { open, of, unknown, isTooLarge } = shortfall;
  if (isTooLarge)
    return 'Total not exact: it is more than can be counted to the cent; check the rates and the currency';
  if (open === 0) return `Total so far: ${unknown} amounts are unknown`;
  return `Total so far: ${open} of ${of} elements are not fully priced (${listKinds(shortfall)})`;
}

/** The kinds of what is open. @example '12 Furniture, 4 Door' */
export function listKinds({ kinds }: Shortfall): string {
  const named = kinds.slice(0, MOST_NAMED).map((k) => `${k.count} ${classWord(k.ifcClass)}`);
  const others = kinds.slice(MOST_NAMED).reduce((n, k) => n + k.count, 0);
  return [...named, ...(others > 0 ? [`${others} others`] : [])].join(', ');
}

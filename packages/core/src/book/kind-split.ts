import { failure, type Result, success } from '../result/result.ts';
import { ITEM_KINDS, type ItemKind } from './item-kind.ts';

/** Per cent of an all-in rate by kind of cost; they add up to 100. */
export type KindSplit = Readonly<Partial<Record<ItemKind, number>>>;

/** Per cents that miss 100 by less than this add up. */
const WHOLE = 1e-6;

/** Whether a split adds up to 100. */
export const isWholeSplit = (split: KindSplit): boolean =>
  Math.abs(Object.values(split).reduce((sum, p) => sum + p, 0) - 100) < WHOLE;

/**
 * Reads how an all-in rate is split by kind; an empty text is "not".
 * Errors: `split-unreadable`, `split-not-whole`.
 * @example readSplit('labour 40, material 60') // { labour: 40, material: 60 }
 */
export function readSplit(text: string): Result<KindSplit | null> {
  const typed = text.trim().toLowerCase();
  if (typed === '') return success(null);
  const split: Partial<Record<ItemKind, number>> = {};
  for (const part of typed.split(/[;,](?!\d)/)) {
    const words = /^\s*(\p{L}+)\s*:?\s*(\d+(?:[.,]\d+)?)\s*%?\s*$/u.exec(part);
    const kind = ITEM_KINDS.find((k) => k === words?.[1]);
    if (!words || !kind || split[kind] !== undefined)
      return failure('split-unreadable', `"${part.trim()}" does not say a kind of cost and its per cent, once.`, {
        remedy: `Write e.g. "labour 40, material 60"; kinds are ${ITEM_KINDS.join(', ')}.`,
      });
    split[kind] = Number(words[2]!.replace(',', '.'));
  }
  if (isWholeSplit(split)) return success(split);
  const sum = Object.values(split).reduce((a, b) => a + b, 0);
  return failure('split-not-whole', `The split adds up to ${Number(sum.toFixed(4))} %, not to 100 %.`, {
    remedy: 'Correct one of the parts.',
  });
}

/** A split as `readSplit` reads it. */
export function showSplit(split: KindSplit | undefined): string {
  return ITEM_KINDS.flatMap((k) => (split?.[k] === undefined ? [] : [`${k} ${split[k]}`])).join(', ');
}

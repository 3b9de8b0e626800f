import type { MoveCause } from '@tally/core';

/** What a cause of a move is called, and what it means. */
export const CAUSE_WORDS: Readonly<
  Record<MoveCause, { readonly word: string; readonly short: string; readonly hint: string }>
> = {
  extent: { word: 'Extent', short: 'Extent', hint: 'Elements came or went.' },
  quantity: { word: 'Quantity', short: 'Quantity', hint: 'Figures of elements that stayed.' },
  mapping: {
    word: 'Mapping',
    short: 'Mapping',
    hint: 'Priced with something else: another decision, recipe or formula.',
  },
  price: { word: 'Price', short: 'Price', hint: 'Rates of the book.' },
  factors: { word: 'Factors', short: 'Factors', hint: 'Waste, place, date, exchange.' },
  rounding: { word: 'Packs and rounding', short: 'Packs', hint: 'What whole packs leave over.' },
};

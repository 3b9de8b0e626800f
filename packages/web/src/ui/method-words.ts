import type { QuantityMethod } from '@tally/core';

/** How a figure was found, in words. */
export const METHOD_WORDS: Record<QuantityMethod, string> = {
  swept: 'from profile and length',
  'swept-openings': 'from profile and length, openings deducted',
  formed: 'by the formula of its shape',
  'swept-clipped': 'of the whole body, cut as in the mesh',
  mesh: 'from the mesh',
  attribute: 'as the element says',
  parts: 'sum of its parts',
  plan: 'from its place on plan',
  count: 'one per element',
  density: 'volume × density',
  file: 'stated in the file',
  hand: 'given here',
  list: 'as the list says',
};

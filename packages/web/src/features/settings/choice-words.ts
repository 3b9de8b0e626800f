import type { QuantityChoice } from '@tally/core';

/** Which of two figures is used, in words. */
export const CHOICE_WORDS: Record<QuantityChoice, string> = {
  best: 'The better one',
  measured: 'Always measured',
  stated: 'Stated, if there is one',
};

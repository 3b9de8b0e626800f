import type { Classification, CostClass } from '@tally/core';

/** What a newer list of a classification has otherwise. */
export interface ClassComparison {
  readonly came: readonly CostClass[];
  readonly went: readonly CostClass[];
  readonly renamed: readonly CostClass[];
}

/** Compares a classification with a newer list of its classes, by code in any case. */
export function compareClasses(before: Classification | undefined, now: readonly CostClass[]): ClassComparison {
  const old = new Map((before?.classes ?? []).map((c) => [c.code.toLowerCase(), c]));
  const codes = new Set(now.map((c) => c.code.toLowerCase()));
  return {
    came: now.filter((c) => !old.has(c.code.toLowerCase())),
    went: [...old.values()].filter((c) => !codes.has(c.code.toLowerCase())),
    renamed: now.filter((c) => {
      const own = old.get(c.code.toLowerCase());
      return own !== undefined && own.title !== c.title;
    }),
  };
}

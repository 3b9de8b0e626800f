import { type EntryDiff, foldText, type Limit } from '@tally/core';

interface LimitChange {
  readonly cause: string;
  readonly diff: Partial<EntryDiff>;
}

/** Keeps a limit; one of the same name is replaced. */
export function keepLimit(limits: readonly Limit[], limit: Limit): LimitChange {
  const id = foldText(limit.name);
  const known = limits.find((l) => foldText(l.name) === id);
  const body = JSON.parse(JSON.stringify(limit)) as Limit;
  return {
    cause: `Limit: ${limit.name}`,
    diff: known
      ? { updated: [{ kind: 'limit', id, from: known, to: body }] }
      : { added: [{ kind: 'limit', id, body }] },
  };
}

export function removeLimit(limit: Limit): LimitChange {
  return {
    cause: `Limit removed: ${limit.name}`,
    diff: { removed: [{ kind: 'limit', id: foldText(limit.name), body: limit }] },
  };
}

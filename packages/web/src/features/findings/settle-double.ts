import type { EntryDiff, Finding } from '@tally/core';

/**
 * Leaves one of two things out that are counted twice: the second of the pair. Null for findings about anything else, and for those whose elements
 * are not just two.
 */
export function settleDouble({
  code,
  keys = [],
  message,
}: Finding): { readonly cause: string; readonly diff: Partial<EntryDiff> } | null {
  const [first, second, ...more] = keys;
  if (code !== 'double-count' || first === undefined || second === undefined || more.length > 0) return null;
  return {
    cause: 'One of two left out that were counted twice',
    diff: { added: [{ kind: 'leftOut', id: String(second), body: { reason: message.slice(0, 300) } }] },
  };
}

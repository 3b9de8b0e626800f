import type { FieldConflict } from '../ui/other-change.tsx';

/** What comes of one's own text and that of another, both begun from the same. */
export interface MergedFields<T> {
  /** Fields that only one of both changed are as they were changed; those that both changed are as in one's own. */
  readonly merged: T;
  /** Fields that only the other changed. */
  readonly taken: readonly string[];
  /** Fields that both changed, not to the same: one of both must be chosen. */
  readonly conflicts: readonly FieldConflict[];
}

const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/**
 * Joins what two people did to one record at the same time, field by field.
 * @example begun as {rate 10, waste 3}; the other has {12, 3}, one's own is {10, 5}: {12, 5}, nothing to choose
 */
export function mergeFields<T extends object>(base: T, theirs: T, mine: T): MergedFields<T> {
  const merged = { ...mine } as Record<string, unknown>;
  const taken: string[] = [];
  const conflicts: FieldConflict[] = [];
  const [from, other, own] = [base, theirs, mine] as readonly Record<string, unknown>[] as [Record<string, unknown>, Record<string, unknown>, Record<string, unknown>]; // biome-ignore format: one start
  for (const field of new Set([...Object.keys(from), ...Object.keys(other), ...Object.keys(own)])) {
    if (isSame(from[field], other[field]) || isSame(other[field], own[field])) continue;
    if (isSame(from[field], own[field])) {
      if (other[field] === undefined) delete merged[field];
      else merged[field] = other[field];
      taken.push(field);
    } else conflicts.push({ field, theirs: other[field], mine: own[field] });
  }
  return { merged: merged as T, taken, conflicts };
}

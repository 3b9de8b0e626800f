/** Conditions that are nested in one another, and conditions in one scope, at most. */
export const MOST_NESTED = 20;
export const MOST_CONDITIONS = 2000;

/** What is too much in a scope as it came, looked through without recursion; null if it can be worked with. */
export function findExcess(scope: unknown): string | null {
  const open: { readonly value: unknown; readonly depth: number }[] = [{ value: scope, depth: 1 }];
  let count = 0;
  for (let next = open.pop(); next; next = open.pop()) {
    const { value, depth } = next;
    if (value === null || typeof value !== 'object') continue;
    if (depth > MOST_NESTED) return `Conditions are nested more than ${MOST_NESTED} deep.`;
    if (++count > MOST_CONDITIONS) return `A scope has more than ${MOST_CONDITIONS} conditions; use a property, a code or a list of values instead.`; // biome-ignore format: one line
    const { all, any, not } = value as Record<string, unknown>;
    for (const list of [all, any]) if (Array.isArray(list)) for (const one of list) open.push({ value: one, depth: depth + 1 }); // biome-ignore format: one step
    if (not !== undefined) open.push({ value: not, depth: depth + 1 });
  }
  return null;
}

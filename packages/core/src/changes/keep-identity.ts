/** True if two plain values hold the same. */
function isEqual(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return Object.is(a, b);
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const names = Object.keys(a);
  if (names.length !== Object.keys(b).length) return false;
  return names.every((n) => n in b && isEqual((a as Record<string, unknown>)[n], (b as Record<string, unknown>)[n]));
}

/**
 * A list with the very objects of the list before where they hold the same, so that what was worked out from them is found again; the
 * list before itself if all of it is the same.
 * @param idOf tells the things of a list apart
 */
export function keepIdentity<T>(before: readonly T[], after: readonly T[], idOf: (thing: T) => string): readonly T[] {
  const known = new Map(before.map((thing) => [idOf(thing), thing]));
  const kept = after.map((thing) => {
    const old = known.get(idOf(thing));
    return old !== undefined && isEqual(old, thing) ? old : thing;
  });
  return kept.length === before.length && kept.every((thing, i) => thing === before[i]) ? before : kept;
}

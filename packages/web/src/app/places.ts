/** Places of a project in the order of the work: path and word. */
export const PLACES = [
  ['sources', 'Sources'],
  ['model', 'Model'],
  ['takeoff', 'Takeoff'],
  ['mapping', 'Mapping'],
  ['book', 'Book'],
  ['plan', 'Plan'],
  ['changes', 'Changes'],
] as const;

/** What is found beside them, by its path and word. */
export const BESIDE = [
  ['findings', 'Findings'],
  ['settings', 'Settings'],
] as const;

export const ALL_PLACES: readonly (readonly [path: string, word: string])[] = [...PLACES, ...BESIDE];

/** Codes of what the checks find; documented in docs/findings.md. A code never changes its meaning. */
export const FINDING_CODES = [
  'file-truncated',
  'file-record-damaged',
  'file-duplicate-id',
  'entity-unknown',
  'unit-assumed',
  'geometry-stalled',
  'no-geometry',
  'no-storey',
  'duplicate-global-id',
  'coincident',
  'stated-differs',
  'open-body',
  'volume-not-positive',
  'profile-crosses-itself',
  'density-missing',
  'overlap',
  'storey-level-differs',
  'absurd-size',
  'layers-differ-from-width',
  'type-used-with-different-widths',
  'rooms-overlap',
  'room-without-finish',
  'zero-thickness-layer',
] as const;
export type FindingCode = (typeof FINDING_CODES)[number];

/** Something the estimator should know about a model before trusting it. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: 'error' | 'warning' | 'notice';
  readonly message: string;
  readonly globalIds: readonly string[];
  /** The material it is about, if it is about one. */
  readonly material?: string;
}

/**
 * Identity of a finding that stays the same from revision to revision as long as its cause does: its code and elements, or its
 * message where it names none.
 */
export function findingKey({ code, globalIds, message }: Finding): string {
  const text = globalIds.length > 0 ? [...globalIds].sort().join() : message;
  // FNV-1a, two lanes: enough to tell the findings of a project apart.
  let [a, b] = [0x811c9dc5, 0x01000193];
  for (let i = 0; i < text.length; i++) {
    a = Math.imul(a ^ text.charCodeAt(i), 0x01000193);
    b = Math.imul(b ^ text.charCodeAt(i), 0x85ebca6b);
  }
  return `${code}/${(a >>> 0).toString(16).padStart(8, '0')}${(b >>> 0).toString(16).padStart(8, '0')}`;
}

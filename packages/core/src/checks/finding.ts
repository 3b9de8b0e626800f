/** Codes of what the checks find; documented in docs/findings.md. A code never changes its meaning. */
export const FINDING_CODES = [
  'file-truncated',
  'file-record-damaged',
  'file-duplicate-id',
  'unit-assumed',
  'geometry-stalled',
  'no-geometry',
  'no-storey',
  'duplicate-global-id',
  'coincident',
  'stated-differs',
  'open-body',
  'volume-not-positive',
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
}

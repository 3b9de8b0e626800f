import { hashText } from '../units/hash-text.ts';

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
  'solids-overlap',
  'size-out-of-range',
  'opening-not-measured',
  'density-missing',
  'overlap',
  'storey-level-differs',
  'absurd-size',
  'layers-differ-from-width',
  'type-used-with-different-widths',
  'rooms-overlap',
  'room-without-finish',
  'zero-thickness-layer',
  'floor-without-room',
  'given-as-in-file',
  'given-moved',
  'list-row-refused',
  'list-key-twice',
  'rule-idle',
  'rule-hidden',
  'rule-without-section',
  'rule-shifted',
  'section-missing',
  'double-count',
  'price-absurd',
] as const;
export type FindingCode = (typeof FINDING_CODES)[number];

/** Something the estimator should know about a model before trusting it: about one element, one pair, or the file as a whole. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: 'error' | 'warning' | 'notice';
  readonly message: string;
  readonly globalIds: readonly string[];
  /** ElementKeys of the same elements, once they have some: what an acceptance hangs on. */
  readonly keys?: readonly number[];
  /** What several findings have in common (a material, a type, a storey): screens tell them in one line. */
  readonly cause?: string;
  /** Money at stake, in minor units, where it is known. */
  readonly money?: number;
  /** The lines of a plan that it is about: work section and item. */
  readonly lines?: readonly { readonly section: string; readonly item: string }[];
  /** The material it is about, if it is about one. */
  readonly material?: string;
}

/**
 * Identity of a finding that stays the same from revision to revision as long as its cause does: its code and the ElementKeys of its
 * elements; before they have keys their GlobalIds, and the message where it names none.
 */
export function findingKey({ code, globalIds, keys, message }: Finding): string {
  if (keys && keys.length > 0) return `${code}/${[...keys].sort((a, b) => a - b).join('.')}`;
  return `${code}/${hashText(globalIds.length > 0 ? [...globalIds].sort().join() : message)}`;
}

/** The key that an acceptance was kept under before elements' own keys were used. */
export function formerFindingKey({ keys: _, ...finding }: Finding): string {
  return findingKey(finding);
}

/** Gives findings the ElementKeys of their elements; a GlobalId that stands on several elements means all of them. */
export function keyFindings(
  findings: readonly Finding[],
  keysOf: (globalId: string) => readonly number[] | undefined,
): Finding[] {
  return findings.map((f) => {
    const keys = f.globalIds.flatMap((id) => keysOf(id) ?? []);
    return keys.length > 0 ? { ...f, keys } : f;
  });
}

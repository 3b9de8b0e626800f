import { buildTable } from '../tables/build-table.ts';
import type { Finding, FindingCode } from './finding.ts';

/** Findings of one cause as one line: how many there are, and what the first of them says. */
export interface FindingLine {
  readonly code: FindingCode;
  readonly cause: string | null;
  readonly findings: readonly Finding[];
}

/**
 * Bundles findings by what they have in common, in the order in which they come. Those without a common cause stand alone.
 * @param apartOf what must not share a line although its cause is the same: another revision, an acceptance
 */
export function bundleFindings(
  findings: readonly Finding[],
  apartOf: (finding: Finding) => string = () => '',
): FindingLine[] {
  const { lines } = buildTable<number>((see) => [...findings.keys()].forEach(see), {
    columns: [],
    groups: [],
    bundle: (i) => {
      const { code, cause } = findings[i]!;
      return cause === undefined ? String(i) : JSON.stringify([apartOf(findings[i]!), code, cause]);
    },
    sort: null,
    keysOf: (i) => [i],
  });
  return lines.map(({ keys }) => {
    const own = keys.map((i) => findings[i]!);
    return { code: own[0]!.code, cause: own[0]!.cause ?? null, findings: own };
  });
}

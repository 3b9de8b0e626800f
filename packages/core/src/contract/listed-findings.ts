import { type Finding, findingKey, formerFindingKey } from '../checks/finding.ts';
import { bundleFindings } from '../checks/finding-table.ts';
import type { ProjectMaterial } from '../elements/project-layer.ts';
import { foldText } from '../units/fold-text.ts';
import type { ListedFinding } from './slices.ts';
import type { CheckedRevision } from './source.ts';

/** What findings a project still has, of revisions that count or wait, without those that it has answered itself. */
export function listProjectFindings(
  revisions: readonly Pick<CheckedRevision, 'id' | 'state' | 'findings'>[],
  accepted: Readonly<Record<string, string>>,
  materials: readonly ProjectMaterial[],
): ListedFinding[] {
  const known = new Set(materials.filter((m) => m.density !== undefined).map((m) => foldText(m.name)));
  return revisions
    .filter((r) => r.state === 'counting' || r.state === 'waiting')
    .flatMap(({ id, findings }) =>
      findings
        .filter((f) => f.code !== 'density-missing' || !known.has(foldText(f.material ?? '')))
        .map((finding): ListedFinding => {
          const key = findingKey(finding);
          const reason = accepted[key] ?? accepted[formerFindingKey(finding)] ?? null;
          return { finding, key, revisionId: id, accepted: reason };
        }),
    );
}

/** Findings of one cause in one revision, accepted or not: one line on screen. */
export function listFindingLines<F extends ListedFinding>(found: readonly F[]): (readonly F[])[] {
  const of = new Map<Finding, F>(found.map((f) => [f.finding, f]));
  const apart = (finding: Finding) => `${of.get(finding)!.revisionId}/${of.get(finding)!.accepted ?? ''}`;
  return bundleFindings([...of.keys()], apart).map(({ findings }) => findings.map((f) => of.get(f)!));
}

/** How many lines have a finding that nobody has accepted yet. */
export const countOpenLines = (found: readonly ListedFinding[]): number =>
  listFindingLines(found.filter((f) => f.accepted === null)).length;

/** Money at stake in findings that nobody has accepted yet, as far as it is known, in minor units. */
export const sumOpenStake = (found: readonly ListedFinding[]): number =>
  found.reduce((sum, f) => sum + (f.accepted === null ? (f.finding.money ?? 0) : 0), 0);

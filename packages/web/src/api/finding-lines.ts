import { bundleFindings, type Finding, type FindingCode, type ProjectStateDto } from '@tally/core';
import { listFindings, type ShownFinding } from './project-context.tsx';

/** Findings of one cause in one revision: one line on screen. */
export interface ShownLine {
  readonly id: string;
  readonly code: FindingCode;
  readonly shown: readonly ShownFinding[];
}

/** Findings that have a cause in common stand in one line; those that are accepted apart from those that are not. */
export function listFindingLines(state: ProjectStateDto): ShownLine[] {
  const shown = listFindings(state);
  const of = new Map<Finding, ShownFinding>(shown.map((s) => [s.finding, s]));
  const apart = (finding: Finding) => {
    const { revision, accepted } = of.get(finding)!;
    return `${revision.id}/${accepted ?? ''}`;
  };
  return bundleFindings([...of.keys()], apart).map(({ code, findings }) => {
    const list = findings.map((f) => of.get(f)!);
    return { id: `${list[0]!.revision.id}/${list[0]!.key}`, code, shown: list };
  });
}

/** How many lines have a finding that nobody has accepted yet. */
export const countOpenLines = (state: ProjectStateDto): number =>
  listFindingLines(state).filter((line) => line.shown.some((s) => s.accepted === null)).length;

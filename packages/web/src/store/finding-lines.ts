import { type FindingCode, type ListedFinding, listFindingLines } from '@tally/core';
import { useMemo } from 'react';
import { useProjectState } from './project-store.tsx';
import { useFindings } from './queries.ts';

/** A finding with where it stands. */
export interface ShownFinding extends ListedFinding {
  readonly revisionNumber: number;
  readonly source: string;
}

/** Findings of one cause in one revision: one line on screen. */
export interface ShownLine {
  readonly id: string;
  readonly code: FindingCode;
  readonly shown: readonly ShownFinding[];
}

/** Lines of findings; those that are accepted stand apart from those that are not. Undefined until they are read. */
export function useFindingLines(): { readonly lines: readonly ShownLine[] | undefined; readonly left: number } {
  const { project, sources } = useProjectState('project', 'sources');
  const { data } = useFindings(project.id);
  const lines = useMemo(() => {
    if (!data) return undefined;
    const places = new Map(
      sources.flatMap((s) => s.revisions.map((r) => [r.id, { source: s.name, revisionNumber: r.number }] as const)),
    );
    const none = { source: '', revisionNumber: 0 };
    const shown = data.findings.map((f): ShownFinding => ({ ...f, ...(places.get(f.revisionId) ?? none) }));
    return listFindingLines(shown).map((list): ShownLine => {
      const { revisionId, key, finding } = list[0]!;
      return { id: `${revisionId}/${key}`, code: finding.code, shown: list };
    });
  }, [data, sources]);
  return { lines, left: data ? data.total - data.findings.length : 0 };
}

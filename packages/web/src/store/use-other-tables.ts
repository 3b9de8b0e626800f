import type { ElementTable } from '@tally/core';
import { useProject } from './slices.ts';
import { useTables } from './use-tables.ts';

/** Elements of another project's counting revisions, with what that project adds to them; none while nothing is asked. */
export function useOtherTables(projectId: string | null): {
  readonly tables: readonly ElementTable[];
  readonly isLoading: boolean;
} {
  const { data, isLoading } = useProject(projectId ?? '', projectId !== null);
  const elements = useTables(projectId === null ? undefined : data);
  return { tables: elements.tables, isLoading: projectId !== null && (isLoading || elements.isLoading) };
}

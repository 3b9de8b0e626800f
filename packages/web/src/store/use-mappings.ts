import { useEffect, useState } from 'react';
import { useBasis, useProjectState } from './project-store.tsx';
import { tableKeeper } from './table-keeper.ts';
import type { SourceMapping } from './table-reader.ts';
import { useElements } from './use-elements.ts';

const NONE: readonly SourceMapping[] = [];

/** Who decides about the elements of the project, by source; worked out beside the page. None until it is known for the first time. */
export function useMappings(): readonly SourceMapping[] {
  const { project } = useProjectState('project');
  const { rules, pins } = useBasis('rules', 'pins');
  const { tables } = useElements();
  const [mappings, setMappings] = useState<readonly SourceMapping[]>(NONE);
  useEffect(() => {
    let isOld = false;
    if (tables.length === 0) return;
    // What cannot be worked out is left as it was: tables that are read anew bring it again.
    tableKeeper.map(project.id, rules, pins).then(
      (fresh) => !isOld && setMappings(fresh),
      () => undefined,
    );
    return () => {
      isOld = true;
    };
  }, [project.id, rules, pins, tables]);
  return mappings;
}

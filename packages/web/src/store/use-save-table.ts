import type { OutlineTable } from '@tally/core';
import { saveBlob } from '../ui/save-file.ts';
import { postForFile } from './client.ts';
import { useProblemNotice } from './use-commit.ts';

/** Saves a table as it is shown as XLSX, under a name without its ending; what fails is told. */
export function useSaveTable(projectId: string): (name: string, table: OutlineTable) => Promise<void> {
  const notice = useProblemNotice();
  return async (name, table) => {
    try {
      saveBlob(`${name}.xlsx`, await postForFile(`/projects/${projectId}/takeoff.xlsx`, table));
    } catch (failed) {
      notice(failed);
    }
  };
}

import { Box, Button } from '@mui/material';
import { type ChangeDto, MOVE_CAUSES, type OutlineTable, projectOf, readWorkspaceId, workspaceId } from '@tally/core';
import { Link } from 'react-router';
import { useProjectState } from '../../store/project-store.tsx';
import { useSaveTable } from '../../store/use-save-table.ts';
import { showMove, showTime, widthOfMoney } from '../../ui/format.ts';
import { VirtualTable } from '../../ui/virtual-table.tsx';
import { CAUSE_WORDS } from './cause-words.ts';

/** What was changed, the newest first, with what each moved; choosing one compares the states after and before it. */
export function ChangeLog({
  changes,
  chosen,
  onChoose,
}: {
  readonly changes: readonly ChangeDto[];
  readonly chosen: number | null;
  readonly onChoose: (seq: number) => void;
}) {
  const { project, money } = useProjectState('project', 'money');
  const saveTable = useSaveTable(project.id);
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column', gap: 1, p: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', fontSize: 13 }}>
        <Box sx={{ flex: 1, color: 'text.secondary' }}>
          {chosen === null || readWorkspaceId(project.id).past !== null ? (
            'All changes, the newest first'
          ) : (
            <Box
              component={Link}
              to={`/projects/${workspaceId({ projectId: projectOf(project.id), past: chosen })}/plan`}
              sx={{ color: 'primary.main' }}
            >
              The plan as it was then
            </Box>
          )}
        </Box>
        <Button
          size="small"
          color="inherit"
          variant="outlined"
          disabled={changes.length === 0}
          onClick={() =>
            void saveTable(`${project.name} record of changes`, listRecord(changes, money.minorDigits, money.currency))
          }
        >
          Record as XLSX
        </Button>
      </Box>
      <VirtualTable
        label="Changes"
        rows={changes}
        rowId={(c) => String(c.seq)}
        selectedId={chosen === null ? null : String(chosen)}
        onSelect={(c) => onChoose(c.seq)}
        columns={[
          {
            key: 'cause',
            heading: 'Change',
            width: 0,
            cell: (c) => (
              <span
                title={`${c.cause}\n${c.author}, ${showTime(c.at)}`}
                style={{
                  textDecoration: c.isUndone ? 'line-through' : undefined,
                  overflow: 'hidden',
                  textOverflow: 'ellipsis',
                }}
              >
                {c.cause}
              </span>
            ),
            text: (c) => c.cause,
          },
          {
            key: 'move',
            heading: `Move ${money.currency}`,
            width: widthOfMoney(
              changes.map((c) => c.move?.move ?? 0),
              money.minorDigits,
              96,
            ),
            isFigure: true,
            cell: (c) => (c.move ? showMove(c.move.move, money.minorDigits) : '…'),
          },
        ]}
      />
    </Box>
  );
}

/** Changes as a record: when, by whom, what, the total before and after, the move and its causes. */
export function listRecord(changes: readonly ChangeDto[], minorDigits: number, currency: string): OutlineTable {
  const major = (minor: number | undefined) => (minor === undefined ? null : minor / 10 ** minorDigits);
  const rows = changes.map(({ at, author, cause, isUndone, move }) => [
    at.slice(0, 16).replace('T', ' '),
    author,
    isUndone ? `${cause} (taken back since)` : cause,
    major(move?.before),
    major(move?.after),
    major(move?.move),
    ...MOVE_CAUSES.map((c) => major(move?.causes[c])),
  ]);
  return {
    name: 'Record of changes',
    columns: ['When', 'By', 'Change', `Before ${currency}`, `After ${currency}`, `Move ${currency}`, ...MOVE_CAUSES.map((c) => CAUSE_WORDS[c].word)], // biome-ignore format: one list
    rows,
    levels: rows.map(() => 0),
    heads: rows.map(() => false),
    sums: [],
  };
}

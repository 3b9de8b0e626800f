import { Box } from '@mui/material';
import type { ChangeDto } from '@tally/core';
import { useProjectState } from '../../store/project-store.tsx';
import { showMove, showTime, widthOfMoney } from '../../ui/format.ts';
import { VirtualTable } from '../../ui/virtual-table.tsx';

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
  const { money } = useProjectState('money');
  return (
    <Box sx={{ height: '100%', display: 'flex', p: 1 }}>
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

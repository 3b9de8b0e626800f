import { Box } from '@mui/material';
import { amountToMinor, type HeldMark, nameGroup, readGroupField } from '@tally/core';
import { useMemo } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { useChecked } from '../../store/queries.ts';
import { useSelection } from '../../store/selection.tsx';
import { useElements } from '../../store/use-elements.ts';
import { showMinor, showMove, showTime, widthOfMoney } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';

/** What somebody checked and is not as it was, the most money first. */
export function CheckedMoved() {
  const { project, money } = useProjectState('project', 'money');
  const { data } = useChecked(project.id);
  const { find } = useElements();
  const { select } = useSelection();
  const rows = useMemo(
    () => (data?.marks ?? []).filter((m) => !m.holds).sort((a, b) => Math.abs(moveOf(b)) - Math.abs(moveOf(a))),
    [data],
  );
  const nameOf = ({ mark: { on } }: HeldMark): string => {
    if ('element' in on) {
      const place = find(on.element);
      const { name } = place?.model.table ?? {};
      return place && name ? (name.pool[name.index[place.row]!] ?? `Element ${on.element}`) : 'An element that is gone';
    }
    const path = on.path.map(({ by, is }) => `${nameGroup(readGroupField(by)!).word} ${is}`);
    return [...path, ...(on.item === undefined ? [] : [on.item])].join(', ');
  };
  const minor = (m: number) => showMinor(m, money.minorDigits);
  const columns: TableColumn<HeldMark>[] = [
    { key: 'on', heading: 'What was checked', width: 0, cell: nameOf },
    {
      key: 'by',
      heading: 'By',
      width: 150,
      isFaint: true,
      cell: ({ mark }) => [mark.by, mark.at && showTime(mark.at)].filter(Boolean).join(', '),
    },
    {
      key: 'was',
      heading: 'Was',
      width: widthOfMoney(
        rows.map((m) => m.mark.amount),
        money.minorDigits,
      ),
      isFigure: true,
      cell: ({ mark }) => minor(mark.amount),
    },
    {
      key: 'is',
      heading: 'Is',
      width: widthOfMoney(
        rows.map((m) => amountToMinor(m.amount)),
        money.minorDigits,
      ),
      isFigure: true,
      cell: (m) => (m.signature === '' ? 'gone' : minor(amountToMinor(m.amount))),
    },
    {
      key: 'move',
      heading: 'Move',
      width: widthOfMoney(rows.map(moveOf), money.minorDigits),
      isFigure: true,
      cell: (m) => showMove(moveOf(m), money.minorDigits),
    },
  ];
  if (data && rows.length === 0)
    return (
      <Box sx={{ color: 'text.secondary', fontSize: 13, p: 1 }}>
        {data.marks.length === 0
          ? 'Nothing has been checked yet: mark lines of the plan, and what of them moves is told here.'
          : 'All that was checked is as it was.'}
      </Box>
    );
  return (
    <VirtualTable
      label="Checked and moved"
      rows={rows}
      columns={columns}
      rowId={(m) => m.id}
      onSelect={({ mark: { on } }) => 'element' in on && select([on.element])}
    />
  );
}

const moveOf = ({ mark, amount }: HeldMark): number => amountToMinor(amount) - mark.amount;

import type { ComparisonDto, GroupMoveDto, MoveCause } from '@tally/core';
import { showMinor, showMove, widthOfMoney } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { CAUSE_WORDS } from './cause-words.ts';
import { listActing, listCostedGroups } from './moved-groups.ts';

/** What groups cost before and after, and what moved them; every column and every row adds up. */
export function GroupMoves({
  comparison,
  heading,
  cause,
  onOpen,
}: {
  readonly comparison: ComparisonDto;
  readonly heading: string;
  /** The largest moves by it come first; null for the order of the plan. */
  readonly cause: MoveCause | null;
  readonly onOpen: (label: string) => void;
}) {
  const { groups, move, minorDigits } = comparison;
  const moved = listCostedGroups(groups);
  const rows = cause ? [...moved].filter((g) => g.causes[cause] !== 0).sort((a, b) => Math.abs(b.causes[cause]) - Math.abs(a.causes[cause])) : moved; // biome-ignore format: one choice
  const minor = (m: number) => showMinor(m, minorDigits);
  const change = (m: number) => (m === 0 ? '' : showMove(m, minorDigits));
  const width = (read: (g: GroupMoveDto) => number, whole: number) => widthOfMoney([...groups.map(read), whole], minorDigits, 92); // biome-ignore format: one measure
  const acting = listActing(groups);
  const columns: TableColumn<GroupMoveDto>[] = [
    { key: 'label', heading, width: 0, cell: (g) => g.label },
    {
      key: 'from',
      heading: 'Before',
      width: width((g) => g.from, move.before),
      isFigure: true,
      cell: (g) => minor(g.from),
    },
    { key: 'to', heading: 'After', width: width((g) => g.to, move.after), isFigure: true, cell: (g) => minor(g.to) },
    {
      key: 'move',
      heading: 'Move',
      width: width((g) => g.move, move.move),
      isFigure: true,
      cell: (g) => change(g.move),
    },
    ...acting.map(
      (c): TableColumn<GroupMoveDto> => ({
        key: c,
        heading: CAUSE_WORDS[c].short,
        width: width((g) => g.causes[c], move.causes[c]),
        isFigure: true,
        isFaint: c !== cause,
        cell: (g) => change(g.causes[c]),
      }),
    ),
  ];
  // What is shown of some groups only is no whole.
  const totals: Record<string, number> = { from: move.before, to: move.after, move: move.move, ...move.causes };
  return (
    <VirtualTable
      label="Moves by group"
      rows={rows}
      columns={columns}
      rowId={(g) => g.label}
      onOpen={(g) => onOpen(g.label)}
      footerCells={(c) =>
        c.key === 'label'
          ? 'All'
          : c.key === 'from' || c.key === 'to'
            ? minor(totals[c.key]!)
            : change(totals[c.key] ?? 0)
      }
    />
  );
}

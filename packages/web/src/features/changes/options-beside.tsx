import { Box } from '@mui/material';
import type { ComparisonDto, GroupField } from '@tally/core';
import { nameGroup, readWorkspaceId } from '@tally/core';
import { useQueries } from '@tanstack/react-query';
import { useProjectState } from '../../store/project-store.tsx';
import { comparisonOf } from '../../store/queries.ts';
import { showMinor, showMove, widthOfMoney } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { listOptions } from './name-states.ts';

/** Options that stand side by side at most. */
const MOST_BESIDE = 6;

interface Row {
  readonly label: string;
  readonly base: number;
  /** By option: what the group costs there. */
  readonly options: readonly (number | null)[];
  /** Told as a cost per m2 of floor. */
  readonly isPerArea?: boolean;
}

/** Joins comparisons of one base with several options to rows by group. */
export function joinOptions(comparisons: readonly (ComparisonDto | undefined)[]): Row[] {
  const rows = new Map<string, { base: number; options: (number | null)[] }>();
  comparisons.forEach((comparison, i) => {
    for (const { label, from, to } of comparison?.groups ?? []) {
      const row = rows.get(label) ?? { base: from, options: comparisons.map(() => null) };
      rows.set(label, row);
      row.base = from;
      row.options[i] = to;
    }
  });
  return [...rows]
    .filter(([, r]) => r.base !== 0 || r.options.some((o) => o !== null && o !== 0))
    .map(([label, { base, options }]) => {
      // A group that an option has not costs nothing there, and what only an option has costs the plan nothing.
      const filled = options.map((o, i) => (o === null && comparisons[i] ? 0 : o));
      return { label, base, options: filled };
    });
}

/** The plan and its options by group, with what each differs by; the whole, and per m2 of floor, below. */
export function OptionsBeside({ by }: { readonly by: GroupField }) {
  const { project, options, money } = useProjectState('project', 'options', 'money');
  const own = readWorkspaceId(project.id).option;
  const live = listOptions(options).filter(([, o]) => !o.isAway);
  const shown = live.slice(0, MOST_BESIDE);
  const comparisons = useQueries({
    queries: shown.map(([id]) => comparisonOf(project.id, 'base', id === own ? 'live' : `option:${id}`, by)),
    combine: (all) => all.map((q) => q.data),
  });
  const digits = money.minorDigits;
  const minor = (m: number | null) => (m === null ? '…' : showMinor(m, digits));
  const first = comparisons.find((c) => c !== undefined);
  const perArea = (m: number | undefined, area: number | null | undefined) => (m !== undefined && area ? Math.round(m / area) : null); // biome-ignore format: one figure
  const rows: Row[] = joinOptions(comparisons);
  const perRow: Row = {
    label: 'Per m² of floor',
    base: perArea(first?.move.before, first?.floorAreaM2[0]) ?? 0,
    options: comparisons.map((c) => perArea(c?.move.after, c?.floorAreaM2[1])),
    isPerArea: true,
  };
  const all = first && perRow.base !== 0 ? [...rows, perRow] : rows;
  const width = (values: readonly (number | null)[]) => widthOfMoney(values.map((v) => v ?? 0), digits, 96); // biome-ignore format: one measure
  const columns: TableColumn<Row>[] = [
    { key: 'label', heading: nameGroup(by).word, width: 0, cell: (r) => r.label },
    {
      key: 'base',
      heading: 'The plan',
      width: width([first?.move.before ?? 0]),
      isFigure: true,
      cell: (r) => minor(r.base),
    },
    ...shown.flatMap(([id, { name }], i): TableColumn<Row>[] => [
      {
        key: id,
        heading: name,
        width: width([comparisons[i]?.move.after ?? 0]),
        isFigure: true,
        cell: (r) => minor(r.options[i] ?? null),
      },
      {
        key: `${id}/move`,
        heading: '+/−',
        width: width([comparisons[i]?.move.move ?? 0]),
        isFigure: true,
        isFaint: true,
        cell: (r) => {
          const o = r.options[i];
          return o === null || o === undefined || o === r.base ? '' : showMove(o - r.base, digits);
        },
      },
    ]),
  ];
  const totals: Record<string, string> = { label: 'All', base: minor(first?.move.before ?? null) };
  shown.forEach(([id], i) => {
    totals[id] = minor(comparisons[i]?.move.after ?? null);
    totals[`${id}/move`] = comparisons[i] ? showMove(comparisons[i].move.move, digits) : '';
  });
  return (
    <VirtualTable
      label="Options side by side"
      rows={all}
      columns={columns}
      rowId={(r) => r.label}
      footerCells={(c) => totals[c.key] ?? ''}
      footer={
        live.length > shown.length && (
          <Box sx={{ px: 1, py: 0.5, fontSize: 13, borderTop: 1, borderColor: 'divider' }}>
            Not shown:{' '}
            {live
              .slice(MOST_BESIDE)
              .map(([, o]) => o.name)
              .join(', ')}
            . Put others away to see them.
          </Box>
        )
      }
    />
  );
}

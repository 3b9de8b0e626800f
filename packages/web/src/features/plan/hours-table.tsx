import { Box } from '@mui/material';
import type { PlanDto, PlanGroup } from '@tally/core';
import { useMemo } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { usePlan } from '../../store/queries.ts';
import { showFigure, showMinor, widthOfMoney } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';

const VIEW = { by: ['kind', 'item', 'storey'] };
/** Kinds of cost that are hours. */
const KINDS = ['labour', 'plant'] as const;

/** The hours of one trade or machine, by storey and together. */
export interface HoursRow {
  readonly id: string;
  readonly kind: (typeof KINDS)[number];
  readonly label: string;
  /** Hours by storey; what is in other units than hours is not among them. */
  readonly hours: ReadonlyMap<string, number>;
  readonly total: number;
  readonly minor: number;
  readonly unknown: number;
}

/** Hours of labour and plant by trade and storey, out of a plan grouped by kind, item and storey. */
export function listHours(plan: PlanDto): HoursRow[] {
  return plan.groups.flatMap((kind) => {
    const of = KINDS.find((k) => k === kind.label);
    return of ? kind.groups.flatMap((item) => readHours(of, item)) : [];
  });
}

/** Labour and plant that no hours are told of, since they are priced by other units: how many trades and machines, and what they cost. */
export function sumOtherUnits(plan: PlanDto): { readonly count: number; readonly minor: number } {
  const items = plan.groups.flatMap((kind) =>
    KINDS.some((k) => k === kind.label) ? kind.groups.filter((item) => readHours('labour', item).length === 0) : [],
  );
  return { count: items.length, minor: items.reduce((sum, item) => sum + item.minor, 0) };
}

function readHours(kind: HoursRow['kind'], item: PlanGroup): HoursRow[] {
  const hours = new Map<string, number>();
  for (const storey of item.groups)
    for (const line of storey.lines)
      if (line.unit === 'h' && line.toBuy !== null)
        hours.set(storey.label, (hours.get(storey.label) ?? 0) + line.toBuy);
  const total = [...hours.values()].reduce((a, b) => a + b, 0);
  if (total === 0 && item.unknown === 0) return [];
  return [{ id: item.id, kind, label: item.label, hours, total, minor: item.minor, unknown: item.unknown }];
}

/** Hours of labour and plant: a trade or machine a row, storeys beside each other. */
export function HoursTable() {
  const { project, summary } = useProjectState('project', 'summary');
  const { data } = usePlan(project.id, VIEW);
  const rows = useMemo(() => (data ? listHours(data) : []), [data]);
  const storeys = useMemo(() => {
    const named = summary.building.storeys.map((s) => s.name);
    const all = [...new Set(rows.flatMap((r) => [...r.hours.keys()]))];
    return [...named.filter((n) => all.includes(n)), ...all.filter((n) => !named.includes(n))];
  }, [rows, summary.building.storeys]);
  const hours = (value: number | undefined) => (value === undefined || value === 0 ? '' : showFigure(value, 1));
  const sum = (read: (row: HoursRow) => number) => rows.reduce((total, row) => total + read(row), 0);
  const columns: TableColumn<HoursRow>[] = [
    { key: 'label', heading: 'Trade or machine', width: 0, cell: (r) => r.label },
    { key: 'kind', heading: 'Kind', width: 74, isFaint: true, cell: (r) => r.kind },
    ...storeys.map((name): TableColumn<HoursRow> => ({ key: `storey:${name}`, heading: name, width: 100, isFigure: true, cell: (r) => hours(r.hours.get(name)) })),
    { key: 'total', heading: 'Hours', width: 86, isFigure: true, cell: (r) => (r.unknown > 0 ? `${hours(r.total)} so far` : hours(r.total)) },
    { key: 'amount', heading: `Amount ${summary.currency}`, width: widthOfMoney([summary.total], summary.minorDigits), isFigure: true, cell: (r) => showMinor(r.minor, summary.minorDigits) },
  ]; // biome-ignore format: a column a line
  const others = data ? sumOtherUnits(data) : { count: 0, minor: 0 };
  const table = (
    <VirtualTable
      label="Hours"
      keep={`${project.id}/hours`}
      rows={rows}
      columns={columns}
      rowId={(r) => r.id}
      isMarked={(r) => r.unknown > 0}
      footerCells={({ key }) =>
        key === 'label'
          ? 'Together'
          : key === 'total'
            ? hours(sum((r) => r.total))
            : key === 'amount'
              ? showMinor(
                  sum((r) => r.minor),
                  summary.minorDigits,
                )
              : key.startsWith('storey:')
                ? hours(sum((r) => r.hours.get(key.slice(7)) ?? 0))
                : ''
      }
    />
  );
  return (
    <>
      {table}
      {others.count > 0 && (
        <Box role="note" sx={{ fontSize: 13, color: 'text.secondary' }}>
          Without{' '}
          {others.count === 1 ? 'one of labour and plant that is' : `${others.count} of labour and plant that are`}{' '}
          priced by other units than hours: {showMinor(others.minor, summary.minorDigits)} {summary.currency}.
        </Box>
      )}
    </>
  );
}

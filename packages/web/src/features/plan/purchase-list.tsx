import { Box, Button, ToggleButton, ToggleButtonGroup, useMediaQuery } from '@mui/material';
import {
  amountToMinor,
  groupPurchases,
  nameFact,
  nameTotal,
  PURCHASE_COLUMN,
  PURCHASE_GROUPS,
  type PurchaseDto,
  type TableLine,
} from '@tally/core';
import { type ReactNode, useMemo } from 'react';
import { usePageView } from '../../store/page-view.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { usePurchases } from '../../store/queries.ts';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { alignQuantity, showMinor, showUnit, widthOfMoney } from '../../ui/format.ts';
import { GroupLabel } from '../../ui/group-label.tsx';
import { GroupSelect } from '../../ui/group-select.tsx';
import { hideClosed } from '../../ui/hide-closed.ts';
import { useClosed } from '../../ui/use-closed.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { describePacks } from './describe-packs.ts';
import { HoursTable } from './hours-table.tsx';
import { OrderSheets } from './order-sheets.tsx';

/** Columns that a small screen does without: what they say is in what is grouped by, and between net and to buy. */
const WIDE_ONLY: ReadonlySet<string> = new Set(['supplier', 'waste', 'surplus', 'surplusMoney']);

const FIRST_GROUPS = { bought: 'none', of: 'goods' };
/** What is listed: what is bought from somebody, the hours, or everything that the plan takes. */
const LISTS = { goods: 'Goods', hours: 'Hours', all: 'Everything' } as const;
/** Kinds that nobody sells in packs. */
const NO_GOODS: ReadonlySet<string | null> = new Set(['labour', 'fee']);

/** What has to be bought for the plan, item by item: net, waste, whole packs and what is left over. */
export function PurchaseList({ choice }: { readonly choice: ReactNode }) {
  const { project, summary } = useProjectState('project', 'summary');
  const { data, error } = usePurchases(project.id);
  const [groups, changeGroups] = usePageView('purchases', FIRST_GROUPS);
  const isAll = groups.of === 'all';
  const purchases = useMemo(
    () => (isAll ? data : data?.filter((p) => !NO_GOODS.has(p.kind) && p.unit !== '%' && p.unit !== 'h')),
    [data, isAll],
  );
  const sum = isAll ? summary.total : (purchases ?? []).reduce((total, p) => total + p.minor, 0);
  const by = PURCHASE_GROUPS.find((f) => f === groups.bought) ?? '';
  const { closed, toggle } = useClosed(`${project.id}/purchases`);
  const isNarrow = useMediaQuery('(max-width: 1180px)');
  const lines = useMemo(() => groupPurchases(purchases ?? [], by === '' ? [] : [by]).lines, [purchases, by]);
  const rows = useMemo(() => hideClosed(lines, closed), [lines, closed]);
  if (error && !data) return <Empty title="The purchases cannot be shown">{error.message}</Empty>;
  const of = (line: TableLine): PurchaseDto | null => (line.kind === 'row' ? purchases![line.keys[0]!]! : null);
  const text = (
    key: string,
    heading: string,
    width: number,
    read: (p: PurchaseDto) => string,
  ): TableColumn<TableLine> => ({
    key,
    heading,
    width,
    cell: (line) => (line.kind === 'row' ? read(of(line)!) : ''),
  });
  const quantity = (key: 'net' | 'waste' | 'toBuy' | 'surplus', heading: string): TableColumn<TableLine> => ({
    key,
    heading,
    width: key === 'waste' || key === 'surplus' ? 80 : 92,
    isFigure: true,
    isFaint: key === 'waste' || key === 'surplus',
    cell: (line) => {
      const p = of(line);
      return p === null || (p[key] < 1e-9 && (key !== 'net' || p.unknown > 0)) ? '' : alignQuantity(p[key], p.unit);
    },
  });
  const all: TableColumn<TableLine>[] = [
    {
      ...text('code', 'Code', 116, (p) => p.code),
      cell: (line) =>
        line.kind === 'group' ? (
          <GroupLabel label={line.label} isOpen={!closed.has(line.id)} onToggle={() => toggle(line.id)} />
        ) : (
          of(line)!.code
        ),
      text: (line) => (line.kind === 'group' ? line.label : of(line)!.code),
    },
    text('description', 'Description', 0, (p) => (p.storey === null ? p.description : `${p.description}, ${p.storey}`)),
    { ...text('supplier', 'Supplier', 110, (p) => p.supplier ?? ''), isFaint: true },
    quantity('net', 'Net'),
    quantity('waste', 'Waste'),
    quantity('toBuy', 'To buy'),
    { ...text('unit', 'Unit', 46, (p) => showUnit(p.unit)), isFaint: true },
    text('packs', 'Made up of', 130, describePacks),
    quantity('surplus', 'Left over'),
    {
      key: 'surplusMoney',
      heading: `Left over ${summary.currency}`,
      width: 96,
      isFigure: true,
      isFaint: true,
      cell: (line) => (of(line)?.surplusMinor ? showMinor(of(line)!.surplusMinor, summary.minorDigits) : ''),
    },
    {
      key: 'amount',
      heading: `Amount ${summary.currency}`,
      width: widthOfMoney([summary.total], summary.minorDigits),
      isFigure: true,
      cell: (line) =>
        of(line)?.unknown && of(line)!.minor === 0
          ? 'unknown'
          : showMinor(amountToMinor(Number(line.cells[PURCHASE_COLUMN.minor])), summary.minorDigits),
    },
  ];
  const columns = isNarrow ? all.filter((c) => !WIDE_ONLY.has(c.key)) : all;
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
      <Box role="toolbar" aria-label="Plan" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
        {choice}
        <ToggleButtonGroup
          exclusive
          size="small"
          aria-label="Goods or hours"
          value={groups.of}
          onChange={(_, next) => next && changeGroups({ of: next })}
        >
          {Object.entries(LISTS).map(([id, word]) => (
            <ToggleButton key={id} value={id}>
              {word}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <GroupSelect
          label="Grouped by"
          fields={PURCHASE_GROUPS}
          words={nameFact}
          value={by}
          onChange={(bought) => changeGroups({ bought: bought === '' ? 'none' : bought })}
        />
        <Box
          sx={{
            flex: 1,
            minWidth: 0,
            color: 'text.secondary',
            whiteSpace: 'nowrap',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
          }}
        >
          Whole packs are made up of the sum, never element by element. Say in the book how an item is sold.
        </Box>
        <Button variant="outlined" color="inherit" disabled={!purchases?.length} onClick={() => window.print()}>
          Print order sheets
        </Button>
        <OrderSheets purchases={purchases ?? []} />
      </Box>
      {groups.of === 'hours' ? (
        <HoursTable />
      ) : (
        <VirtualTable
          label="Purchases"
          keep={`${project.id}/purchases`}
          rows={rows}
          columns={columns}
          rowId={(l) => l.id}
          level={(l) => l.level}
          isGroup={(l) => l.kind === 'group'}
          isMarked={(l) => (of(l)?.unknown ?? 0) > 0}
          footer={
            <Box
              sx={{
                display: 'flex',
                justifyContent: 'space-between',
                p: 1,
                borderTop: 1,
                borderColor: 'text.primary',
                fontWeight: 650,
              }}
            >
              <span>
                {isAll ? nameTotal(summary.shortfall) : summary.shortfall ? 'Goods so far' : 'Goods together'}
              </span>
              <Box component="span" sx={{ fontFamily: FIGURES }}>
                {showMinor(sum, summary.minorDigits)}
              </Box>
            </Box>
          }
        />
      )}
    </Box>
  );
}

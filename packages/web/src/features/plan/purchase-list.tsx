import { Box } from '@mui/material';
import { nameTotal, type PurchaseDto } from '@tally/core';
import type { ReactNode } from 'react';
import { useProjectState } from '../../api/project-context.tsx';
import { usePurchases } from '../../api/queries.ts';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { alignQuantity, showFigure, showMinor, showUnit } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';

/** How what is bought is made up: packs, or pieces of each length with their splices. */
function describePacks({ packs, lengths, splices, unit }: PurchaseDto): string {
  if (packs === null) return '';
  const joints = splices > 0 ? `, ${showFigure(Math.ceil(splices), 0)} splices` : '';
  if (lengths.length > 0) return `${lengths.map((l) => `${l.pieces} × ${l.length} ${unit}`).join(', ')}${joints}`;
  return `${packs} ${packs === 1 ? 'pack' : 'packs'}`;
}

/** What has to be bought for the plan, item by item: net, waste, whole packs and what is left over. */
export function PurchaseList({ choice }: { readonly choice: ReactNode }) {
  const { project, summary } = useProjectState();
  const { data: purchases, error } = usePurchases(project.id);
  if (error) return <Empty title="The purchases cannot be shown">{error.message}</Empty>;
  const rows = [...(purchases ?? [])].sort((a, b) => (a.code < b.code ? -1 : 1));
  const quantity = (key: 'net' | 'waste' | 'toBuy' | 'surplus', heading: string): TableColumn<PurchaseDto> => ({
    key,
    heading,
    width: key === 'waste' || key === 'surplus' ? 80 : 92,
    isFigure: true,
    isFaint: key === 'waste' || key === 'surplus',
    cell: (p) => (p[key] < 1e-9 && key !== 'net' ? '' : alignQuantity(p[key], p.unit)),
  });
  const columns: TableColumn<PurchaseDto>[] = [
    { key: 'code', heading: 'Code', width: 92, cell: (p) => p.code },
    {
      key: 'description',
      heading: 'Description',
      width: 0,
      cell: (p) => (p.storey === null ? p.description : `${p.description}, ${p.storey}`),
    },
    { key: 'supplier', heading: 'Supplier', width: 110, isFaint: true, cell: (p) => p.supplier ?? '' },
    quantity('net', 'Net'),
    quantity('waste', 'Waste'),
    quantity('toBuy', 'To buy'),
    { key: 'unit', heading: 'Unit', width: 46, isFaint: true, cell: (p) => showUnit(p.unit) },
    { key: 'packs', heading: 'Made up of', width: 130, cell: describePacks },
    quantity('surplus', 'Left over'),
    {
      key: 'amount',
      heading: `Amount ${summary.currency}`,
      width: 104,
      isFigure: true,
      cell: (p) => (p.unknown > 0 && p.minor === 0 ? 'unknown' : showMinor(p.minor, summary.minorDigits)),
    },
  ];
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
      <Box role="toolbar" aria-label="Plan" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
        {choice}
        <Box sx={{ color: 'text.secondary' }}>
          Whole packs are made up of the sum, never element by element. Say in the book how an item is sold.
        </Box>
      </Box>
      <VirtualTable
        label="Purchases"
        rows={rows}
        columns={columns}
        rowId={(p) => `${p.code}/${p.storey ?? ''}`}
        isMarked={(p) => p.unknown > 0}
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
            <span>{nameTotal(summary.shortfall)}</span>
            <Box component="span" sx={{ fontFamily: FIGURES }}>
              {showMinor(summary.total, summary.minorDigits)}
            </Box>
          </Box>
        }
      />
    </Box>
  );
}

import { zodResolver } from '@hookform/resolvers/zod';
import { Box, DialogContent, DialogTitle } from '@mui/material';
import { type CostItem, currencyToMinorDigits, type EntryDiff, moveItemByPercent } from '@tally/core';
import { useDeferredValue, useMemo } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { z } from 'zod';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { usePreview } from '../../store/use-preview.ts';
import { DialogFoot } from '../../ui/dialog-foot.tsx';
import { figureText } from '../../ui/figure-text.ts';
import { FormDialog } from '../../ui/form-dialog.tsx';
import { FormText } from '../../ui/form-text.tsx';
import { showDecimal } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { Effect } from './effect.tsx';

interface MovedItem {
  readonly item: CostItem;
  readonly moved: CostItem;
}

/** By how much rates move: a sign before the figure is usual. */
const schema = z.object({
  percent: z
    .string()
    .transform((text) => text.trim().replace(/^\+/, ''))
    .pipe(figureText('per cent from −100 to 1000', (percent) => percent >= -100 && percent <= 1000)),
});

/** Moves the rates of items by a per cent at once; the effect on the total is shown before it is kept. */
export function MoveRatesDialog({
  items,
  onClose,
}: {
  readonly items: readonly CostItem[];
  readonly onClose: () => void;
}) {
  const { project } = useProjectState('project');
  const basis = useBasis('settings');
  const change = useCommit(project.id);
  const { control, handleSubmit } = useForm({
    defaultValues: { percent: '' },
    resolver: zodResolver(schema),
    mode: 'onChange',
  });
  const read = schema.safeParse({ percent: useWatch({ control, name: 'percent' }) });
  const percent = useDeferredValue(read.success && read.data.percent !== null ? Number(read.data.percent) : null);
  const digits = currencyToMinorDigits(basis.settings.currency);
  const moved = useMemo(
    (): MovedItem[] =>
      percent === null || percent === 0
        ? []
        : items.flatMap((item) => {
            const to = moveItemByPercent(item, percent, digits);
            return to ? [{ item, moved: to }] : [];
          }),
    [items, percent, digits],
  );
  const diff: EntryDiff = {
    added: [],
    removed: [],
    updated: moved.map(({ item, moved: to }) => ({ kind: 'item', id: item.code, from: item, to })),
  };
  const move = usePreview(project.id, moved.length > 0 ? diff : null);
  const unrated = items.filter((i) => moveItemByPercent(i, 1, digits) === null).length;
  const columns: TableColumn<MovedItem>[] = [
    { key: 'code', heading: 'Code', width: 96, cell: ({ item }) => item.code },
    { key: 'description', heading: 'Description', width: 0, cell: ({ item }) => item.description },
    { key: 'now', heading: 'Rate now', width: 96, isFigure: true, cell: ({ item }) => showRate(item) },
    { key: 'then', heading: 'Rate then', width: 96, isFigure: true, cell: ({ moved: to }) => showRate(to) },
  ];
  const keep = handleSubmit(() => {
    const cause = `Rates of ${moved.length === 1 ? 'one item' : `${moved.length} items`} ${percent! > 0 ? '+' : ''}${percent} %`;
    change.mutate({ cause, diff }, { onSuccess: onClose });
  });
  return (
    <FormDialog onClose={onClose} maxWidth="sm">
      <DialogTitle>Move rates</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5, pt: '8px !important' }}>
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
          <FormText
            control={control}
            name="percent"
            autoFocus
            label="By per cent"
            placeholder="+3.5"
            sx={{ width: 180 }}
          />
          <Box role="status" aria-label="Effect" sx={{ fontSize: 13, flex: 1 }}>
            {moved.length === 0 ? (
              `The rates of the ${items.length === 1 ? 'item' : `${items.length} items`} shown in the book.`
            ) : (
              <Effect move={move} />
            )}
            {unrated > 0 && (
              <Box sx={{ color: 'text.secondary' }}>
                {unrated === 1 ? 'One of them has' : `${unrated} of them have`} no figure to move: no rate, or a
                formula.
              </Box>
            )}
          </Box>
        </Box>
        <Box sx={{ height: 300, display: 'flex' }}>
          <VirtualTable label="Moved rates" rows={moved} columns={columns} rowId={({ item }) => item.code} />
        </Box>
      </DialogContent>
      <DialogFoot
        label="Keep the new rates"
        isOff={moved.length === 0 || !move || change.isPending}
        onAct={() => void keep()}
        onCancel={onClose}
      />
    </FormDialog>
  );
}

/** The price of an item that moves, with all its decimals; of a pack or the longest length where those have prices. */
function showRate({ rate, soldAs }: CostItem): string {
  const price = soldAs?.packPrice ?? soldAs?.lengthPrices?.at(-1) ?? rate!;
  return showDecimal(price);
}

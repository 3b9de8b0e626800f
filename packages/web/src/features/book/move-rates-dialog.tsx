import { Box, Dialog, DialogContent, DialogTitle, TextField } from '@mui/material';
import { type CostItem, currencyToMinorDigits, type EntryDiff, moveItemByPercent } from '@tally/core';
import { useDeferredValue, useMemo, useState } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { usePreview } from '../../store/use-preview.ts';
import { DialogFoot } from '../../ui/dialog-foot.tsx';
import { readFigure, showFigure } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { Effect } from './effect.tsx';

interface MovedItem {
  readonly item: CostItem;
  readonly moved: CostItem;
}

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
  const [text, setText] = useState('');
  const percent = useDeferredValue(readFigure(text.replace(/^\+/, '')));
  const isWrong = text.trim() !== '' && (percent === null || percent < -100 || percent > 1000);
  const digits = currencyToMinorDigits(basis.settings.currency);
  const moved = useMemo(
    (): MovedItem[] =>
      percent === null || percent === 0 || isWrong
        ? []
        : items.flatMap((item) => {
            const to = moveItemByPercent(item, percent, digits);
            return to ? [{ item, moved: to }] : [];
          }),
    [items, percent, isWrong, digits],
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
  const keep = () => {
    const cause = `Rates of ${moved.length === 1 ? 'one item' : `${moved.length} items`} ${percent! > 0 ? '+' : ''}${percent} %`;
    change.mutate({ cause, diff }, { onSuccess: onClose });
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>Move rates</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5, pt: '8px !important' }}>
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
          <TextField
            autoFocus
            label="By per cent"
            placeholder="+3.5"
            value={text}
            error={isWrong}
            helperText={isWrong ? 'A figure from −100 to 1000.' : undefined}
            onChange={(e) => setText(e.target.value)}
            sx={{ width: 140 }}
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
        onAct={keep}
        onCancel={onClose}
      />
    </Dialog>
  );
}

/** The price of an item that moves, with all its decimals; of a pack or the longest length where those have prices. */
function showRate({ rate, soldAs }: CostItem): string {
  const price = soldAs?.packPrice ?? soldAs?.lengthPrices?.at(-1) ?? rate!;
  return showFigure(Number(price), price.split('.')[1]?.length ?? 0);
}

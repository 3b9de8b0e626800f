import { Box, Checkbox, FormControlLabel, MenuItem, TextField } from '@mui/material';
import {
  type CostItem,
  type FormulaNames,
  findClass,
  isRateWorkedOut,
  listShares,
  showClass,
  UNUSUAL_WASTE,
} from '@tally/core';
import { useMemo, useState } from 'react';
import { workOutRate } from '../../store/change-rate.ts';
import { showRate, showSignificant, showUnit } from '../../ui/format.ts';
import { useKept } from '../../ui/kept-state.ts';
import { SheetButton } from '../../ui/sheet-button.tsx';
import type { TableColumn } from '../../ui/virtual-table.tsx';
import { type EditTerms, type ItemField, itemText } from './edit-item.ts';
import { ITEM_COLUMNS, ITEM_COLUMNS_AT_FIRST, ITEM_FIGURES, ITEM_PLAIN, type ItemView } from './item-view.ts';

/** The view of the items as it was left. */
export function useItemView() {
  const [shown, keepShown] = useKept<readonly ItemField[]>('book/item-columns', ITEM_COLUMNS_AT_FIRST);
  const [order, setOrder] = useState<Omit<ItemView, 'shown'>>({ sort: 'code', isDescending: false });
  const view = useMemo((): ItemView => ({ ...order, shown }), [order, shown]);
  const set = ({ shown: next, ...part }: Partial<ItemView>) => {
    if (next) keepShown(next);
    setOrder({ ...order, ...part });
  };
  const sortBy = (sort: ItemView['sort']) => set({ sort, isDescending: view.sort === sort && !view.isDescending });
  return { view, set, sortBy };
}

/** Which columns there are and what the rows are sorted by. */
export function ItemViewButton({
  view,
  onChange,
}: {
  readonly view: ItemView;
  readonly onChange: (part: Partial<ItemView>) => void;
}) {
  return (
    <SheetButton label="Columns" width={420}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 2 }}>
        {ITEM_COLUMNS.filter((f) => f.key !== 'description').map(({ key, heading }) => (
          <FormControlLabel
            key={key}
            label={heading}
            slotProps={{ typography: { sx: { fontSize: 13 } } }}
            control={
              <Checkbox
                size="small"
                checked={view.shown.includes(key)}
                onChange={(e) =>
                  onChange({
                    shown: ITEM_COLUMNS.map((f) => f.key).filter((k) =>
                      k === key ? e.target.checked : view.shown.includes(k),
                    ),
                  })
                }
              />
            }
          />
        ))}
        <TextField
          select
          label="Sorted by"
          value={view.sort}
          onChange={(e) => onChange({ sort: e.target.value as ItemView['sort'], isDescending: false })}
          sx={{ mt: 1.5, gridColumn: '1 / -1' }}
        >
          <MenuItem value="code">Code</MenuItem>
          {ITEM_COLUMNS.map(({ key, heading }) => (
            <MenuItem key={key} value={key}>
              {heading}
            </MenuItem>
          ))}
        </TextField>
      </Box>
    </SheetButton>
  );
}

/** The columns of a view, each typed in like a cell of a spreadsheet. */
export function listColumns(
  view: ItemView,
  terms: EditTerms,
  save: (item: CostItem, field: ItemField, text: string) => Promise<string | null>,
  isOwn: (item: CostItem) => boolean,
  sortBy: (field: ItemView['sort']) => void,
): TableColumn<CostItem>[] {
  const sorted = (key: ItemView['sort']) =>
    view.sort !== key ? undefined : view.isDescending ? 'descending' : 'ascending';
  const columns = ITEM_COLUMNS.filter((f) => view.shown.includes(f.key)).map(
    ({ key, heading, width }): TableColumn<CostItem> => ({
      key,
      heading: `${heading}${key === 'rate' ? ` ${terms.currency}` : ''}`,
      sorted: sorted(key),
      width,
      isFigure: ITEM_FIGURES.includes(key),
      isFaint: !ITEM_PLAIN.includes(key),
      onHeading: () => sortBy(key),
      cell: (i) => <ItemCell item={i} field={key} terms={terms} />,
      text: (i) => itemText(i, key, terms.classification),
      edit: (i) => itemText(i, key, terms.classification),
      save: (i, text) => save(i, key, text),
    }),
  );
  return [
    {
      key: 'code',
      heading: 'Code',
      sorted: sorted('code'),
      width: 104,
      onHeading: () => sortBy('code'),
      cell: (i) =>
        isOwn(i) ? <span title="Of this project, beside or in place of the shared book">{`${i.code} •`}</span> : i.code,
      text: (i) => i.code,
    },
    ...columns,
  ];
}

function ItemCell({
  item,
  field,
  terms,
}: {
  readonly item: CostItem;
  readonly field: ItemField;
  readonly terms: EditTerms;
}) {
  const text = itemText(item, field, terms.classification);
  if (field === 'rate') return <RateCell item={item} names={terms.names} currency={terms.currency} />;
  if (field === 'waste' && (item.wastePercent ?? 0) > UNUSUAL_WASTE)
    return (
      <Box component="span" title="Buys more than twice of what is needed" sx={{ color: 'error.main' }}>
        {text}
      </Box>
    );
  if (field === 'kind' && item.split)
    return (
      <span
        title={listShares(item)
          .map((s) => `${s.kind} ${s.share * 100} %`)
          .join(', ')}
      >{`${text} …`}</span>
    );
  const found = field === 'class' ? findClass(terms.classification, text) : null;
  const shown = field === 'unit' || field === 'soldAs' ? showUnit(text) : text;
  return (
    <span title={found ? showClass(found) : text} style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
      {shown}
    </span>
  );
}

function RateCell({
  item,
  names,
  currency,
}: {
  readonly item: CostItem;
  readonly names: FormulaNames;
  readonly currency: string;
}) {
  if (!isRateWorkedOut(item)) {
    if (item.rate === null) return <>none</>;
    return <>{`${showRate(item.rate)}${item.currency ? ` ${item.currency}` : ''}`}</>;
  }
  const { value, problem } = workOutRate(item, names, currency);
  const shown = problem ? 'fault' : value === null ? 'by element' : `ƒ ${showSignificant(value)}`;
  return <span title={problem?.message ?? item.rateFormula}>{shown}</span>;
}

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
import { useState } from 'react';
import { workOutRate } from '../../api/change-rate.ts';
import { showFigure, showUnit } from '../../ui/format.ts';
import { SheetButton } from '../../ui/sheet-button.tsx';
import type { TableColumn } from '../../ui/virtual-table.tsx';
import { type EditTerms, type ItemField, itemText } from './edit-item.ts';

/** Columns of the items beside their code, with width in px; 0 shares what is left. */
const FIELDS: readonly { readonly key: ItemField; readonly heading: string; readonly width: number }[] = [
  { key: 'description', heading: 'Description', width: 0 },
  { key: 'kind', heading: 'Kind', width: 76 },
  { key: 'unit', heading: 'Unit', width: 44 },
  { key: 'rate', heading: 'Rate', width: 84 },
  { key: 'waste', heading: 'Waste %', width: 70 },
  { key: 'soldAs', heading: 'Sold in', width: 96 },
  { key: 'group', heading: 'Group', width: 78 },
  { key: 'supplier', heading: 'Supplier', width: 84 },
  { key: 'source', heading: 'Source', width: 84 },
  { key: 'date', heading: 'Date', width: 98 },
  { key: 'class', heading: 'Class', width: 64 },
  { key: 'taxClass', heading: 'Tax class', width: 84 },
  { key: 'density', heading: 'Density kg/m³', width: 104 },
  { key: 'split', heading: 'Split %', width: 150 },
  { key: 'notes', heading: 'Notes', width: 200 },
];
const FIGURES: readonly ItemField[] = ['rate', 'waste', 'density'];
const PLAIN: readonly ItemField[] = ['description', ...FIGURES];
const AT_FIRST: readonly ItemField[] = [
  'description', 'kind', 'unit', 'rate', 'waste', 'soldAs', 'group', 'supplier', 'source', 'date', 'class',
]; // biome-ignore format: one list
const KEPT = 'tally.book.columns';

/** Which columns the items show, and by what they are sorted. */
export interface ItemView {
  readonly shown: readonly ItemField[];
  readonly sort: ItemField | 'code';
  readonly isDescending: boolean;
}

/** The view of the items as it was left. */
export function useItemView() {
  const [view, setView] = useState<ItemView>(() => {
    const kept = JSON.parse(localStorage.getItem(KEPT) ?? 'null') as readonly ItemField[] | null;
    return { shown: kept ?? AT_FIRST, sort: 'code', isDescending: false };
  });
  const set = (part: Partial<ItemView>) => {
    if (part.shown) localStorage.setItem(KEPT, JSON.stringify(part.shown));
    setView({ ...view, ...part });
  };
  const sortBy = (sort: ItemView['sort']) => set({ sort, isDescending: view.sort === sort && !view.isDescending });
  return { view, set, sortBy };
}

/** Items in the order of a view; what says nothing in its column comes last. */
export function sortItems(items: readonly CostItem[], { sort, isDescending }: ItemView, terms: EditTerms): CostItem[] {
  const textOf = (i: CostItem) => (sort === 'code' ? i.code : itemText(i, sort, terms.classification));
  const isFigure = sort !== 'code' && FIGURES.includes(sort);
  const keyed = items.map((item) => {
    const text = textOf(item);
    const figure =
      sort === 'rate' ? (workOutRate(item, terms.names, terms.currency).value ?? Number.NaN) : Number(text);
    return { item, text, figure, isEmpty: isFigure ? text === '' && Number.isNaN(figure) : text === '' };
  });
  const turn = isDescending ? -1 : 1;
  keyed.sort(
    (a, b) =>
      Number(a.isEmpty) - Number(b.isEmpty) ||
      turn * (isFigure ? compareFigures(a.figure, b.figure) : a.text.localeCompare(b.text, 'en', { numeric: true })) ||
      a.item.code.localeCompare(b.item.code, 'en', { numeric: true }),
  );
  return keyed.map((k) => k.item);
}

/** Rates that each element has for itself come after plain ones. */
const compareFigures = (a: number, b: number) =>
  Number.isNaN(a) || Number.isNaN(b) ? Number(Number.isNaN(a)) - Number(Number.isNaN(b)) : a - b;

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
        {FIELDS.filter((f) => f.key !== 'description').map(({ key, heading }) => (
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
                    shown: FIELDS.map((f) => f.key).filter((k) =>
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
          {FIELDS.map(({ key, heading }) => (
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
  const mark = (key: ItemView['sort']) => (view.sort === key ? (view.isDescending ? ' ↓' : ' ↑') : '');
  const columns = FIELDS.filter((f) => view.shown.includes(f.key)).map(
    ({ key, heading, width }): TableColumn<CostItem> => ({
      key,
      heading: `${heading}${key === 'rate' ? ` ${terms.currency}` : ''}${mark(key)}`,
      width,
      isFigure: FIGURES.includes(key),
      isFaint: !PLAIN.includes(key),
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
      heading: `Code${mark('code')}`,
      width: 88,
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
    return <>{`${showFigure(Number(item.rate), 2)}${item.currency ? ` ${item.currency}` : ''}`}</>;
  }
  const { value, problem } = workOutRate(item, names, currency);
  const shown = problem ? 'fault' : value === null ? 'by element' : `ƒ ${showFigure(value, 2)}`;
  return <span title={problem?.message ?? item.rateFormula}>{shown}</span>;
}

import SearchIcon from '@mui/icons-material/Search';
import { Box, Button, InputAdornment, MenuItem, TextField } from '@mui/material';
import { type CostItem, type FormulaNames, foldText, isRateWorkedOut } from '@tally/core';
import { useMemo, useState } from 'react';
import { workOutRate } from '../../api/change-rate.ts';
import { useFormulaNames, useProjectState } from '../../api/project-context.tsx';
import { useChange } from '../../api/use-change.ts';
import { showFigure, showUnit } from '../../ui/format.ts';
import { type TableColumn, type TableEdit, VirtualTable } from '../../ui/virtual-table.tsx';
import { editItem, editItems, type ItemField, itemText } from './edit-item.ts';
import { ItemDialog } from './item-dialog.tsx';
import { ItemPanel } from './item-panel.tsx';
import { MoveRatesDialog } from './move-rates-dialog.tsx';

const ALL = '';

/** Cost items as a grid that is typed in like a spreadsheet, with the chosen one's uses and past below. */
export function ItemsPane({ wanted }: { readonly wanted: string | null }) {
  const { project, basis, book } = useProjectState();
  const [filter, setFilter] = useState('');
  const [group, setGroup] = useState(ALL);
  const [selected, setSelected] = useState<string | null>(wanted);
  const [isAdding, setAdding] = useState<CostItem | null>(null);
  const [isMoving, setMoving] = useState(false);
  const change = useChange(project.id);
  const names = useFormulaNames();
  const { currency } = basis.settings;
  const groups = useMemo(
    () => [...new Set(basis.items.flatMap((i) => (i.group ? [i.group] : [])))].sort(),
    [basis.items],
  );
  const rows = useMemo(() => {
    const text = foldText(filter);
    return basis.items.filter(
      (i) =>
        (group === ALL || i.group === group) &&
        (text === '' || foldText([i.code, i.description, i.group, i.supplier, i.kind].join(' ')).includes(text)),
    );
  }, [basis.items, filter, group]);
  const save = async (item: CostItem, field: ItemField, text: string): Promise<string | null> => {
    const made = editItem(item, field, text, names, currency);
    if (typeof made === 'string') return made;
    const diff = { updated: [{ kind: 'item', id: item.code, from: item, to: made.to }] };
    await change.mutateAsync({ cause: made.cause, diff }).catch(() => undefined);
    return null;
  };
  const paste = async (edits: readonly TableEdit<CostItem>[]): Promise<string | null> => {
    const made = editItems(
      edits.map(({ row, column, text }) => ({ item: row, field: column as ItemField, text })),
      names,
      currency,
    );
    if (typeof made === 'string') return made;
    if (made.length === 0) return null;
    const diff = { updated: made.map(({ from, to }) => ({ kind: 'item', id: from.code, from, to })) };
    await change
      .mutateAsync({ cause: `Pasted into ${made.length === 1 ? 'one item' : `${made.length} items`}`, diff })
      .catch(() => undefined);
    return null;
  };
  const own = new Set(book?.own ?? []);
  const columns = listColumns(currency, names, save, (i) => own.has(`item/${i.code}`));
  const chosen = basis.items.find((i) => i.code === selected);
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <TextField
          placeholder="Filter items"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
          slotProps={{
            htmlInput: { 'aria-label': 'Filter items' },
            input: {
              startAdornment: (
                <InputAdornment position="start">
                  <SearchIcon fontSize="small" />
                </InputAdornment>
              ),
            },
          }}
          sx={{ width: 220 }}
        />
        <TextField
          select
          value={group}
          onChange={(e) => setGroup(e.target.value)}
          slotProps={{ select: { displayEmpty: true }, htmlInput: { 'aria-label': 'Group' } }}
          sx={{ width: 170 }}
        >
          <MenuItem value={ALL}>All groups</MenuItem>
          {groups.map((g) => (
            <MenuItem key={g} value={g}>
              {g}
            </MenuItem>
          ))}
        </TextField>
        <Box sx={{ flex: 1 }} />
        <Button color="inherit" component="a" href={`/api/projects/${project.id}/book.xlsx`} download>
          Save as XLSX
        </Button>
        <Button color="inherit" disabled={rows.length === 0} onClick={() => setMoving(true)}>
          Move rates
        </Button>
        {chosen && <Button onClick={() => setAdding({ ...chosen, code: `${chosen.code}-2` })}>Duplicate</Button>}
        <Button
          variant="contained"
          onClick={() => setAdding({ code: '', description: '', kind: 'material', unit: 'm2', rate: null })}
        >
          New item
        </Button>
      </Box>
      <VirtualTable
        label="Cost items"
        rows={rows}
        columns={columns}
        rowId={(i) => i.code}
        selectedId={selected}
        onSelect={(i) => setSelected(i.code)}
        onPaste={paste}
        isMarked={(i) => i.rate === null && !isRateWorkedOut(i)}
      />
      {chosen && <ItemPanel item={chosen} />}
      {isMoving && <MoveRatesDialog items={rows} onClose={() => setMoving(false)} />}
      {isAdding && <ItemDialog item={isAdding} onClose={() => setAdding(null)} />}
    </>
  );
}

function listColumns(
  currency: string,
  names: FormulaNames,
  save: (item: CostItem, field: ItemField, text: string) => Promise<string | null>,
  isOwn: (item: CostItem) => boolean,
): TableColumn<CostItem>[] {
  const field = (key: ItemField, heading: string, width: number, more: Partial<TableColumn<CostItem>> = {}) => ({
    key,
    heading,
    width,
    cell: (i: CostItem) => {
      const text = itemText(i, key);
      return (
        <span title={text} style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
          {key === 'unit' || key === 'soldAs' ? showUnit(text) : text}
        </span>
      );
    },
    text: (i: CostItem) => itemText(i, key),
    edit: (i: CostItem) => itemText(i, key),
    save: (i: CostItem, text: string) => save(i, key, text),
    ...more,
  });
  const rate = (i: CostItem) => {
    if (!isRateWorkedOut(i))
      return i.rate === null ? 'none' : `${showFigure(Number(i.rate), 2)}${i.currency ? ` ${i.currency}` : ''}`;
    const { value, problem } = workOutRate(i, names, currency);
    return (
      <span title={problem?.message ?? itemText(i, 'rate')}>
        {problem ? 'fault' : value === null ? 'by element' : `ƒ ${showFigure(value, 2)}`}
      </span>
    );
  };
  return [
    {
      key: 'code',
      heading: 'Code',
      width: 96,
      cell: (i) =>
        isOwn(i) ? <span title="Of this project, beside or in place of the shared book">{`${i.code} •`}</span> : i.code,
      text: (i) => i.code,
    },
    field('description', 'Description', 0),
    field('kind', 'Kind', 82, { isFaint: true }),
    field('unit', 'Unit', 48, { isFaint: true }),
    field('rate', `Rate ${currency}`, 88, { isFigure: true, cell: rate }),
    field('waste', 'Waste %', 64, { isFigure: true }),
    field('soldAs', 'Sold in', 110, { isFaint: true }),
    field('group', 'Group', 90, { isFaint: true }),
    field('supplier', 'Supplier', 100, { isFaint: true }),
    field('source', 'Source', 98, { isFaint: true }),
    field('date', 'Date', 92, { isFaint: true }),
  ];
}

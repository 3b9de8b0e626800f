import SearchIcon from '@mui/icons-material/Search';
import { Box, Button, InputAdornment, Tab, Tabs, TextField } from '@mui/material';
import { type CostItem, costItemSchema, findCodeUses, foldText, ITEM_KINDS, readSoldAs, showSoldAs } from '@tally/core';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { changeRate, rateText, workOutRate } from '../../api/change-rate.ts';
import { useFormulaNames, useProjectState } from '../../api/project-context.tsx';
import { useChange } from '../../api/use-change.ts';
import { readFigure, showFigure, showUnit } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { AssemblyPane } from './assembly-pane.tsx';
import { ItemDialog } from './item-dialog.tsx';
import { MoveRatesDialog } from './move-rates-dialog.tsx';
import { ScalesPane } from './scales-pane.tsx';
import { SheetsPane } from './sheets-pane.tsx';
import { useBook } from './use-book.ts';
import { ValuesPane } from './values-pane.tsx';

const TABS = ['item', 'assembly', 'value', 'scale', 'sheet'] as const;
type BookTab = (typeof TABS)[number];

/** The book of the project: cost items in a grid, assemblies as recipes, named values, scales. */
export function BookPage() {
  const { basis } = useProjectState();
  const [params, setParams] = useSearchParams();
  const tab: BookTab = TABS.find((t) => params.get(t) !== null) ?? 'item';
  const choose = (of: BookTab) => (id: string | null) => setParams({ [of]: id ?? '' });
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', px: 1.5, pb: 1.5, gap: 1 }}>
      <Tabs
        value={tab}
        onChange={(_, next: BookTab) => setParams(next === 'item' ? {} : { [next]: '' })}
        sx={{ minHeight: 40, '& .MuiTab-root': { minHeight: 40, textTransform: 'none', fontSize: 14 } }}
      >
        <Tab value="item" label={`Cost items ${basis.items.length}`} />
        <Tab value="assembly" label={`Assemblies ${basis.assemblies.length}`} />
        <Tab value="value" label={`Named values ${basis.values.length}`} />
        <Tab value="scale" label={`Scales ${basis.scales.length}`} />
        <Tab value="sheet" label="Price sheets" />
      </Tabs>
      {tab === 'item' && <Items wanted={params.get('item')} />}
      {tab === 'assembly' && <AssemblyPane code={params.get('assembly') ?? ''} onChoose={choose('assembly')} />}
      {tab === 'value' && <ValuesPane name={params.get('value') ?? ''} onChoose={choose('value')} />}
      {tab === 'sheet' && <SheetsPane />}
      {tab === 'scale' && <ScalesPane name={params.get('scale') ?? ''} onChoose={choose('scale')} />}
    </Box>
  );
}

function Items({ wanted }: { readonly wanted: string | null }) {
  const { project, basis } = useProjectState();
  const [filter, setFilter] = useState('');
  const [selected, setSelected] = useState<string | null>(wanted);
  const [isAdding, setAdding] = useState<CostItem | null>(null);
  const [isMoving, setMoving] = useState(false);
  const change = useChange(project.id);
  const names = useFormulaNames();
  const { currency } = basis.settings;
  const rows = useMemo(() => {
    const text = foldText(filter);
    return basis.items.filter(
      (i) => text === '' || foldText([i.code, i.description, i.group, i.supplier, i.kind].join(' ')).includes(text),
    );
  }, [basis.items, filter]);
  const save = async (item: CostItem, to: CostItem, cause: string): Promise<string | null> => {
    const checked = costItemSchema.safeParse(to);
    if (!checked.success) return checked.error.issues[0]!.message;
    await change
      .mutateAsync({
        cause,
        diff: { updated: [{ kind: 'item', id: item.code, from: item, to: JSON.parse(JSON.stringify(to)) }] },
      })
      .catch(() => undefined);
    return null;
  };
  const text = (
    key: 'description' | 'supplier' | 'source' | 'group',
    heading: string,
    width: number,
  ): TableColumn<CostItem> => ({
    key,
    heading,
    width,
    isFaint: key !== 'description',
    cell: (i) => (
      <span title={i[key]} style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
        {i[key] ?? ''}
      </span>
    ),
    text: (i) => i[key] ?? '',
    edit: (i) => i[key] ?? '',
    save: (i, value) =>
      save(
        i,
        { ...i, [key]: value.trim() || (key === 'description' ? '' : undefined) },
        `${heading} of ${i.code} changed`,
      ),
  });
  const columns: TableColumn<CostItem>[] = [
    { key: 'code', heading: 'Code', width: 96, cell: (i) => i.code },
    text('description', 'Description', 0),
    {
      key: 'kind',
      heading: 'Kind',
      width: 92,
      isFaint: true,
      cell: (i) => i.kind,
      edit: (i) => i.kind,
      save: (i, kind) =>
        ITEM_KINDS.includes(kind.trim() as CostItem['kind'])
          ? save(i, { ...i, kind: kind.trim() as CostItem['kind'] }, `Kind of ${i.code} changed`)
          : `Write one of ${ITEM_KINDS.join(', ')}.`,
    },
    {
      key: 'unit',
      heading: 'Unit',
      width: 52,
      isFaint: true,
      cell: (i) => showUnit(i.unit),
      edit: (i) => i.unit,
      save: (i, unit) => save(i, { ...i, unit: unit.trim() }, `Unit of ${i.code} ${i.unit} > ${unit.trim()}`),
    },
    {
      key: 'rate',
      heading: `Rate ${currency}`,
      width: 96,
      isFigure: true,
      cell: (i) => {
        if (i.rateFormula === undefined) return i.rate === null ? 'none' : showFigure(Number(i.rate), 2);
        const { value, problem } = workOutRate(i, names, currency);
        return (
          <span title={problem?.message ?? i.rateFormula}>
            {problem ? 'fault' : value === null ? 'by element' : `ƒ ${showFigure(value, 2)}`}
          </span>
        );
      },
      edit: rateText,
      save: async (i, value) => {
        const made = changeRate(i, value, names, currency);
        if (typeof made === 'string') return made;
        await change.mutateAsync(made).catch(() => undefined);
        return null;
      },
    },
    {
      key: 'waste',
      heading: 'Waste %',
      width: 70,
      isFigure: true,
      cell: (i) => (i.wastePercent === undefined ? '' : String(i.wastePercent)),
      edit: (i) => String(i.wastePercent ?? ''),
      save: (i, value) => {
        const figure = value.trim() === '' ? 0 : readFigure(value);
        if (figure === null) return `"${value}" is no percentage.`;
        const { wastePercent: _, ...rest } = i;
        return save(
          i,
          figure === 0 ? rest : { ...rest, wastePercent: figure },
          `Waste of ${i.code} ${i.wastePercent ?? 0} > ${figure} %`,
        );
      },
    },
    {
      key: 'soldAs',
      heading: 'Sold in',
      width: 120,
      isFaint: true,
      cell: (i) => {
        const words = showSoldAs(i.soldAs, i.unit);
        return (
          <span title={words} style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
            {showUnit(words)}
          </span>
        );
      },
      text: (i) => showSoldAs(i.soldAs, i.unit),
      edit: (i) => showSoldAs(i.soldAs, i.unit),
      save: (i, typed) => {
        const sold = readSoldAs(typed);
        if (!sold.ok) return `${sold.problem.message} ${sold.problem.remedy ?? ''}`;
        const { soldAs: _, ...rest } = i;
        const to: CostItem = sold.value ? { ...rest, soldAs: sold.value } : rest;
        return save(i, to, `${i.code} sold ${showSoldAs(to.soldAs, i.unit) || 'in any amount'}`);
      },
    },
    text('supplier', 'Supplier', 120),
    text('source', 'Source', 120),
    { key: 'date', heading: 'Date', width: 92, isFaint: true, cell: (i) => i.date ?? '' },
  ];
  const book = useBook();
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
          sx={{ width: 260 }}
        />
        <Box
          sx={{
            flex: 1,
            fontSize: 13,
            color: 'text.secondary',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            whiteSpace: 'nowrap',
          }}
        >
          {chosen
            ? `${chosen.code} is used in: ${
                findCodeUses(chosen.code, book)
                  .map((u) => u.label)
                  .join(', ') || 'nothing yet'
              }`
            : 'Double click or Enter edits a cell.'}
        </Box>
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
        isMarked={(i) => i.rate === null && i.rateFormula === undefined}
      />
      {isMoving && <MoveRatesDialog items={rows} onClose={() => setMoving(false)} />}
      {isAdding && <ItemDialog item={isAdding} onClose={() => setAdding(null)} />}
    </>
  );
}

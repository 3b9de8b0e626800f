import SearchIcon from '@mui/icons-material/Search';
import { Box, Button, InputAdornment, MenuItem, TextField } from '@mui/material';
import { type CostItem, foldText, isRateWorkedOut } from '@tally/core';
import { useEffect, useMemo, useState } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useClassification, useRateNames } from '../../store/use-elements.ts';
import { showFigure } from '../../ui/format.ts';
import { useKept } from '../../ui/kept-state.ts';
import { useLatest } from '../../ui/use-latest.ts';
import { useQuestion } from '../../ui/use-question.tsx';
import { type TableEdit, VirtualTable } from '../../ui/virtual-table.tsx';
import { questionWaste } from './ask-waste.ts';
import { useIsOwn } from './back-to-book.tsx';
import { editItem, editItems, type ItemField, isWasteUnusual } from './edit-item.ts';
import { ItemViewButton, listColumns, useItemView } from './item-columns.tsx';
import { ItemDialog } from './item-dialog.tsx';
import { ItemPanel } from './item-panel.tsx';
import { sortItems } from './item-view.ts';
import { MoveRatesDialog } from './move-rates-dialog.tsx';

const ALL = '';

/** Cost items as a grid that is typed in like a spreadsheet, with the chosen one's uses and past below. */
export function ItemsPane({ wanted }: { readonly wanted: string | null }) {
  const { project } = useProjectState('project');
  const basis = useBasis('items', 'settings');
  const classification = useClassification();
  const { view, set, sortBy } = useItemView();
  const { ask, dialog } = useQuestion();
  const [filter, setFilter] = useKept(`${project.id}/items/filter`, '');
  const [group, setGroup] = useKept(`${project.id}/items/group`, ALL);
  const [selected, setSelected] = useState<string | null>(wanted);
  const [isAdding, setAdding] = useState<CostItem | null>(null);
  // One that is asked for must not be hidden by what one looked for before.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when another one is asked for
  useEffect(() => {
    if (wanted === null) return;
    setSelected(wanted);
    setFilter('');
    setGroup(ALL);
  }, [wanted]);
  const [isMoving, setMoving] = useState(false);
  const change = useCommit(project.id);
  const names = useRateNames();
  const { currency } = basis.settings;
  const terms = useMemo(() => ({ names, currency, classification }), [names, currency, classification]);
  const groups = useMemo(
    () => [...new Set(basis.items.flatMap((i) => (i.group ? [i.group] : [])))].sort(),
    [basis.items],
  );
  const rows = useMemo(() => {
    const text = foldText(filter);
    const kept = basis.items.filter(
      (i) =>
        (group === ALL || i.group === group) &&
        (text === '' || foldText([i.code, i.description, i.group, i.supplier, i.kind].join(' ')).includes(text)),
    );
    return sortItems(kept, view, terms);
  }, [basis.items, filter, group, view, terms]);
  const save = useLatest(async (item: CostItem, field: ItemField, text: string): Promise<string | null> => {
    const made = editItem(item, field, text, terms);
    if (typeof made === 'string') return made;
    const { wastePercent = 0 } = made.to;
    if (isWasteUnusual(item, made.to) && !(await ask(questionWaste(wastePercent, item.code))))
      return 'Correct the waste.';
    const diff = { updated: [{ kind: 'item', id: item.code, from: item, to: made.to }] };
    return refusalOf(change.mutateAsync({ cause: made.cause, diff }));
  });
  const paste = async (edits: readonly TableEdit<CostItem>[]): Promise<string | null> => {
    const made = editItems(
      edits.map(({ row, column, text }) => ({ item: row, field: column as ItemField, text })),
      terms,
    );
    if (typeof made === 'string') return made;
    if (made.length === 0) return null;
    const unusual = made.find(({ from, to }) => isWasteUnusual(from, to));
    if (unusual && !(await ask(questionWaste(unusual.to.wastePercent!, unusual.to.code))))
      return `Nothing was put in. Correct the waste of ${unusual.to.code}.`;
    const diff = { updated: made.map(({ from, to }) => ({ kind: 'item', id: from.code, from, to })) };
    const cause = `Pasted into ${made.length === 1 ? 'one item' : `${made.length} items`}`;
    return refusalOf(change.mutateAsync({ cause, diff }));
  };
  const isOwn = useIsOwn();
  const sort = useLatest(sortBy);
  // The same columns as long as they read the same: rows are not drawn again for a click.
  const columns = useMemo(
    () => listColumns(view, terms, save, (i) => isOwn('item', i.code), sort),
    [view, terms, save, isOwn, sort],
  );
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
        <ItemViewButton view={view} onChange={set} />
        <Box sx={{ flex: 1 }} />
        {(['csv', 'xlsx'] as const).map((kind) => (
          <Button
            key={kind}
            color="inherit"
            component="a"
            href={`/api/projects/${project.id}/book.${kind}`}
            download
            aria-label={`Save as ${kind.toUpperCase()}`}
          >
            {kind.toUpperCase()}
          </Button>
        ))}
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
        hasOwnColumns
        label="Cost items"
        keep={`${project.id}/items`}
        rows={rows}
        columns={columns}
        rowId={(i) => i.code}
        selectedId={selected}
        onSelect={(i) => setSelected(i.code)}
        onPaste={paste}
        isMarked={(i) => i.rate === null && !isRateWorkedOut(i)}
      />
      {rows.length < basis.items.length && (
        <Box sx={{ fontSize: 13, color: 'text.secondary', display: 'flex', alignItems: 'center', gap: 1 }}>
          {rows.length === 0
            ? 'Nothing fits'
            : `${showFigure(rows.length, 0)} of ${showFigure(basis.items.length, 0)} items`}
          <Button
            onClick={() => {
              setFilter('');
              setGroup(ALL);
            }}
          >
            Show all
          </Button>
        </Box>
      )}
      {chosen && <ItemPanel item={chosen} />}
      {dialog}
      {isMoving && <MoveRatesDialog items={rows} onClose={() => setMoving(false)} />}
      {isAdding && <ItemDialog item={isAdding} onClose={() => setAdding(null)} />}
    </>
  );
}

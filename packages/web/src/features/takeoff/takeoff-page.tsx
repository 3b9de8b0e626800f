import { Box, Button, Checkbox, FormControlLabel, LinearProgress, MenuItem, Select, TextField } from '@mui/material';
import {
  buildTakeoffTable,
  type CellValue,
  type FinishSurface,
  listTakeoffFields,
  type NamedScope,
  type OutlineTable,
  resolveScope,
  type TableLine,
  type TakeoffField,
  type TakeoffView,
  viewSchema,
} from '@tally/core';
import { useDeferredValue, useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { askAttribute, changeFinish, readAttribute } from '../../store/change-layer.ts';
import { usePageView } from '../../store/page-view.ts';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useSelection } from '../../store/selection.tsx';
import { refusalOf, useCommit, useProblemNotice } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { useSaveTable } from '../../store/use-save-table.ts';
import { copyText } from '../../ui/copy-text.ts';
import { Empty } from '../../ui/empty.tsx';
import type { UnitSystem } from '../../ui/format.ts';
import { hideClosed } from '../../ui/hide-closed.ts';
import { useKept } from '../../ui/kept-state.ts';
import { saveText, toCsv } from '../../ui/save-file.ts';
import { ShowInModel } from '../../ui/show-in-model.tsx';
import { useClosed } from '../../ui/use-closed.ts';
import { useLatest } from '../../ui/use-latest.ts';
import { useOneAtATime } from '../../ui/use-one-at-a-time.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { readStep, showColumnFigure, showColumnUnit, writeColumnFigure, writeColumnUnit } from './column-units.ts';
import { LeftOut } from './left-out.tsx';
import { READY_VIEWS } from './ready-views.ts';
import { useOnlyKeys } from './use-only-keys.ts';
import { ViewBar } from './view-bar.tsx';

const ADDED = 'property:Added.';
const FINISH = 'finish:';

function showValue(value: CellValue, field: TakeoffField, view: TakeoffView, system: UnitSystem): string {
  if (value === null) return '';
  if (typeof value === 'string' || field.unit === null) return String(value);
  return showColumnFigure(value, field, specOf(view, field), system);
}

const specOf = (view: TakeoffView, field: TakeoffField) => view.columns.find((c) => c.field === field.id);

function headingOf(field: TakeoffField, view: TakeoffView, system: UnitSystem): string {
  const spec = specOf(view, field);
  const unit = showColumnUnit(field, spec, system);
  return `${spec?.heading ?? field.heading}${unit ? ` ${unit}` : ''}`;
}

/** What a field means, with its name in IFC where that is another one. */
const hintOf = ({ heading, hint, ifcName }: TakeoffField): string | undefined =>
  [...(hint === undefined ? [] : [hint]), ...(ifcName === undefined || ifcName === heading ? [] : [ifcName])].join(
    ' · ',
  ) || undefined;

const FIRST_TABLE: { readonly viewId: string; readonly view: TakeoffView } = { viewId: '0', view: READY_VIEWS[0]! };
const FIRST_PAGE = { table: '0' };
const NO_SCOPES: readonly NamedScope[] = [];
const NO_KEYS: ReadonlySet<number> = new Set();

/** Quantities as a table: what a row is, which rows, columns and groups are chosen here; rows and model share the selection. */
export function TakeoffPage() {
  const { project, layer, views } = useProjectState('project', 'layer', 'views');
  const basis = useBasis('settings');
  const { models, tables, isLoading } = useElements();
  const { keys, select, frame } = useSelection();
  const navigate = useNavigate();
  const change = useCommit(project.id);
  const notice = useProblemNotice();
  const saveTable = useSaveTable(project.id);
  const [kept, keepTable] = useKept(`${project.id}/takeoff/table`, FIRST_TABLE);
  const { viewId } = kept;
  const view = useMemo(() => (viewSchema.safeParse(kept.view).success ? kept.view : FIRST_TABLE.view), [kept.view]);
  const setView = (next: TakeoffView) => keepTable((now) => ({ ...now, view: next }));
  const [{ table: linked }, changePage] = usePageView('takeoff', FIRST_PAGE);
  const [isSelectionOnly, setSelectionOnly] = useState(false);
  const { closed, toggle, openAll } = useClosed(`${project.id}/takeoff`);
  const [chosenId, setChosenId] = useState<string | null>(null);
  const system = basis.settings.units;
  const fields = useMemo(() => listTakeoffFields(tables, view.row, view.within), [tables, view.row, view.within]);
  const shownView = useDeferredValue(view);
  const only = useOnlyKeys(view.only);
  const { scopes = NO_SCOPES } = useBasis('scopes');
  const limited = useMemo(
    () =>
      only === null
        ? NO_KEYS
        : only && isSelectionOnly
          ? new Set([...keys].filter((key) => only.has(key)))
          : (only ?? (isSelectionOnly ? keys : undefined)),
    [only, isSelectionOnly, keys],
  );
  const limit = useDeferredValue(limited);
  const table = useMemo(
    () =>
      buildTakeoffTable(tables, fields, {
        ...shownView,
        scope: shownView.scope && resolveScope(shownView.scope, scopes),
        columns: shownView.columns.map((c) => c.field),
        keys: limit,
        stepOf: (f) => readStep(f, specOf(shownView, f), system),
      }),
    [tables, fields, shownView, scopes, limit, system],
  );
  const lines = useMemo(() => hideClosed(table.lines, closed), [table.lines, closed]);

  const load = (id: string) => {
    keepTable({ viewId: id, view: views[id] ?? READY_VIEWS[Number(id)] ?? READY_VIEWS[0]! });
    changePage({ table: id });
    openAll();
  };
  // A link names its table.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the address changes
  useEffect(() => {
    if (linked !== viewId) load(linked);
  }, [linked]);
  const saveView = async (name: string): Promise<string | null> => {
    const body = viewSchema.parse({ ...view, name });
    const known = Object.entries(views).find(([, v]) => v.name === name);
    const id = known?.[0] ?? `view-${crypto.randomUUID().slice(0, 8)}`;
    const diff = known
      ? { updated: [{ kind: 'view', id, from: known[1], to: body }] }
      : { added: [{ kind: 'view', id, body }] };
    const refused = await refusalOf(change.mutateAsync({ cause: `Table saved: ${name}`, diff }));
    if (refused !== null) return refused;
    keepTable({ viewId: id, view: body });
    changePage({ table: id });
    return null;
  };
  const removeView = () => {
    change.mutate({
      cause: `Table removed: ${view.name}`,
      diff: { removed: [{ kind: 'view', id: viewId, body: views[viewId] }] },
    });
    load('0');
  };
  const sortBy = useLatest((id: string) =>
    setView({
      ...view,
      sort:
        view.sort?.field === id
          ? view.sort.isDescending
            ? null
            : { field: id, isDescending: true }
          : { field: id, isDescending: false },
    }),
  );
  const edit = useLatest(
    (field: TakeoffField, line: TableLine, text: string): string | null | Promise<string | null> => {
      const keysOf = [...line.keys];
      if (field.id.startsWith(FINISH)) {
        const name = text.trim() === '' || text.trim() === 'none assigned' ? null : text.trim();
        return refusalOf(
          change.mutateAsync(changeFinish(layer, keysOf, field.id.slice(FINISH.length) as FinishSurface, name)),
        );
      }
      const unclear = askAttribute(text);
      if (unclear !== null) return unclear;
      const [name, value = null] = [field.id.slice(ADDED.length), readAttribute(text)];
      return refusalOf(change.mutateAsync({ keys: keysOf, name, value }));
    },
  );
  // The same columns as long as they read the same: rows are not drawn again for a click.
  const columns = useMemo(
    () =>
      table.columns.map((field, i): TableColumn<TableLine> => {
        const isEditable = field.id.startsWith(ADDED) || (field.id.startsWith(FINISH) && view.row === 'room');
        const cell = (line: TableLine) => showValue(line.cells[i]!, field, view, system);
        return {
          key: field.id,
          heading: headingOf(field, view, system),
          sorted: view.sort?.field !== field.id ? undefined : view.sort.isDescending ? 'descending' : 'ascending',
          hint: hintOf(field),
          width: i === 0 ? 0 : field.unit === null ? 150 : system === 'both' ? 150 : 112,
          isFigure: field.unit !== null,
          onHeading: () => sortBy(field.id),
          cell: (line) =>
            i === 0 && line.kind === 'group'
              ? `${closed.has(line.id) ? '▸' : '▾'} ${line.label} (${line.count})`
              : cell(line),
          text: (line) =>
            i === 0 && line.kind === 'group'
              ? line.label
              : typeof line.cells[i] === 'number'
                ? writeColumnFigure(line.cells[i], field, specOf(view, field), system)
                : cell(line),
          ...(isEditable
            ? {
                edit: (line: TableLine) => (line.kind === 'row' ? String(line.cells[i] ?? '') : null),
                save: (line: TableLine, text: string) => edit(field, line, text),
              }
            : {}),
        };
      }),
    [table.columns, view, system, closed, sortBy, edit],
  );
  const listHeadings = () =>
    table.columns.map((f) => {
      const unit = writeColumnUnit(f, specOf(view, f), system);
      return `${specOf(view, f)?.heading ?? f.heading}${unit ? ` ${unit}` : ''}`;
    });
  const cellOf = (value: CellValue, field: TakeoffField): string | number | null =>
    typeof value === 'number' ? Number(writeColumnFigure(value, field, specOf(view, field), system)) : value;
  const saveXlsx = async () => {
    const rows = table.lines.map((l) =>
      l.cells.map((v, i) => (i === 0 && l.kind === 'group' ? l.label : cellOf(v, table.columns[i]!))),
    );
    const totals = table.totals.map((v, i) => (i === 0 ? 'Total' : cellOf(v, table.columns[i]!)));
    const body: OutlineTable = {
      name: view.name,
      columns: listHeadings(),
      rows: [...rows, totals],
      levels: [...table.lines.map((l) => l.level), 0],
      heads: [...table.lines.map((l) => l.kind === 'group'), false],
      sums: table.columns.flatMap((f, i) => (f.aggregate === 'sum' && i > 0 ? [i] : [])),
    };
    await saveTable(`${project.name} ${view.name}`, body);
  };
  /** The table as it is copied and saved: headings, lines, totals. */
  const listCells = () => [
    listHeadings(),
    ...table.lines.map((l) => columns.map((c) => c.text!(l))),
    table.totals.map((v, i) =>
      i === 0
        ? 'Total'
        : typeof v === 'number'
          ? writeColumnFigure(v, table.columns[i]!, specOf(view, table.columns[i]!), system)
          : '',
    ),
  ];
  if (!isLoading && models.length === 0) {
    return (
      <Empty title="Nothing to take off yet">
        <span>Quantities come from a model.</span>
        <Button variant="contained" onClick={() => navigate(`/projects/${project.id}/sources`)}>
          Bring a model
        </Button>
      </Empty>
    );
  }
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
      <Box
        role="toolbar"
        aria-label="Table"
        sx={{ display: 'flex', gap: 0.5, alignItems: 'center', '& .MuiButton-root': { px: 1, minWidth: 0 } }}
      >
        <Select
          value={viewId}
          onChange={(e) => load(e.target.value)}
          inputProps={{ 'aria-label': 'Table' }}
          sx={{ fontSize: 13, width: 190, flexShrink: 1, minWidth: 110 }}
        >
          {READY_VIEWS.map((v, i) => (
            <MenuItem key={v.name} value={String(i)}>
              {v.name}
            </MenuItem>
          ))}
          {Object.entries(views).map(([id, v]) => (
            <MenuItem key={id} value={id}>
              {v.name}
            </MenuItem>
          ))}
        </Select>
        <ViewBar
          view={view}
          onChange={(c) => setView({ ...view, ...c })}
          fields={fields}
          tables={tables}
          limits={layer.limits.map((l) => l.name)}
        />
        <FormControlLabel
          control={
            <Checkbox size="small" checked={isSelectionOnly} onChange={(e) => setSelectionOnly(e.target.checked)} />
          }
          label="Selection"
          slotProps={{ typography: { sx: { fontSize: 13 }, noWrap: true } }}
          sx={{ mr: 0 }}
        />
        <Box sx={{ flex: 1 }} />
        <SaveView key={viewId} name={view.name} onSave={saveView} />
        {views[viewId] && (
          <Button color="inherit" onClick={removeView}>
            Remove
          </Button>
        )}
        <Button
          onClick={() =>
            copyText(
              listCells()
                .map((l) => l.join('\t'))
                .join('\n'),
            ).catch(notice)
          }
        >
          Copy
        </Button>
        <Button onClick={() => saveText(`${project.name} ${view.name}.csv`, toCsv(listCells()))}>CSV</Button>
        <Button onClick={() => void saveXlsx()}>XLSX</Button>
        <ShowInModel
          isOff={keys.size === 0}
          onClick={() => {
            frame();
            navigate(`/projects/${project.id}/model`);
          }}
        />
      </Box>
      {!isLoading && (
        <LeftOut
          view={view}
          fields={fields}
          tables={tables}
          limits={layer.limits.map((l) => l.name)}
          onChange={(c) => setView({ ...view, ...c })}
        />
      )}
      {only === null && <LinearProgress aria-label="Looking which elements these are" />}
      <VirtualTable
        hasOwnColumns
        label="Takeoff"
        keep={`${project.id}/takeoff`}
        rows={lines}
        columns={columns}
        rowId={(l) => l.id}
        level={(l) => l.level}
        isGroup={(l) => l.kind === 'group'}
        selectedId={chosenId}
        onSelect={(l) => {
          setChosenId(l.id);
          select(l.keys);
        }}
        onOpen={(l) => {
          if (l.kind === 'group') return toggle(l.id);
          frame();
          navigate(`/projects/${project.id}/model`);
        }}
        footerCells={(c) => {
          const at = table.columns.findIndex((f) => f.id === c.key);
          if (at === 0) return `Total of ${table.count}`;
          return at < 0 ? '' : showValue(table.totals[at] ?? null, table.columns[at]!, view, system);
        }}
      />
    </Box>
  );
}

function SaveView({
  name,
  onSave,
}: {
  readonly name: string;
  /** Says why it was refused; null when it is saved. */
  readonly onSave: (name: string) => Promise<string | null>;
}) {
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  // What is refused stays as it was typed.
  const save = useOneAtATime(async (typed: string) => {
    const refused = await onSave(typed);
    setProblem(refused);
    if (refused === null) setText(null);
  });
  if (text === null)
    return (
      <Button
        color="inherit"
        onClick={() => {
          setProblem(null);
          setText(name);
        }}
      >
        Save
      </Button>
    );
  return (
    <TextField
      autoFocus
      value={text}
      placeholder="Name, then Enter"
      slotProps={{ htmlInput: { 'aria-label': 'Name of the table' } }}
      onChange={(e) => setText(e.target.value)}
      error={problem !== null}
      helperText={problem}
      onBlur={() => problem === null && setText(null)}
      onKeyDown={(e) => {
        if (e.key === 'Escape') {
          setText(null);
          setProblem(null);
        }
        if (e.key === 'Enter' && text.trim() !== '') save(text.trim());
      }}
      sx={{ width: 200 }}
    />
  );
}

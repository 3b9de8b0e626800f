import { Autocomplete, Box, Button, LinearProgress, MenuItem, Select, TextField } from '@mui/material';
import { type CodeTarget, nameQuantity } from '@tally/core';
import { type ReactNode, useMemo, useState } from 'react';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { useStates } from '../../store/queries.ts';
import { readStates } from '../../store/read-states.ts';
import { useSelection } from '../../store/selection.tsx';
import { useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { usePreview } from '../../store/use-preview.ts';
import { Empty } from '../../ui/empty.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showMove } from '../../ui/format.ts';
import { saveText, toCsv } from '../../ui/save-file.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { type CodeRow, driverOf, listBookCodes, listCodeRows, mapCodes } from './code-rules.ts';
import { optionId } from './decide-kind.ts';
import { DEFAULT_SECTION } from './rule-changes.ts';

/** The codes that the designers put into the models, what of the book each means, and all that are known mapped at once. */
export function CodeList({ choice }: { readonly choice: ReactNode }) {
  const { project, orders, money } = useProjectState('project', 'orders', 'money');
  const { items, assemblies, rules, sections } = useBasis('items', 'assemblies', 'rules', 'sections');
  const { tables, isLoading } = useElements();
  const { data: states } = useStates(project.id);
  const { keys, select } = useSelection();
  const commit = useCommit(project.id);
  const [property, setProperty] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlyMap<string, string>>(new Map());
  const offered = sections.length > 0 ? sections : [DEFAULT_SECTION];
  const [section, setSection] = useState(offered[0]!.id);
  const properties = useMemo(
    () => [...new Set(tables.flatMap((t) => t.properties.map((p) => `${p.set}.${p.name}`)))].sort(),
    [tables],
  );
  const rows = useMemo(
    () => listCodeRows(tables, { items, assemblies }, property, rules),
    [tables, items, assemblies, property, rules],
  );
  const known = readStates(states);
  const open = useMemo(() => {
    const isOpen = (key: number) => /unpriced|partly/.test(known.get(key)?.state ?? '');
    return new Map(rows.map((r) => [r.code, r.keys.filter(isOpen).length]));
  }, [rows, known]);
  const { rules: proposed, change } = useMemo(
    () => mapCodes({ rules, sections, orders }, rows, property, chosen, section, (code) => (open.get(code) ?? 0) > 0),
    [rules, sections, orders, rows, property, chosen, section, open],
  );
  const move = usePreview(project.id, change?.diff ?? null);
  // What is open is not known before: nothing is said to be priced.
  if (isLoading || !states) return <LinearProgress />;
  const targetOf = (row: CodeRow): CodeTarget | undefined =>
    row.targets.find((t) => optionId(t) === chosen.get(row.code)) ?? row.targets[0];
  const columns: TableColumn<CodeRow>[] = [
    { key: 'code', heading: 'Code', width: 150, cell: (r) => <span style={{ fontFamily: FIGURES }}>{r.code}</span>, text: (r) => r.code },
    { key: 'elements', heading: 'Elements', width: 84, isFigure: true, isFaint: true, cell: (r) => String(r.keys.length) },
    { key: 'open', heading: 'Open', hint: 'Elements of it that are not or not wholly priced', width: 70, isFigure: true, cell: (r) => String(open.get(r.code) || '') },
    { key: 'means', heading: 'Means in the book', width: 0, cell: (r) => <Meaning row={r} target={targetOf(r)} onChoose={(id) => setChosen(new Map(chosen).set(r.code, id))} />, text: (r) => targetOf(r)?.code ?? '' },
    { key: 'driver', heading: 'By', width: 150, cell: (r) => { const t = targetOf(r); const d = t && driverOf(r, t.unit); return !t ? '' : d ? nameQuantity(d).word : `nothing in ${t.unit}`; } },
    { key: 'state', heading: 'Priced', width: 120, cell: (r) => (r.rule ? 'by its code' : !targetOf(r) ? 'not in the book' : open.get(r.code) ? 'known' : 'otherwise') },
  ]; // biome-ignore format: a column a line
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', p: 1.5, gap: 1 }}>
      <Box role="toolbar" aria-label="Mapping" sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
        {choice}
        <Autocomplete
          options={properties}
          value={property}
          onChange={(_, of) => setProperty(of)}
          renderInput={(p) => (
            <TextField
              {...p}
              label="Codes stand in"
              placeholder="References to classifications"
              slotProps={{ ...p.slotProps, inputLabel: { ...p.slotProps.inputLabel, shrink: true } }}
            />
          )}
          sx={{ width: 280 }}
        />
        <Box sx={{ flex: 1 }} />
        <Button
          color="inherit"
          onClick={() => saveText(`${project.name} codes.csv`, toCsv(listBookCodes({ items, assemblies })))}
        >
          Codes for the designers (CSV)
        </Button>
      </Box>
      {rows.length === 0 ? (
        <Empty title="No codes here">
          <span>
            No element carries a code{property === null ? ' of a classification' : ` in ${property}`}. Choose the
            property in which the designers write it, or hand them the list of codes.
          </span>
        </Empty>
      ) : (
        <VirtualTable
          label="Codes"
          keep={`${project.id}/codes`}
          rows={rows}
          columns={columns}
          rowId={(r) => r.code}
          selectedId={rows.find((r) => r.keys.length === keys.size && r.keys.every((k) => keys.has(k)))?.code ?? null}
          onSelect={(r) => select(r.keys)}
          isMarked={(r) => (open.get(r.code) ?? 0) > 0}
        />
      )}
      {rows.length > 0 && (
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 13 }}>
          <Box sx={{ flex: 1 }}>
            {proposed.length === 0
              ? 'What carries a code that the book knows is priced.'
              : `${proposed.length} ${proposed.length === 1 ? 'code' : 'codes'} that the book knows ${proposed.length === 1 ? 'has' : 'have'} open elements.`}
          </Box>
          {proposed.length > 0 && (
            <>
              <Box role="status" aria-label="Effect" sx={{ fontFamily: FIGURES }}>
                {move ? `${showMove(move.move, money.minorDigits)} ${money.currency}` : ''}
              </Box>
              What is used nowhere yet goes to
              <Select
                value={section}
                onChange={(e) => setSection(e.target.value)}
                inputProps={{ 'aria-label': 'Work section' }}
                sx={{ fontSize: 13 }}
              >
                {offered.map((s) => (
                  <MenuItem key={s.id} value={s.id}>
                    {s.name}
                  </MenuItem>
                ))}
              </Select>
              <Button variant="contained" disabled={commit.isPending} onClick={() => change && commit.mutate(change)}>
                Map {proposed.length === 1 ? 'it' : 'them all'}
              </Button>
            </>
          )}
        </Box>
      )}
    </Box>
  );
}

/** What a code means: the only thing, one of several to choose from, or for an unknown code what is written most like it. */
function Meaning({
  row,
  target,
  onChoose,
}: {
  readonly row: CodeRow;
  readonly target: CodeTarget | undefined;
  readonly onChoose: (id: string) => void;
}) {
  if (!target)
    return (
      <Box component="span" sx={{ color: 'text.secondary' }}>
        {row.nearest.length > 0 ? `near: ${row.nearest.map((n) => n.code).join(', ')}` : ''}
      </Box>
    );
  if (row.targets.length === 1)
    return (
      <span>
        {target.code} {target.description}
      </span>
    );
  return (
    <Select
      variant="standard"
      disableUnderline
      value={optionId(target)}
      onChange={(e) => onChoose(e.target.value)}
      inputProps={{ 'aria-label': `What ${row.code} means` }}
      sx={{ fontSize: 13, width: '100%', '& .MuiSelect-select': { py: 0, lineHeight: '20px' } }}
    >
      {row.targets.map((t) => (
        <MenuItem key={optionId(t)} value={optionId(t)}>
          {t.code} {t.description}
        </MenuItem>
      ))}
    </Select>
  );
}

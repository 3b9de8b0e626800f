import AddIcon from '@mui/icons-material/Add';
import { Autocomplete, Box, Button, FormControlLabel, Switch, TextField } from '@mui/material';
import {
  compileScale,
  findScaleUses,
  type Scale,
  type ScaleKey,
  type ScaleRow,
  scaleSchema,
  UNIT_SYMBOLS,
} from '@tally/core';
import { useMemo, useState } from 'react';
import { useBasis } from '../../store/project-store.tsx';
import { editFigure, readFigure } from '../../ui/format.ts';
import { loadLater } from '../../ui/load-later.tsx';
import { OtherChange } from '../../ui/other-change.tsx';
import { SHEET_SX } from './book-list.tsx';
import { DraftHead } from './draft-head.tsx';
import { draftToRows, emptyCells, type RowDraft, rowsToDraft } from './scale-draft.ts';
import { ScaleRows } from './scale-rows.tsx';
import { useBook } from './use-book.ts';
import { findNameProblem, useDraft } from './use-draft.ts';

const ScaleChart = loadLater('The chart', () => import('./scale-chart.tsx').then((m) => m.ScaleChart));

const FIELD_WORDS = { unit: 'Gives', keys: 'What it goes by', rows: 'Rows', isSliced: 'Slices', note: 'Comment' } as const; // biome-ignore format: one list
const showField = (field: string, value: unknown): string =>
  field === 'rows'
    ? `${(value as Scale['rows']).length} rows, the last ${(value as Scale['rows']).at(-1)?.value ?? 'none'}`
    : field === 'keys'
      ? (value as Scale['keys']).map((k) => k.name).join(', ')
      : typeof value === 'boolean'
        ? 'on'
        : String(value ?? 'none');

/** One scale: what it gives, what it goes by, its rows, and its steps as a picture. */
export function ScaleSheet({
  scale,
  onKept,
}: {
  /** Null for a new one. */
  readonly scale: Scale | null;
  readonly onKept: (name: string | null) => void;
}) {
  const basis = useBasis('scales', 'settings');
  const book = useBook();
  const start: Scale = scale ?? {
    name: '',
    unit: `${basis.settings.currency}/m3`,
    keys: [{ name: 'Depth', unit: 'm' }],
    rows: [],
  };
  const [head, setHead] = useState<Omit<Scale, 'rows'>>(start);
  const [cells, setCells] = useState<readonly RowDraft[]>(() =>
    start.rows.length > 0 ? rowsToDraft(start.rows) : [emptyCells(start.keys)],
  );
  const rows = useMemo(() => draftToRows(cells, head.keys), [cells, head.keys]);
  const draft: Scale = useMemo(
    () =>
      JSON.parse(JSON.stringify({ ...head, rows: rows.filter((r): r is ScaleRow => typeof r !== 'string') })) as Scale,
    [head, rows],
  );
  const unread = rows.find((r) => typeof r === 'string');
  const checked = scaleSchema.safeParse(draft);
  const made = compileScale(draft);
  const uses = scale ? findScaleUses(scale.name, book) : [];
  const problem =
    findNameProblem('scale', scale?.name, draft.name, basis.scales, uses) ??
    (unread as string | undefined) ??
    (head.keys.some((k) => Number.isNaN(k.step)) ? 'Started steps are a figure above 0, or none.' : null) ??
    (!made.ok
      ? `${made.problem.message} ${made.problem.remedy ?? ''}`
      : checked.success
        ? null
        : checked.error.issues[0]!.message);
  const takeUp = ({ rows: merged, ...rest }: Scale) => {
    setHead(rest);
    // Rows that nobody else changed stay as they are typed, also those that cannot be read yet.
    if (JSON.stringify(merged) !== JSON.stringify(draft.rows)) setCells(rowsToDraft(merged));
  };
  const actions = useDraft('scale', 'Scale', scale, draft, problem === null, takeUp, onKept);
  const setKey = (i: number, key: ScaleKey) => setHead({ ...head, keys: head.keys.map((k, n) => (n === i ? key : k)) });
  const addKey = () => {
    setHead({ ...head, isSliced: undefined, keys: [...head.keys, { name: 'Kind' }] });
    setCells(cells.map((c) => ({ ...c, at: [...c.at, { from: '', to: '', text: '' }] })));
  };
  const dropKey = () => {
    setHead({ ...head, keys: head.keys.slice(0, 1) });
    setCells(cells.map((c) => ({ ...c, at: c.at.slice(0, 1) })));
  };
  return (
    <Box component="section" aria-label="Scale" sx={SHEET_SX}>
      <DraftHead
        label="scale"
        draft={actions}
        problem={actions.isChanged ? problem : null}
        uses={uses}
        entry={scale && { kind: 'scale', id: scale.name, body: scale }}
        onDiscard={() => {
          if (!scale) return onKept(null);
          setHead(scale);
          setCells(rowsToDraft(scale.rows));
        }}
      />
      <OtherChange other={actions.other} words={FIELD_WORDS} show={showField} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 140px', gap: 1.5 }}>
        <TextField
          label="Name"
          value={head.name}
          autoFocus={scale === null}
          helperText={head.name.trim() === '' ? ' ' : `In formulas: scale("${head.name.trim()}", …)`}
          onChange={(e) => setHead({ ...head, name: e.target.value })}
          onBlur={() => setHead({ ...head, name: head.name.trim() })}
        />
        <Autocomplete
          freeSolo
          disableClearable
          options={[
            ...['m2', 'm3', 'm', 'each', 'h', 'day', 'load'].map((u) => `${basis.settings.currency}/${u}`),
            'number',
            '%',
            ...UNIT_SYMBOLS,
          ]}
          inputValue={head.unit}
          onInputChange={(_, unit) => setHead({ ...head, unit: unit.trim() })}
          renderInput={(p) => <TextField {...p} label="Gives" />}
        />
      </Box>
      {head.keys.map((key, i) => (
        <KeyFields key={i} number={i} scaleKey={key} onChange={(next) => setKey(i, next)} />
      ))}
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
        {head.keys.length === 1 ? (
          <Button color="inherit" startIcon={<AddIcon />} onClick={addKey}>
            Go by a second thing
          </Button>
        ) : (
          <Button color="inherit" onClick={dropKey}>
            Go by one thing only
          </Button>
        )}
        {head.keys.length === 1 && head.keys[0]!.unit !== undefined && (
          <FormControlLabel
            control={
              <Switch
                size="small"
                checked={head.isSliced ?? false}
                onChange={(_, isSliced) => setHead({ ...head, isSliced: isSliced || undefined })}
              />
            }
            label="In slices: each part at the figure of its own range, the average is given"
            slotProps={{ typography: { sx: { fontSize: 13 } } }}
          />
        )}
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'minmax(360px, 1fr) minmax(260px, 1fr)', gap: 3 }}>
        <ScaleRows keys={head.keys} unit={head.unit} cells={cells} rows={rows} onChange={setCells} />
        {made.ok && head.keys.length === 1 && head.keys[0]!.unit !== undefined && <ScaleChart scale={draft} />}
      </Box>
      <TextField
        label="Comment"
        value={head.note ?? ''}
        onChange={(e) => setHead({ ...head, note: e.target.value || undefined })}
      />
    </Box>
  );
}

function KeyFields({
  number,
  scaleKey,
  onChange,
}: {
  readonly number: number;
  readonly scaleKey: ScaleKey;
  readonly onChange: (key: ScaleKey) => void;
}) {
  const [step, setStep] = useState(scaleKey.step === undefined ? '' : editFigure(scaleKey.step));
  const isText = scaleKey.unit === undefined;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 140px 200px', gap: 1.5 }}>
      <TextField
        label={number === 0 ? 'Goes by' : 'And by'}
        value={scaleKey.name}
        onChange={(e) => onChange({ ...scaleKey, name: e.target.value })}
      />
      <Autocomplete
        freeSolo
        disableClearable
        options={['text', ...UNIT_SYMBOLS]}
        inputValue={scaleKey.unit ?? 'text'}
        onInputChange={(_, unit) =>
          onChange(unit.trim() === 'text' ? { name: scaleKey.name } : { ...scaleKey, unit: unit.trim() })
        }
        renderInput={(p) => <TextField {...p} label="In" />}
      />
      <TextField
        label="Started steps of"
        value={isText ? '' : step}
        disabled={isText}
        placeholder="none"
        error={step.trim() !== '' && !(readFigure(step)! > 0)}
        onChange={(e) => {
          setStep(e.target.value);
          const figure = readFigure(e.target.value);
          const isStep = figure !== null && figure > 0;
          // What cannot be read is no missing step.
          onChange({ ...scaleKey, step: isStep ? figure : e.target.value.trim() === '' ? undefined : Number.NaN });
        }}
      />
    </Box>
  );
}

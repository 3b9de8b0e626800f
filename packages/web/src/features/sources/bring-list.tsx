import { Box, Button, Checkbox, Dialog, FormControlLabel, MenuItem, TextField, Typography } from '@mui/material';
import {
  type JobDto,
  LIST_KEYS,
  type ListColumn,
  type ListFileDto,
  type ListKey,
  type ListPreviewDto,
  type ListProfile,
  makeListProfile,
} from '@tally/core';
import { useEffect, useRef, useState } from 'react';
import { postJson, uploadFile } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { describeError, useProblemNotice } from '../../store/use-commit.ts';
import { DecimalSignField } from '../../ui/decimal-sign-field.tsx';
import { FileInput } from '../../ui/file-input.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { showFigure } from '../../ui/format.ts';
import { type ChosenColumns, SheetColumns } from '../../ui/sheet-columns.tsx';

/** Brings a list made elsewhere: its columns are said once, its lines are seen before they count. */
export function BringList() {
  const { project } = useProjectState('project');
  const input = useRef<HTMLInputElement>(null);
  const [brought, setBrought] = useState<ListFileDto | null>(null);
  const [isReading, setReading] = useState(false);
  const notice = useProblemNotice();
  const bring = async (file: File) => {
    setReading(true);
    try {
      setBrought(await uploadFile<ListFileDto>(`/projects/${project.id}/lists`, file));
    } catch (error) {
      notice(error);
    } finally {
      setReading(false);
    }
  };
  return (
    <Box
      sx={{
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        px: 2,
        py: 1.5,
        display: 'flex',
        alignItems: 'center',
        gap: 2,
      }}
    >
      <Box sx={{ flex: 1, minWidth: 240 }}>
        <Typography variant="h2">Bring a list</Typography>
        <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
          Quantities made elsewhere, as XLSX or CSV: a code or a description, a quantity, a unit, perhaps a price. A
          newer list takes the place of the one before.
        </Box>
      </Box>
      <FileInput ref={input} label="List file" accept=".xlsx,.csv,.txt" onFile={(file) => void bring(file)} />
      <Button variant="outlined" disabled={isReading} onClick={() => input.current?.click()}>
        {isReading ? 'Reading the list' : 'Choose a list'}
      </Button>
      {brought && (
        <Dialog open fullWidth maxWidth="lg" aria-label="Bring a list" onClose={() => setBrought(null)}>
          <ListSheet key={brought.fileHash} brought={brought} onDone={() => setBrought(null)} />
        </Dialog>
      )}
    </Box>
  );
}

const WORDS: Readonly<Record<ListColumn, string>> = {
  code: 'Code',
  description: 'Description',
  quantity: 'Quantity',
  unit: 'Unit',
  group: 'Group',
  storey: 'Storey',
  price: 'Price per unit',
};
const KEY_WORDS: Readonly<Record<ListKey, string>> = {
  code: 'their code',
  description: 'their description',
  row: 'their place in the list',
};

function ListSheet({ brought, onDone }: { readonly brought: ListFileDto; readonly onDone: () => void }) {
  const { project, sources, money } = useProjectState('project', 'sources', 'money');
  const lists = sources.filter((s) => s.kind === 'list');
  const [sourceId, setSourceId] = useState(brought.sourceId ?? '');
  const [name, setName] = useState(brought.name);
  const [chosen, setChosen] = useState<ChosenColumns<ListColumn>>(
    brought.profile ?? { sheet: brought.sheets[0]!.name, headerRow: 0, columns: {} },
  );
  const [profile, setProfile] = useState<ListProfile | null>(brought.profile);
  const [preview, setPreview] = useState<ListPreviewDto | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isTaking, setTaking] = useState(false);
  const path = `/projects/${project.id}/lists/${brought.fileHash}`;
  const order = profile && {
    profile,
    sourceId: sourceId === '' ? null : sourceId,
    name: sourceId === '' ? name : (lists.find((s) => s.id === sourceId)?.name ?? name),
    fileName: brought.fileName,
  };
  const asked = JSON.stringify(order && { ...order, name: 'list' });
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked stands for all that the preview goes by
  useEffect(() => {
    setPreview(null);
    setProblem(null);
    if (!order) return;
    let isOld = false;
    const timer = setTimeout(() => {
      postJson<ListPreviewDto>(`${path}/preview`, { ...order, name: 'list' }).then(
        (seen) => !isOld && setPreview(seen),
        (error: unknown) => !isOld && setProblem(describeError(error)),
      );
    }, 250);
    return () => {
      isOld = true;
      clearTimeout(timer);
    };
  }, [asked]);
  const set = (change: Partial<ListProfile>) => profile && setProfile({ ...profile, ...change });
  const take = async () => {
    setTaking(true);
    try {
      await postJson<JobDto>(`${path}/take`, order);
      onDone();
    } catch (error) {
      setProblem(describeError(error));
      setTaking(false);
    }
  };
  return (
    <Box
      sx={{
        p: 2,
        display: 'grid',
        gap: 1.5,
        gridTemplateRows: 'auto auto minmax(140px, 260px) minmax(120px, 1fr) auto',
        height: '82vh',
      }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap' }}>
        <TextField
          select
          label="It is"
          value={sourceId}
          onChange={(e) => setSourceId(e.target.value)}
          sx={{ width: 220 }}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">a new list</MenuItem>
          {lists.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              the next version of {s.name}
            </MenuItem>
          ))}
        </TextField>
        {sourceId === '' && (
          <TextField
            label="Name of the list"
            value={name}
            onChange={(e) => setName(e.target.value)}
            sx={{ width: 200 }}
          />
        )}
        <TextField
          select
          label="Lines are known by"
          value={profile?.key ?? ''}
          disabled={!profile}
          onChange={(e) => set({ key: e.target.value as ListKey })}
          sx={{ width: 190 }}
        >
          {LIST_KEYS.filter((k) => k === 'row' || profile?.columns[k] !== undefined).map((k) => (
            <MenuItem key={k} value={k}>
              {KEY_WORDS[k]}
            </MenuItem>
          ))}
        </TextField>
        <DecimalSignField
          value={profile?.decimal}
          found="As found"
          disabled={!profile}
          sx={{ width: 180 }}
          onChange={(decimal) => set({ decimal })}
        />
        {profile && profile.columns.unit === undefined && (
          <TextField
            label="Unit of all lines"
            value={profile.unit ?? ''}
            onChange={(e) => set({ unit: e.target.value === '' ? undefined : e.target.value })}
            sx={{ width: 130 }}
          />
        )}
      </Box>
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={profile?.pricesCount ?? false}
            disabled={profile?.columns.price === undefined}
            onChange={(e) => set({ pricesCount: e.target.checked })}
          />
        }
        label={`Prices of the list count, in ${money.currency}; without this the book prices the codes it knows`}
        sx={{ '& .MuiFormControlLabel-label': { fontSize: 13 } }}
      />
      <SheetColumns
        sheets={brought.sheets}
        words={WORDS}
        hint="Say above the columns what they hold; click the row that has the headings."
        chosen={chosen}
        onChange={(next, header) => {
          setChosen(next);
          const { quantity } = next.columns;
          const { key, unit, pricesCount, decimal } = profile ?? {};
          const more = { key, unit, decimal, pricesCount: pricesCount ?? false };
          setProfile(
            quantity === undefined
              ? null
              : makeListProfile(next.sheet, next.headerRow, { ...next.columns, quantity }, header, more),
          );
        }}
      />
      <Box
        sx={{ overflow: 'auto', minHeight: 0, border: 1, borderColor: 'divider', borderRadius: 1, p: 1 }}
        aria-label="What would be taken"
        role="region"
      >
        {problem ? (
          <Box role="alert" sx={{ color: 'error.main', fontSize: 13 }}>
            {problem}
          </Box>
        ) : preview ? (
          <Preview preview={preview} isNext={sourceId !== ''} />
        ) : (
          <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
            {profile ? 'Reading the lines' : 'Say which column holds the quantity.'}
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', gap: 1 }}>
        <Button color="inherit" onClick={onDone}>
          Put away
        </Button>
        <Button variant="contained" disabled={!preview || isTaking || name.trim() === ''} onClick={() => void take()}>
          Take {preview ? `${preview.lines} lines` : 'the list'}
        </Button>
      </Box>
    </Box>
  );
}

function Preview({ preview: p, isNext }: { readonly preview: ListPreviewDto; readonly isNext: boolean }) {
  const cell = {
    px: 1,
    py: 0.25,
    borderBottom: 1,
    borderColor: 'divider',
    textAlign: 'left',
    fontWeight: 400,
    whiteSpace: 'nowrap',
  } as const;
  const figure = { ...cell, fontFamily: FIGURES, textAlign: 'right' } as const;
  return (
    <Box sx={{ fontSize: 13, display: 'grid', gap: 1 }}>
      <Box data-testid="list-summary">
        {p.lines} lines; the book knows the codes of {p.known}, {p.priced} have a price.
        {isNext && ` Against the version before: ${p.came} came, ${p.went} went, ${p.changed} changed.`}
        {p.alike > 0 && ` ${p.alike} share their key with another line; they are told apart by their order.`}
      </Box>
      {p.refusedCount > 0 && (
        <Box sx={{ bgcolor: 'tally.unpricedSoft', borderRadius: 1, px: 1, py: 0.5 }}>
          {p.refusedCount} {p.refusedCount === 1 ? 'row is' : 'rows are'} not taken:
          {p.refused.slice(0, 20).map((r) => (
            <Box key={r.row}>
              Row {r.row}, {r.text}: {r.reason}
            </Box>
          ))}
          {p.refusedCount > 20 && <Box>and {p.refusedCount - 20} more, listed with the source.</Box>}
        </Box>
      )}
      <Box component="table" sx={{ borderCollapse: 'collapse' }}>
        <thead>
          <tr>
            {['Row', 'Code', 'Description', 'Quantity', 'Unit', 'Price', 'Group', 'Storey'].map((h) => (
              <Box
                key={h}
                component="th"
                sx={{
                  ...cell,
                  color: 'text.secondary',
                  textAlign: ['Row', 'Quantity', 'Price'].includes(h) ? 'right' : 'left',
                }}
              >
                {h}
              </Box>
            ))}
          </tr>
        </thead>
        <tbody>
          {p.sample.map((l) => (
            <tr key={l.row}>
              <Box component="td" sx={{ ...figure, color: 'text.secondary' }}>
                {l.row}
              </Box>
              <Box component="td" sx={cell}>
                {l.code ?? ''}
              </Box>
              <Box component="td" sx={{ ...cell, width: '100%' }}>
                {l.description}
              </Box>
              <Box component="td" sx={figure}>
                {showFigure(l.quantity)}
              </Box>
              <Box component="td" sx={{ ...cell, color: 'text.secondary' }}>
                {l.unit}
              </Box>
              <Box component="td" sx={figure}>
                {l.price === null ? '' : showFigure(Number(l.price), 2)}
              </Box>
              <Box component="td" sx={cell}>
                {l.group ?? ''}
              </Box>
              <Box component="td" sx={cell}>
                {l.storey ?? ''}
              </Box>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

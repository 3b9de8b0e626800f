import { zodResolver } from '@hookform/resolvers/zod';
import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField, Typography } from '@mui/material';
import {
  type JobDto,
  LIST_KEYS,
  type ListColumn,
  type ListFileDto,
  type ListKey,
  type ListPreviewDto,
} from '@tally/core';
import { useEffect, useRef, useState } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { postJson, uploadFile } from '../../store/client.ts';
import { useProjectState } from '../../store/project-store.tsx';
import { describeError, useProblemNotice } from '../../store/use-commit.ts';
import { DecimalSignField } from '../../ui/decimal-sign-field.tsx';
import { FileInput } from '../../ui/file-input.tsx';
import { FIGURES } from '../../ui/fonts.ts';
import { FormDialog } from '../../ui/form-dialog.tsx';
import { FormText } from '../../ui/form-text.tsx';
import { showRate, showSignificant } from '../../ui/format.ts';
import { SheetColumns } from '../../ui/sheet-columns.tsx';
import { fillListForm, type ListForm, type ListOrder, listFormSchema, readProfile } from './list-form.ts';

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
        <FormDialog
          maxWidth="lg"
          slotProps={{ paper: { 'aria-label': 'Bring a list' } }}
          onClose={() => setBrought(null)}
        >
          <ListSheet key={brought.fileHash} brought={brought} onDone={() => setBrought(null)} />
        </FormDialog>
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
  const schema = listFormSchema(brought, (id) => lists.find((s) => s.id === id)?.name);
  const { control, handleSubmit, formState } = useForm<ListForm, unknown, ListOrder>({
    defaultValues: fillListForm(brought),
    resolver: zodResolver(schema) as never,
    mode: 'onChange',
  });
  // Read at once, whether or not it is needed: what is not read is not followed.
  const { errors, isValid, isSubmitting } = formState;
  const form = useWatch({ control }) as ListForm;
  const profile = readProfile(brought.sheets, form);
  const [preview, setPreview] = useState<ListPreviewDto | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const path = `/projects/${project.id}/lists/${brought.fileHash}`;
  const isNext = form.sourceId !== '';
  const order = profile && { profile, sourceId: isNext ? form.sourceId : null, fileName: brought.fileName };
  const asked = JSON.stringify(order);
  const unclear = errors.chosen?.message ?? (profile ? null : 'Say which column holds the quantity.');
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked stands for all that the preview goes by
  useEffect(() => {
    setPreview(null);
    setProblem(null);
    if (!order) return;
    let isOld = false;
    const timer = setTimeout(() => {
      // What it will be called changes nothing of what would be taken.
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
  const take = handleSubmit(async (made) => {
    try {
      await postJson<JobDto>(`${path}/take`, made);
      onDone();
    } catch (error) {
      setProblem(describeError(error));
    }
  });
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
        <FormText
          control={control}
          name="sourceId"
          select
          label="It is"
          sx={{ width: 220 }}
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">a new list</MenuItem>
          {lists.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              the next version of {s.name}
            </MenuItem>
          ))}
        </FormText>
        {!isNext && <FormText control={control} name="name" label="Name of the list" sx={{ width: 200 }} />}
        <Controller
          control={control}
          name="key"
          render={({ field: { ref, ...field } }) => (
            <TextField
              {...field}
              select
              inputRef={ref}
              label="Lines are known by"
              // What the columns do not allow any more gives way to what they do.
              value={profile?.key ?? ''}
              disabled={!profile}
              sx={{ width: 190 }}
            >
              {LIST_KEYS.filter((k) => k === 'row' || profile?.columns[k] !== undefined).map((k) => (
                <MenuItem key={k} value={k}>
                  {KEY_WORDS[k]}
                </MenuItem>
              ))}
            </TextField>
          )}
        />
        <Controller
          control={control}
          name="decimal"
          render={({ field }) => (
            <DecimalSignField
              value={field.value}
              found="As found"
              disabled={!profile}
              sx={{ width: 180 }}
              onChange={field.onChange}
            />
          )}
        />
        {profile && profile.columns.unit === undefined && (
          <FormText control={control} name="unit" label="Unit of all lines" sx={{ width: 130 }} />
        )}
      </Box>
      <Controller
        control={control}
        name="pricesCount"
        render={({ field }) => (
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={profile?.pricesCount ?? false}
                disabled={profile?.columns.price === undefined}
                onChange={(e) => field.onChange(e.target.checked)}
              />
            }
            label={`Prices of the list count, in ${money.currency}; without this the book prices the codes it knows`}
            sx={{ '& .MuiFormControlLabel-label': { fontSize: 13 } }}
          />
        )}
      />
      <Controller
        control={control}
        name="chosen"
        render={({ field }) => (
          <SheetColumns
            sheets={brought.sheets}
            words={WORDS}
            hint="Say above the columns what they hold; click the row that has the headings."
            chosen={field.value}
            onChange={field.onChange}
          />
        )}
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
        ) : preview && !unclear ? (
          <Preview preview={preview} isNext={isNext} />
        ) : (
          <Box sx={{ color: 'text.secondary', fontSize: 13 }}>{unclear ?? 'Reading the lines'}</Box>
        )}
      </Box>
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', gap: 1 }}>
        <Button color="inherit" onClick={onDone}>
          Put away
        </Button>
        <Button variant="contained" disabled={!preview || !isValid || isSubmitting} onClick={() => void take()}>
          Take {preview ? `${preview.lines} ${preview.lines === 1 ? 'line' : 'lines'}` : 'the list'}
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
        {p.lines === 1 ? 'One line' : `${p.lines} lines`}; the book knows the codes of {p.known}, {p.priced} have a
        price.
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
      {p.headingCount > 0 && (
        <Box data-testid="list-headings" sx={{ color: 'text.secondary' }}>
          {p.headingCount === 1 ? 'One row has' : `${p.headingCount} rows have`} neither quantity, unit nor price and{' '}
          {p.headingCount === 1 ? 'is taken for a heading' : 'are taken for headings'}: row{' '}
          {p.headings.slice(0, 20).join(', ')}
          {p.headingCount > 20 ? ' …' : ''}
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
                {showSignificant(l.quantity, 9)}
              </Box>
              <Box component="td" sx={{ ...cell, color: 'text.secondary' }}>
                {l.unit}
              </Box>
              <Box component="td" sx={figure}>
                {l.price === null ? '' : showRate(l.price)}
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

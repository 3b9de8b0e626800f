import { zodResolver } from '@hookform/resolvers/zod';
import { Autocomplete, Box, Button, MenuItem, TextField } from '@mui/material';
import { bandId, classWord, type PriceBand, sayClass } from '@tally/core';
import { useEffect, useMemo, useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { useBasis, useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useClassification, useElements } from '../../store/use-elements.ts';
import { Empty } from '../../ui/empty.tsx';
import { FormText } from '../../ui/form-text.tsx';
import { editFigure, showRate, showUnit } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { BAND_UNITS, type BandForm, bandFormSchema, fillBandForm, keepBand } from './band-form.ts';

const NONE: readonly PriceBand[] = [];

/** A class in words, or an element code as it is. */
const nameSubject = (of: string): string => (of.startsWith('Ifc') ? (sayClass(of) ?? of) : of);

/** What classes and element codes usually cost per unit: the plan is held against it, and prices far outside are found. */
export function BandsPane() {
  const { bands = NONE } = useBasis('bands');
  const { project } = useProjectState('project');
  const [chosen, setChosen] = useState<string | null>(null);
  const rows = useMemo(() => [...bands].sort((a, b) => (bandId(a) < bandId(b) ? -1 : 1)), [bands]);
  const band = rows.find((b) => bandId(b) === chosen) ?? null;
  const figure = (key: 'low' | 'usual' | 'high', heading: string): TableColumn<PriceBand> => ({
    key,
    heading,
    width: 110,
    isFigure: true,
    cell: (b) => showRate(b[key]),
  });
  const columns: TableColumn<PriceBand>[] = [
    { key: 'of', heading: 'Class or element code', width: 220, cell: (b) => nameSubject(b.of), text: (b) => b.of },
    { key: 'unit', heading: 'Per', width: 70, isFaint: true, cell: (b) => showUnit(b.unit) },
    figure('low', 'Low'),
    figure('usual', 'Usual'),
    figure('high', 'High'),
    { key: 'note', heading: 'Note', width: 0, cell: (b) => b.note ?? '' },
  ];
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column', gap: 1 }}>
      {rows.length === 0 ? (
        <Empty title="No bands yet">
          <span>
            A band says what elements of a class, or of an element code, usually cost per unit. What the plan has far
            outside of it is found.
          </span>
        </Empty>
      ) : (
        <VirtualTable
          label="Bands"
          keep={`${project.id}/bands`}
          rows={rows}
          columns={columns}
          rowId={bandId}
          selectedId={chosen}
          onSelect={(b) => setChosen(bandId(b))}
        />
      )}
      <BandSheet key={band ? bandId(band) : 'new'} band={band} onKept={setChosen} />
    </Box>
  );
}

function BandSheet({
  band,
  onKept,
}: {
  readonly band: PriceBand | null;
  readonly onKept: (id: string | null) => void;
}) {
  const { project } = useProjectState('project');
  const { bands = NONE } = useBasis('bands');
  const { tables } = useElements();
  const classification = useClassification();
  const commit = useCommit(project.id);
  const [refusal, setRefusal] = useState<string | null>(null);
  const { control, handleSubmit, formState, watch, trigger } = useForm<BandForm, unknown, PriceBand>({
    defaultValues: fillBandForm(band, editFigure),
    resolver: zodResolver(bandFormSchema) as never,
    mode: 'onChange',
  });
  // One of the three prices may make another wrong.
  const prices = watch(['low', 'usual', 'high']).join('\n');
  useEffect(() => {
    if (prices.split('\n').every((price) => price.trim() !== '')) void trigger(['low', 'usual', 'high']);
  }, [prices, trigger]);
  // Both are read before either decides: what is not read is not kept up to date.
  const { isValid, isDirty } = formState;
  const subjects = useMemo(
    () => [...new Set(tables.flatMap((t) => t.ifcClass.pool)), ...classification.classes.map((c) => c.code)],
    [tables, classification],
  );
  const keep = handleSubmit(async (typed) => {
    if (bands.some((b) => b !== band && bandId(b) === bandId(typed))) {
      setRefusal(`There is a band of ${bandId(typed)} already.`);
      return;
    }
    const refused = await refusalOf(commit.mutateAsync(keepBand(band, typed)));
    setRefusal(refused);
    if (refused === null) onKept(bandId(typed));
  });
  const titleOf = (code: string) => classification.classes.find((c) => c.code === code)?.title;
  return (
    <Box
      component="form"
      aria-label="Band"
      onSubmit={(e) => void keep(e)}
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: 1,
        alignItems: 'flex-start',
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        p: 1.5,
      }}
    >
      <Controller
        control={control}
        name="of"
        render={({ field, fieldState: { error, isDirty: isTyped } }) => (
          <Autocomplete
            freeSolo
            options={subjects}
            inputValue={field.value}
            onInputChange={(_, of) => field.onChange(of)}
            renderOption={({ key, ...props }, of) => (
              <Box component="li" key={key} {...props} sx={{ fontSize: 13 }}>
                {of.startsWith('Ifc') ? classWord(of) : `${of} ${titleOf(of) ?? ''}`}
              </Box>
            )}
            renderInput={(p) => (
              <TextField
                {...p}
                label="Class or element code"
                error={isTyped && error !== undefined}
                helperText={isTyped ? error?.message : undefined}
              />
            )}
            sx={{ width: 240 }}
          />
        )}
      />
      <FormText control={control} name="unit" select label="Per" sx={{ width: 90 }}>
        {BAND_UNITS.map((unit) => (
          <MenuItem key={unit} value={unit}>
            {unit === 'each' ? 'piece' : showUnit(unit)}
          </MenuItem>
        ))}
      </FormText>
      <FormText control={control} name="low" label="Low" sx={{ width: 110 }} />
      <FormText control={control} name="usual" label="Usual" sx={{ width: 110 }} />
      <FormText control={control} name="high" label="High" sx={{ width: 110 }} />
      <FormText control={control} name="note" label="Note" sx={{ flex: 1, minWidth: 140 }} />
      <Button type="submit" variant="contained" disabled={!isValid || !isDirty || commit.isPending}>
        {band ? 'Keep' : 'Add the band'}
      </Button>
      {band && (
        <>
          <Button color="inherit" onClick={() => onKept(null)}>
            New one
          </Button>
          <Button
            color="inherit"
            onClick={() => {
              commit.mutate({
                cause: `Band removed: ${bandId(band)}`,
                diff: { removed: [{ kind: 'band', id: bandId(band), body: band }] },
              });
              onKept(null);
            }}
          >
            Remove
          </Button>
        </>
      )}
      {refusal && (
        <Box role="alert" sx={{ color: 'error.main', fontSize: 13, width: '100%' }}>
          {refusal}
        </Box>
      )}
    </Box>
  );
}

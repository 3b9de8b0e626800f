import { Autocomplete, Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { foldText, listEffectiveQuantities, type ProjectMaterial, type QuantityChoice } from '@tally/core';
import { type ReactNode, useMemo, useState } from 'react';
import { useModels, useProjectState } from '../../api/project-context.tsx';
import { useChange } from '../../api/use-change.ts';
import { readFigure, showFigure } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';

type Settings = ReturnType<typeof useProjectState>['basis']['settings'];

function Part({
  title,
  note,
  children,
}: {
  readonly title: string;
  readonly note: string;
  readonly children: ReactNode;
}) {
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
        borderRadius: 1,
        p: 2,
        display: 'grid',
        gap: 1,
      }}
    >
      <Typography variant="h2">{title}</Typography>
      <Box sx={{ fontSize: 13, color: 'text.secondary' }}>{note}</Box>
      {children}
    </Box>
  );
}

/** How the project counts and shows: units, which figure is used, materials with their densities. */
export function SettingsPage() {
  return (
    <Box
      sx={{
        flex: 1,
        minHeight: 0,
        overflow: 'auto',
        p: 2,
        display: 'grid',
        gridTemplateColumns: 'minmax(280px, 1fr) minmax(420px, 2fr)',
        gap: 2,
        alignItems: 'start',
      }}
    >
      <Box sx={{ display: 'grid', gap: 2 }}>
        <Units />
        <Choices />
      </Box>
      <Materials />
    </Box>
  );
}

function useSettings(): [Settings, (to: Settings, cause: string) => void] {
  const { project, basis } = useProjectState();
  const change = useChange(project.id);
  return [
    basis.settings,
    (to, cause) =>
      change.mutate({ cause, diff: { updated: [{ kind: 'settings', id: 'project', from: basis.settings, to }] } }),
  ];
}

const UNIT_WORDS = { metric: 'Metric', imperial: 'Feet and inches', both: 'Both' } as const;

function Units() {
  const [settings, save] = useSettings();
  return (
    <Part title="Units" note="How quantities are shown. Everything is kept in SI.">
      <TextField
        select
        label="Shown in"
        value={settings.units}
        onChange={(e) => {
          const units = e.target.value as Settings['units'];
          save({ ...settings, units }, `Units: ${UNIT_WORDS[units]}`);
        }}
      >
        {Object.entries(UNIT_WORDS).map(([value, words]) => (
          <MenuItem key={value} value={value}>
            {words}
          </MenuItem>
        ))}
      </TextField>
    </Part>
  );
}

const CHOICE_WORDS: Record<QuantityChoice, string> = {
  best: 'The better one',
  measured: 'Always measured',
  stated: 'Stated, if there is one',
};

function Choices() {
  const [settings, save] = useSettings();
  const { models } = useModels();
  const names = useMemo(
    () => [...new Set(models.flatMap((m) => [...listEffectiveQuantities(m.table).values()].map((c) => c.name)))].sort(),
    [models],
  );
  const [name, setName] = useState<string | null>(null);
  const choices = settings.quantityChoices ?? {};
  const set = (quantity: string, choice: QuantityChoice) => {
    const { [quantity]: _, ...rest } = choices;
    save(
      { ...settings, quantityChoices: choice === 'best' ? rest : { ...rest, [quantity]: choice } },
      `${quantity}: ${CHOICE_WORDS[choice].toLowerCase()}`,
    );
  };
  const listed = [...new Set([...Object.keys(choices), ...(name ? [name] : [])])];
  return (
    <Part
      title="Which figure is used"
      note="The measured figure where it is exact, else the stated one, else that of the mesh. Say otherwise by name."
    >
      {listed.map((quantity) => (
        <TextField
          key={quantity}
          select
          label={quantity}
          value={choices[quantity] ?? 'best'}
          onChange={(e) => set(quantity, e.target.value as QuantityChoice)}
        >
          {Object.entries(CHOICE_WORDS).map(([value, words]) => (
            <MenuItem key={value} value={value}>
              {words}
            </MenuItem>
          ))}
        </TextField>
      ))}
      <Autocomplete
        options={names}
        value={null}
        blurOnSelect
        onChange={(_, chosen) => setName(chosen)}
        renderInput={(p) => <TextField {...p} label="Another quantity" />}
      />
    </Part>
  );
}

interface MaterialRow {
  readonly name: string;
  readonly elements: number;
  readonly given: ProjectMaterial | null;
  /** Density the file states. */
  readonly stated: number | null;
}

function Materials() {
  const { project, layer } = useProjectState();
  const { models } = useModels();
  const change = useChange(project.id);
  const [chosen, setChosen] = useState<string | null>(null);
  const rows = useMemo(
    () =>
      listMaterials(
        models.map((m) => m.table),
        layer.materials,
      ),
    [models, layer.materials],
  );
  const save = (row: MaterialRow, to: ProjectMaterial | null, cause: string) => {
    const id = foldText(row.name);
    const entry = { kind: 'material', id };
    const clean = to && (JSON.parse(JSON.stringify(to)) as ProjectMaterial);
    change.mutate({
      cause,
      diff: row.given
        ? clean
          ? { updated: [{ ...entry, from: row.given, to: clean }] }
          : { removed: [{ ...entry, body: row.given }] }
        : { added: clean ? [{ ...entry, body: clean }] : [] },
    });
  };
  const columns: TableColumn<MaterialRow>[] = [
    { key: 'name', heading: 'Material', width: 0, cell: (r) => r.name },
    { key: 'elements', heading: 'Elements', width: 80, isFigure: true, isFaint: true, cell: (r) => String(r.elements) },
    {
      key: 'density',
      heading: 'Density kg/m³',
      width: 120,
      isFigure: true,
      cell: (r) =>
        r.given?.density === undefined ? (
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {r.stated === null ? 'unknown' : showFigure(r.stated, 0)}
          </Box>
        ) : (
          <b>{showFigure(r.given.density, 0)}</b>
        ),
      edit: (r) => String(r.given?.density ?? ''),
      save: (r, text) => {
        const { density: _, ...rest } = r.given ?? { name: r.name };
        if (text.trim() === '') {
          save(r, rest.synonyms ? rest : null, `Density of ${r.name} as in the file`);
          return null;
        }
        const density = readFigure(text);
        if (density === null || density <= 0 || density > 30000) return 'A density lies between 0 and 30,000 kg/m³.';
        save(r, { ...rest, density }, `Density of ${r.name}: ${density} kg/m³`);
        return null;
      },
    },
    {
      key: 'synonyms',
      heading: 'Also written as',
      width: 240,
      isFaint: true,
      cell: (r) => r.given?.synonyms?.join(', ') ?? '',
      edit: (r) => r.given?.synonyms?.join(', ') ?? '',
      save: (r, text) => {
        const synonyms = text
          .split(',')
          .map((s) => s.trim())
          .filter(Boolean);
        const { synonyms: _, ...rest } = r.given ?? { name: r.name };
        const to = synonyms.length > 0 ? { ...rest, synonyms } : rest.density === undefined ? null : rest;
        save(r, to, `Spellings of ${r.name} changed`);
        return null;
      },
    },
  ];
  return (
    <Part
      title="Materials"
      note="A density given here beats the file's; weights follow. Spellings of one material are one. Double click or Enter edits a cell."
    >
      <Box sx={{ height: 560, display: 'flex' }}>
        <VirtualTable
          label="Materials"
          rows={rows}
          columns={columns}
          rowId={(r) => r.name}
          selectedId={chosen}
          onSelect={(r) => setChosen(r.name)}
        />
      </Box>
      {layer.materials.length > 0 && (
        <Box>
          <Button
            color="inherit"
            onClick={() =>
              change.mutate({
                cause: 'Materials as in the file',
                diff: { removed: layer.materials.map((m) => ({ kind: 'material', id: foldText(m.name), body: m })) },
              })
            }
          >
            All as in the file
          </Button>
        </Box>
      )}
    </Part>
  );
}

function listMaterials(
  tables: readonly ReturnType<typeof useModels>['models'][number]['table'][],
  given: readonly ProjectMaterial[],
): MaterialRow[] {
  const counts = new Map<string, number>();
  for (const { materials, count } of tables) {
    for (let row = 0; row < count; row++) {
      const own = new Set<string>();
      for (let i = materials.offset[row]!; i < materials.offset[row + 1]!; i++)
        own.add(materials.pool[materials.index[i]!]!);
      for (const name of own) counts.set(name, (counts.get(name) ?? 0) + 1);
    }
  }
  for (const { name } of given) if (!counts.has(name)) counts.set(name, 0);
  return [...counts]
    .map(([name, elements]) => ({
      name,
      elements,
      given: given.find((m) => foldText(m.name) === foldText(name)) ?? null,
      stated: tables.find((t) => t.densities[name] !== undefined)?.densities[name] ?? null,
    }))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
}

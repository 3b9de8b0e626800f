import { Box, Button } from '@mui/material';
import { type ElementTable, foldText, type ProjectMaterial } from '@tally/core';
import { useMemo, useState } from 'react';
import { useProjectState } from '../../store/project-store.tsx';
import { refusalOf, useCommit } from '../../store/use-commit.ts';
import { useElements } from '../../store/use-elements.ts';
import { askFigure, editFigure, readFigure, showFigure } from '../../ui/format.ts';
import { type TableColumn, VirtualTable } from '../../ui/virtual-table.tsx';
import { Part } from './settings-part.tsx';

interface MaterialRow {
  readonly name: string;
  readonly elements: number;
  readonly given: ProjectMaterial | null;
  /** Density the file states. */
  readonly stated: number | null;
}

/** Materials of the models with their densities and spellings. */
export function MaterialsPart() {
  const { project, layer } = useProjectState('project', 'layer');
  const { models } = useElements();
  const change = useCommit(project.id);
  const [chosen, setChosen] = useState<string | null>(null);
  const rows = useMemo(
    () =>
      listMaterials(
        models.map((m) => m.table),
        layer.materials,
      ),
    [models, layer.materials],
  );
  const save = (row: MaterialRow, to: ProjectMaterial | null, cause: string): Promise<string | null> => {
    const id = foldText(row.name);
    const entry = { kind: 'material', id };
    const clean = to && (JSON.parse(JSON.stringify(to)) as ProjectMaterial);
    return refusalOf(
      change.mutateAsync({
        cause,
        diff: row.given
          ? clean
            ? { updated: [{ ...entry, from: row.given, to: clean }] }
            : { removed: [{ ...entry, body: row.given }] }
          : { added: clean ? [{ ...entry, body: clean }] : [] },
      }),
    );
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
      edit: (r) => editFigure(r.given?.density ?? ''),
      save: (r, text) => {
        const { density: _, ...rest } = r.given ?? { name: r.name };
        if (text.trim() === '') {
          return save(r, rest.synonyms ? rest : null, `Density of ${r.name} as in the file`);
        }
        const unclear = askFigure(text);
        if (unclear) return unclear;
        const density = readFigure(text);
        if (density === null || density <= 0 || density > 30000) return 'A density lies between 0 and 30,000 kg/m³.';
        return save(r, { ...rest, density }, `Density of ${r.name}: ${density} kg/m³`);
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
        return save(r, to, `Spellings of ${r.name} changed`);
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

function listMaterials(tables: readonly ElementTable[], given: readonly ProjectMaterial[]): MaterialRow[] {
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

import {
  applyProjectLayer,
  applyQuantityOverrides,
  buildDrawnRooms,
  type ElementTable,
  type Finding,
  findingKey,
  foldText,
  type ProjectLayer,
  type ProjectStateDto,
  type RevisionDto,
} from '@tally/core';
import { useQueries } from '@tanstack/react-query';
import { createContext, useContext, useMemo } from 'react';
import { elementTableQuery } from './queries.ts';

const ProjectContext = createContext<ProjectStateDto | null>(null);
export const ProjectProvider = ProjectContext.Provider;

/** State of the project that the page is about. */
export function useProjectState(): ProjectStateDto {
  const state = useContext(ProjectContext);
  if (!state) throw new Error('useProjectState needs a project page above it.');
  return state;
}

/** A counting revision with its elements; `offset` numbers its rows among all models'. */
export interface LoadedModel {
  readonly revision: RevisionDto;
  readonly table: ElementTable;
  readonly offset: number;
}

export interface LoadedModels {
  readonly models: readonly LoadedModel[];
  readonly isLoading: boolean;
  readonly error: Error | null;
  /** Model and row of an ElementKey. */
  readonly find: (key: number) => { model: LoadedModel; row: number } | null;
}

/** Stands for the rooms drawn here among the revisions of models. */
const DRAWN: RevisionDto = {
  id: 'drawn',
  sourceId: 'drawn',
  number: 0,
  fileName: '',
  state: 'counting',
  elements: 0,
  matched: 0,
  schema: '',
  lengthUnit: '',
  findings: [],
  geometryState: 'done',
  chunks: 0,
  createdAt: '',
};

function toProjectLayer(layer: ProjectStateDto['layer'], choices: ProjectLayer['choices'] = {}): ProjectLayer {
  const byKey = <T,>(record: Readonly<Record<string, T>>) =>
    new Map(Object.entries(record).map(([key, value]) => [Number(key), value]));
  return {
    attributes: byKey(layer.attributes),
    finishes: byKey(layer.finishes),
    zones: byKey(layer.zones),
    leftOut: new Set(Object.keys(layer.leftOut).map(Number)),
    materials: layer.materials,
    choices,
  };
}

/** Elements of all counting revisions of the project, with what the project adds to them. */
export function useModels(): LoadedModels {
  const { project, sources, layer, basis } = useProjectState();
  const counting = sources.flatMap((s) => s.revisions.filter((r) => r.state === 'counting'));
  const results = useQueries({ queries: counting.map((r) => elementTableQuery(project.id, r.id)) });
  const layerText = JSON.stringify([layer, basis.settings.quantityChoices, basis.settings.quantityOverrides]);
  const signature = `${layerText}/${counting.map((r, i) => `${r.id}/${r.chunks}/${r.geometryState}/${results[i]?.data ? 1 : 0}`).join()}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the signature stands for revisions and tables
  return useMemo(() => {
    let offset = 0;
    const models = counting.flatMap((revision, i): LoadedModel[] => {
      const plain = results[i]?.data;
      if (!plain) return [];
      const table = applyQuantityOverrides(
        applyProjectLayer(plain, toProjectLayer(layer, basis.settings.quantityChoices)),
        basis.settings.quantityOverrides ?? [],
      );
      offset += table.count;
      return [{ revision, table, offset: offset - table.count }];
    });
    const rooms = new Map(Object.entries(layer.drawnRooms).map(([key, room]) => [Number(key), room]));
    const drawn = buildDrawnRooms(
      rooms,
      models.flatMap((m) => m.table.wallOpenings),
    );
    if (drawn) {
      const table = applyProjectLayer(drawn, toProjectLayer(layer, basis.settings.quantityChoices));
      models.push({ revision: DRAWN, table, offset });
    }
    const places = new Map<number, { model: LoadedModel; row: number }>();
    for (const model of models) model.table.keys.forEach((key, row) => void places.set(key, { model, row }));
    return {
      models,
      isLoading: results.some((r) => r.isLoading),
      error: results.find((r) => r.error)?.error ?? null,
      find: (key) => places.get(key) ?? null,
    };
  }, [signature]);
}

/** A finding with where it stands, its key and whether it was accepted. */
export interface ShownFinding {
  readonly finding: Finding;
  readonly key: string;
  readonly revision: RevisionDto;
  readonly source: string;
  /** Reason it was accepted for; null while it is open. */
  readonly accepted: string | null;
}

/** Findings of the revisions that count or wait, without those that the project has answered itself. */
export function listFindings({ sources, accepted, layer }: ProjectStateDto): ShownFinding[] {
  const known = new Set(layer.materials.filter((m) => m.density !== undefined).map((m) => foldText(m.name)));
  return sources.flatMap((source) =>
    source.revisions
      .filter((r) => r.state === 'counting' || r.state === 'waiting')
      .flatMap((revision) =>
        revision.findings
          .filter((f) => f.code !== 'density-missing' || !known.has(foldText(/"(.*)"/.exec(f.message)?.[1] ?? '')))
          .map((finding) => {
            const key = findingKey(finding);
            return { finding, key, revision, source: source.name, accepted: accepted[key] ?? null };
          }),
      ),
  );
}

/** Findings that nobody has accepted yet. */
export function listOpenFindings(state: ProjectStateDto): ShownFinding[] {
  return listFindings(state).filter((f) => f.accepted === null);
}

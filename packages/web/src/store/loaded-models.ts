import type { ElementTable, RevisionDto, SourceDto } from '@tally/core';
import type { NamedQuantity, SeenTable } from './seen-table.ts';
import { ALLOWANCES, DRAWN } from './table-reader.ts';

/** A counting revision with its elements; `offset` numbers its rows among all models'. */
export interface LoadedModel {
  readonly revision: RevisionDto;
  readonly table: ElementTable;
  /** The same table as the file has it. */
  readonly plain: ElementTable;
  readonly offset: number;
}

/** The elements of a project, as its pages see them. */
export interface LoadedModels {
  readonly models: readonly LoadedModel[];
  /** Their tables: the same list as long as none of them changes. */
  readonly tables: readonly ElementTable[];
  /** Names that quantities of any of them have. */
  readonly named: readonly NamedQuantity[];
  readonly isLoading: boolean;
  readonly error: Error | null;
  /** Model and row of an ElementKey. */
  readonly find: (key: number) => { readonly model: LoadedModel; readonly row: number } | null;
}

/** Stands for the rooms drawn here, and for the costs without an object, among the revisions of models. */
const NO_REVISION: RevisionDto = {
  id: DRAWN,
  sourceId: DRAWN,
  number: 0,
  fileName: '',
  state: 'counting',
  elements: 0,
  matched: 0,
  schema: '',
  lengthUnit: '',
  fileTime: null,
  findingLines: 0,
  geometryState: 'done',
  chunks: 0,
  createdAt: '',
};
const STAND_INS: readonly RevisionDto[] = [NO_REVISION, { ...NO_REVISION, id: ALLOWANCES, sourceId: ALLOWANCES }];

export const NO_MODELS: LoadedModels = {
  models: [],
  tables: [],
  named: [],
  isLoading: false,
  error: null,
  find: () => null,
};

/** Revisions whose elements count. */
export const listCounting = (sources: readonly SourceDto[]): RevisionDto[] =>
  sources.flatMap((s) => s.revisions.filter((r) => r.state === 'counting'));

/** Tables with the revisions that they are of. What did not change since `before` keeps its identity. */
export function joinModels(
  before: LoadedModels,
  seen: readonly SeenTable[],
  counting: readonly RevisionDto[],
): LoadedModels {
  const revisions = new Map([...counting, ...STAND_INS].map((r) => [r.id, r]));
  const models: LoadedModel[] = [];
  let offset = 0;
  for (const { id, table, plain } of seen) {
    const revision = revisions.get(id);
    if (!revision) continue;
    const was = before.models[models.length];
    const isSame = was?.revision === revision && was.table === table && was.plain === plain && was.offset === offset;
    models.push(isSame ? was : { revision, table, plain, offset });
    offset += table.count;
  }
  const isSame = models.length === before.models.length && models.every((m, i) => m === before.models[i]);
  if (isSame && !before.isLoading && !before.error) return before;
  const hasSameTables = models.length === before.tables.length && models.every((m, i) => m.table === before.tables[i]);
  return {
    models,
    tables: hasSameTables ? before.tables : models.map((m) => m.table),
    named: hasSameTables ? before.named : seen.flatMap((s) => s.named),
    isLoading: false,
    error: null,
    find: createFinder(models),
  };
}

/** Finds elements by their keys; the index is made when the first is looked for. */
export function createFinder(models: readonly LoadedModel[]): LoadedModels['find'] {
  let places: Map<number, { readonly model: LoadedModel; readonly row: number }> | null = null;
  return (key) => {
    if (!places) {
      places = new Map();
      for (const model of models)
        for (let row = 0; row < model.table.count; row++) places.set(model.table.keys[row]!, { model, row });
    }
    return places.get(key) ?? null;
  };
}

import type { RevisionDto } from '@tally/core';
import { sampleWalls } from '../testing/sample-table.ts';
import { joinModels, listCounting, NO_MODELS } from './loaded-models.ts';
import type { SeenTable } from './seen-table.ts';
import { ALLOWANCES, DRAWN } from './table-reader.ts';

const revision = (id: string, state = 'counting') => ({ id, sourceId: id, state }) as RevisionDto;
const seen = (id: string): SeenTable => {
  const table = sampleWalls();
  return { id, table, plain: table, named: [{ name: 'Length', unit: 'm' }] };
};

describe('the elements of a project', () => {
  const [r1, r2] = [revision('r1'), revision('r2')];
  const tables = [seen('r1'), seen('r2'), seen(DRAWN), seen(ALLOWANCES)];
  const first = joinModels(NO_MODELS, tables, [r1, r2]);
  it('are numbered through all sources, rooms drawn here and costs without an object behind the models', () =>
    expect(first.models.map((m) => [m.revision.id, m.offset])).toEqual([
      ['r1', 0],
      ['r2', 3],
      [DRAWN, 6],
      [ALLOWANCES, 9],
    ]));
  it('are found by their keys; of a key that two sources have the last', () => {
    const { model, row } = first.find(12)!;
    expect([model.revision.id, row]).toEqual([ALLOWANCES, 1]);
    expect(first.find(99)).toBeNull();
  });
  it('are the same while nothing changes, and keep their tables while only a picture grows', () => {
    expect(joinModels(first, tables, [r1, r2])).toBe(first);
    const grown = joinModels(first, tables, [{ ...r1, chunks: 3 }, r2]);
    expect(grown.models[0]!.revision.chunks).toBe(3);
    expect([grown.tables === first.tables, grown.named === first.named, grown.models[1] === first.models[1]]).toEqual([true, true, true]); // biome-ignore format: one line
    expect(joinModels(first, [seen('r1'), ...tables.slice(1)], [r1, r2]).tables).not.toBe(first.tables);
  });
  it('are those of revisions that count', () => {
    const sources = [
      { id: 's', revisions: [r1, revision('old', 'past')] },
      { id: 't', revisions: [r2] },
    ] as never;
    expect(listCounting(sources).map((r) => r.id)).toEqual(['r1', 'r2']);
    // A table whose revision counts no more is left out.
    expect(joinModels(NO_MODELS, tables, [r2]).models.map((m) => m.revision.id)).toEqual(['r2', DRAWN, ALLOWANCES]);
  });
});

import { encodeElementTable } from '@tally/core';
import { sampleLayer } from '../testing/sample-layer.ts';
import { sampleWalls } from '../testing/sample-table.ts';
import { applyPatch } from './table-patch.ts';
import { TableReader, type TablesRequest } from './table-reader.ts';

const request = (layer = sampleLayer(), revisions = ['r1']): TablesRequest => ({
  projectId: 'p',
  revisions,
  layer,
  settings: {},
  parts: undefined,
});
const given = (value: string) => sampleLayer({ attributes: { '12': { Grade: value } } });

describe('reading tables', () => {
  const open = () => {
    const asked: string[] = [];
    const reader = new TableReader(async (path) => {
      asked.push(path);
      return encodeElementTable(sampleWalls());
    });
    return { reader, asked };
  };
  it('reads a file once, and lays over it what the project adds', async () => {
    const { reader, asked } = open();
    const [first] = await reader.read(request(given('C24')));
    const seen = applyPatch(undefined, first!.patch) as { table: ReturnType<typeof sampleWalls>; named: unknown };
    expect(seen.table.properties.find((p) => p.name === 'Grade')).toMatchObject({ rows: Int32Array.of(1), values: ['C24'] }); // biome-ignore format: one line
    expect(seen.named).toEqual([{ name: 'Length', unit: 'm' }]);
    await reader.read(request(given('C30')));
    expect(asked).toEqual(['/projects/p/revisions/r1/elements']);
  });
  it('tells of a change what changed, not the figures of the file again', async () => {
    const { reader } = open();
    const [whole] = await reader.read(request());
    const before = applyPatch(undefined, whole!.patch);
    const [next] = await reader.read(request(given('C24')));
    expect(next!.patch.kind).toBe('fields');
    const after = applyPatch(before, next!.patch) as typeof before & { table: object };
    const fresh = await new TableReader(async () => encodeElementTable(sampleWalls())).read(request(given('C24')));
    expect(after).toEqual(applyPatch(undefined, fresh[0]!.patch));
    expect((await reader.read(request(given('C24'))))[0]!.patch).toEqual({ kind: 'same' });
  });
  it('tells all again after it has forgotten a project', async () => {
    const { reader, asked } = open();
    await reader.read(request());
    reader.forget('p');
    expect((await reader.read(request()))[0]!.patch.kind).toBe('value');
    expect(asked).toHaveLength(2);
  });
  it('asks again for what could not be read, and says what is wrong with bytes that are no table', async () => {
    let times = 0;
    const reader = new TableReader(async () => {
      if (++times === 1) throw new Error('The server does not answer.');
      return times === 2 ? Uint8Array.of(1, 2, 3) : encodeElementTable(sampleWalls());
    });
    await expect(reader.read(request())).rejects.toThrow('does not answer');
    await expect(reader.read(request())).rejects.toThrow(/table|file/i);
    expect(await reader.read(request())).toHaveLength(1);
  });
});

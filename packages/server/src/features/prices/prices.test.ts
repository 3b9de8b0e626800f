import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { PriceComparison, PriceFileDto, PriceSheetDto } from '@tally/core';
import { TestServer } from '../../testing/run-server.ts';

const server = new TestServer();
const { call, state, makeProject } = server;
beforeAll(() => server.start());
afterAll(() => server.stop());

describe('price sheets', () => {
  const bring = (project: string, name: string, content: string | Uint8Array) =>
    server.send<PriceSheetDto & { code?: string; remedy?: string }>(`/projects/${project}/price-sheets`, name, content);
  const compare = (project: string, { fileHash, profile, source }: PriceSheetDto) =>
    call<PriceComparison>(`/projects/${project}/price-sheets/${fileHash}/compare`, { profile, source });

  it('are read, compared with the book, and known again by their headings', async () => {
    const id = await makeProject();
    const first = await bring(
      id,
      'yard list R1.csv',
      'Timber yard;;\n\nItem no.;Price;Unit\nM-BATT;1,05;m\nM-REB;1.380,00;t\nNEW;3,00;m\n',
    );
    expect(first.body).toMatchObject({
      source: 'yard list',
      isKnown: false,
      profile: { headerRow: 2, columns: { code: 0, rate: 1, unit: 2 } },
    });
    const found = await compare(id, first.body);
    expect(found.body).toMatchObject({
      changed: [{ code: 'M-BATT', from: '0.98', to: '1.05' }],
      fresh: [{ code: 'NEW', unit: 'm' }],
      skipped: [{ row: 5, reason: 'The sheet prices it per t, the book per kg.' }],
    });
    const { project } = await state(id);
    const kept = await call(`/projects/${id}/changes`, {
      base: project.seq,
      cause: 'Prices',
      diff: { added: [{ kind: 'priceSheet', id: 'yard list', body: first.body.profile }], updated: [], removed: [] },
    });
    expect(kept.status).toBe(200);
    const second = await bring(id, 'other name.csv', 'Unit;Item no.;Price\nm;M-BATT;1,10\n');
    expect(second.body).toMatchObject({
      source: 'yard list',
      isKnown: true,
      profile: { headerRow: 0, columns: { code: 1, rate: 2, unit: 0 } },
    });
  });

  it('that the book itself was saved as change nothing', async () => {
    const id = await makeProject();
    const res = await fetch(`${server.base}/projects/${id}/book.xlsx`);
    expect(res.headers.get('content-type')).toContain('spreadsheetml');
    const brought = await bring(id, 'book.xlsx', new Uint8Array(await res.arrayBuffer()));
    const found = await compare(id, brought.body);
    expect(found.body.changed).toEqual([]);
    expect(found.body.fresh).toEqual([]);
    const { items } = (await state(id)).basis;
    expect(found.body.unchanged).toBe(items.filter((i) => i.rate !== null).length);
  });

  it('are found in the price folder, those that changed apart', async () => {
    const id = await makeProject();
    const put = (price: string) =>
      writeFileSync(join(server.data, 'prices/depot.csv'), `Code;Price\nM-BATT;${price}\n`);
    const list = async () => (await call<PriceFileDto[]>(`/projects/${id}/price-folder`)).body;
    put('1,05');
    expect(await list()).toMatchObject([{ fileName: 'depot.csv', source: 'depot', state: 'new' }]);
    const brought = await call<PriceSheetDto>(`/projects/${id}/price-folder`, { fileName: 'depot.csv' });
    expect((await compare(id, brought.body)).body.changed).toMatchObject([{ code: 'M-BATT', to: '1.05' }]);
    const { profile, fileHash } = brought.body;
    await call(`/projects/${id}/changes`, {
      base: (await state(id)).project.seq,
      cause: 'Prices',
      diff: { added: [{ kind: 'priceSheet', id: 'depot', body: { ...profile, fileHash } }], updated: [], removed: [] },
    });
    expect(await list()).toMatchObject([{ state: 'same' }]);
    put('1,10 ');
    expect(await list()).toMatchObject([{ state: 'changed' }]);
    expect((await call(`/projects/${id}/price-folder`, { fileName: '../files/none.csv' })).status).toBe(404);
  });

  it('that cannot be read are refused with what to do, and change nothing', async () => {
    const id = await makeProject();
    const before = (await state(id)).project.seq;
    expect(await bring(id, 'bad.xlsx', 'PK\u0003\u0004nonsense')).toMatchObject({
      status: 400,
      body: { code: 'sheet-damaged', remedy: expect.any(String) },
    });
    expect(
      (
        await call(`/projects/${id}/price-sheets/${'0'.repeat(64)}/compare`, {
          profile: { sheet: 'CSV', headerRow: 0, columns: { code: 0, rate: 1 }, headings: {} },
          source: 'x',
        })
      ).status,
    ).toBe(404);
    expect((await state(id)).project.seq).toBe(before);
  });
});

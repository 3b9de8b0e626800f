import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type {
  ChangeDto,
  ClassListDto,
  MoveDto,
  PriceComparison,
  PriceFileDto,
  PriceSheetDto,
  ProjectEffectDto,
  Some,
} from '@tally/core';
import { REVISIONS, writeBoathouse } from '@tally/demo';
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
    const { items, values } = (await state(id)).basis;
    const plain = values.filter((v) => Number.isFinite(Number(v.value)));
    expect(found.body.unchanged).toBe(items.filter((i) => i.rate !== null).length + plain.length);
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

  it('say what they do to the other projects of the currency, and can be taken over there', async () => {
    const id = await makeProject();
    const other = await makeProject();
    const model = await server.send<{ id: string }>(
      `/projects/${other}/uploads`,
      'a.ifc',
      writeBoathouse(REVISIONS.R1),
    );
    expect(model.status).toBe(200);
    const plannedTotal = async () => {
      for (let n = 0; n < 200; n++) {
        const { summary } = await state(other);
        if (summary.total > 0) return summary.total;
        await new Promise((done) => setTimeout(done, 100));
      }
      throw new Error('The model never counted.');
    };
    const before = await plannedTotal();
    const brought = (await bring(id, 'oak.csv', 'Code;Price\nM-OAK;65,00\nM-BATT;0,98\n')).body;
    const ask = async (changed: string[]) =>
      (
        await call<ProjectEffectDto[]>(`/projects/${id}/price-sheets/${brought.fileHash}/effects`, {
          profile: brought.profile,
          source: 'oak',
          changed: { all: false, but: changed },
          fresh: { all: false, but: [] },
          date: '2026-05-01',
          bookHash: '',
        })
      ).body;
    // Projects of the tests above have the price otherwise too; what is not ticked moves nothing.
    expect(await ask([])).toEqual([]);
    const effect = (await ask(['M-OAK'])).find((e) => e.projectId === other)!;
    const move = effect.move!;
    expect(effect).toMatchObject({ prices: 1, problem: null, move: { before, causes: { price: move.move } } });
    expect(move.move).toBeGreaterThan(0);
    expect((await state(other)).summary.total).toBe(before);
    const { seq, diff } = effect;
    expect((await call(`/projects/${other}/changes`, { base: seq, cause: 'Oak', diff })).status).toBe(200);
    const after = await state(other);
    expect(after.summary.total).toBe(move.after);
    expect(after.basis.items.find((i) => i.code === 'M-OAK')).toMatchObject({
      rate: '65.00',
      source: 'oak',
      date: '2026-05-01',
    });
    expect((await ask(['M-OAK'])).some((e) => e.projectId === other)).toBe(false);
  }, 60_000);

  /** What is taken over of a sheet that was brought, as the page asks for it. */
  const want = async (id: string, { profile, source }: PriceSheetDto, changed: Some, fresh: Some) => ({
    profile,
    source,
    changed,
    fresh,
    date: '2026-05-01',
    bookHash: (await state(id)).manifest.bookHash,
  });
  const ALL: Some = { all: true, but: [] };

  it('are taken over as one change: what is ticked, seen before, undone at once', async () => {
    const id = await makeProject();
    const { body: brought } = await bring(
      id,
      'yard.csv',
      'Code;Price;Unit\nM-BATT;1,05;m\nM-OAK;65,00;m2\nN1;3,00;m\nN2;4,00;m\n',
    );
    const path = `/projects/${id}/price-sheets/${brought.fileHash}`;
    const wanted = await want(id, brought, { all: false, but: ['M-BATT'] }, { all: true, but: ['N2'] });
    expect((await call<MoveDto>(`${path}/preview`, wanted)).body).toMatchObject({ move: 0 });
    const taken = await call<ChangeDto>(`${path}/take-over`, wanted);
    expect(taken.body).toMatchObject({ cause: 'Prices from yard: 1 changed, 1 new', entryCount: 3 });
    const { basis, priceSheets } = await state(id);
    const rateOf = (code: string) => basis.items.find((i) => i.code === code)?.rate;
    expect([rateOf('M-BATT'), rateOf('M-OAK'), rateOf('N1'), rateOf('N2')]).toEqual([
      '1.05',
      '64.00',
      '3.00',
      undefined,
    ]);
    expect(priceSheets.yard).toMatchObject({ fileHash: brought.fileHash });
    // What was seen beside other prices is not taken over unseen.
    expect(await call(`${path}/take-over`, wanted)).toMatchObject({ status: 409, body: { code: 'change-conflict' } });
    expect((await call(`/projects/${id}/undo`, {})).status).toBe(200);
    expect((await state(id)).basis.items.find((i) => i.code === 'M-BATT')!.rate).toBe('0.98');
  });

  it('of 20,000 rows are taken over whole, and back again', async () => {
    const id = await makeProject();
    const rows = Array.from({ length: 20_000 }, (_, i) => `X-${i},${(i % 5000) + 0.25},m,"Thing ${i}; of the yard"`);
    const { body: brought } = await bring(
      id,
      'large.csv',
      ['Code,Price,Unit,Description', 'M-BATT,1.05,m,', ...rows].join('\n'),
    );
    const path = `/projects/${id}/price-sheets/${brought.fileHash}`;
    const taken = await call<ChangeDto>(`${path}/take-over`, await want(id, brought, ALL, ALL));
    expect(taken.body).toMatchObject({ cause: 'Prices from large: 1 changed, 20000 new', entryCount: 20_002 });
    const { items } = (await state(id)).basis;
    expect(items.find((i) => i.code === 'X-19999')).toMatchObject({
      rate: '4999.25',
      description: 'Thing 19999; of the yard',
    });
    const before = items.length;
    expect((await call(`/projects/${id}/undo`, {})).status).toBe(200);
    expect((await state(id)).basis.items.length).toBe(before - 20_000);
  }, 60_000);

  it.each(['csv', 'xlsx'])(
    'of eight decimals, with signs of CSV in every text, come back from %s as they were',
    async (kind) => {
      const id = await makeProject(false);
      const texts = ['a;b', 'c,d "e"', "=f'g", 'line\nbreak', ' x ', 'Ø; 1/2"'];
      const items = texts.map((text, i) => ({
        code: `I-${i}`,
        description: text,
        kind: 'material',
        unit: 'm',
        rate: `${i}.1234567${i}`,
        notes: text,
      }));
      const values = [{ name: 'Crane hour', unit: 'EUR/h', value: '142.12345678', note: 'a;b' }, { name: 'Half', unit: 'EUR/h', value: 'CraneHour / 2' }]; // biome-ignore format: two values
      const added = [...items.map((body) => ({ kind: 'item', id: body.code, body })), ...values.map((body) => ({ kind: 'value', id: body.name, body }))]; // biome-ignore format: two kinds
      const kept = await call(`/projects/${id}/changes`, { base: (await state(id)).project.seq, cause: 'x', diff: { added, updated: [], removed: [] } }); // biome-ignore format: short
      expect(kept.status).toBe(200);
      const res = await fetch(`${server.base}/projects/${id}/book.${kind}`);
      const brought = await bring(id, `book.${kind}`, new Uint8Array(await res.arrayBuffer()));
      const found = await compare(id, brought.body);
      expect(found.body).toMatchObject({ changed: [], fresh: [], unchanged: 7 });
      expect(found.body.skipped.map((s) => s.text.slice(0, 4))).toEqual(['Half']);
    },
  );

  it('the book is saved as CSV too, and changes nothing when it comes back', async () => {
    const id = await makeProject();
    const res = await fetch(`${server.base}/projects/${id}/book.csv`);
    const text = await res.text();
    expect(text).toContain('M-STL,"Steel sections, shop-fabricated",material,kg,3.45');
    expect(text.split('\r\n')[0]).toContain('Class UNIFORMAT II,Tax class,Density kg/m3,Split %');
    const found = await compare(id, (await bring(id, 'book.csv', text)).body);
    expect(found.body).toMatchObject({ changed: [], fresh: [] });
  });

  it('lists of classes are read; one without codes is refused', async () => {
    const id = await makeProject(false);
    const read = (name: string, content: string) =>
      server.send<ClassListDto & { code?: string }>(`/projects/${id}/classifications`, name, content);
    expect((await read('Yard codes.csv', 'Code,Title\n21,Walls\n21.1,"Walls, outer"\n21,Again\n')).body).toEqual({
      name: 'Yard codes',
      classes: [
        { code: '21', title: 'Walls' },
        { code: '21.1', title: 'Walls, outer' },
      ],
      skipped: [{ row: 4, reason: 'The code stands in row 2 already.' }],
    });
    expect(await read('empty.csv', 'Code,Title\n')).toMatchObject({
      status: 400,
      body: { code: 'classification-empty' },
    });
  });

  it('a classification sorts the prices of a project', async () => {
    const id = await makeProject(false);
    const body = { name: 'Yard codes', classes: [{ code: '21', title: 'Walls' }] };
    const commit = async (diff: object) =>
      call(`/projects/${id}/changes`, {
        base: (await state(id)).project.seq,
        cause: 'x',
        diff: { added: [], updated: [], removed: [], ...diff },
      });
    expect((await commit({ added: [{ kind: 'classification', id: 'Yard codes', body }] })).status).toBe(200);
    expect((await state(id)).classifications).toEqual([body]);
    const wrong = { kind: 'classification', id: 'Other', body: { name: 'Yard', classes: [] } };
    expect((await commit({ added: [wrong] })).status).toBe(400);
  });
});

describe('a takeoff table as XLSX', () => {
  const table = {
    name: 'Walls',
    columns: ['Name', 'Area m2'],
    rows: [
      ['Ground', 3],
      ['=w', 3],
      ['Total', 3],
    ],
    levels: [0, 1, 0],
    heads: [true, false, false],
    sums: [1],
  };
  const save = (body: object, id: string) =>
    fetch(`${server.base}/projects/${id}/takeoff.xlsx`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
  it('comes as a file, a long one too', async () => {
    const id = await makeProject(false);
    const res = await save(table, id);
    expect(res.headers.get('content-type')).toContain('spreadsheetml');
    expect(res.headers.get('content-disposition')).toContain('takeoff.xlsx');
    const rows = Array.from({ length: 5000 }, (_, i) => [`w${i}`, i]);
    const long = { ...table, rows, levels: rows.map(() => 0), heads: rows.map(() => false) };
    const bytes = new Uint8Array(await (await save(long, id)).arrayBuffer());
    // A spreadsheet is a zip: it begins with PK.
    expect([...bytes.slice(0, 2)]).toEqual([0x50, 0x4b]);
    expect(bytes.length).toBeGreaterThan(50_000);
  });
  it('is refused where its rows have no depths', async () => {
    const res = await save({ ...table, levels: [0] }, await makeProject(false));
    expect([res.status, ((await res.json()) as { code: string }).code]).toEqual([400, 'request-invalid']);
  });
});

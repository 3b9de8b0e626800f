import type {
  ChangeDto,
  ElementCostDto,
  ElementStatesDto,
  FindingsPageDto,
  JobDto,
  ListFileDto,
  ListPreviewDto,
  ProblemDto,
} from '@tally/core';
import { TestServer } from '../../testing/run-server.ts';

const server = new TestServer();
const { call, send, state } = server;
beforeAll(() => server.start(), 60_000);
afterAll(() => server.stop());
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Fittings of the yard: the locker is in the demo's book at 128.00, the bench has a price of its own. */
const FIRST = [
  'Yard fittings',
  'Code;Text;Qty;Unit;Group;Level;Price',
  'M-LOCK;Locker;12;pcs;Changing;Ground floor;',
  'BENCH;Bench of larch;4;each;Changing;Ground floor;210,50',
  'ROPE;Rope rail;36,5;m;Quay;;14,20',
  ';;;;;;',
  'X-1;Broken;many;each;;;',
  'X-2;Unknown unit;3;barrel;;;',
].join('\n');

describe('a list made elsewhere', () => {
  let id = '';
  let list: ListFileDto;
  const bring = async (text: string) => (await send<ListFileDto>(`/projects/${id}/lists`, 'yard-1.csv', text)).body;
  const wanted = (more: object = {}) => ({
    profile: { ...list.profile, pricesCount: true, decimal: 'comma' },
    sourceId: list.sourceId,
    name: list.name,
    fileName: list.fileName,
    ...more,
  });
  const take = async (hash: string, body: unknown) => {
    const job = (await call<JobDto>(`/projects/${id}/lists/${hash}/take`, body)).body;
    for (let turn = 0; turn < 100; turn++) {
      const now = await state(id);
      const own = now.jobs.find((j) => j.id === job.id);
      if (own && own.state !== 'queued' && own.state !== 'running') return { now, own };
      await wait(100);
    }
    throw new Error('The list was not taken.');
  };

  it('is looked at: its columns are guessed, its rows told before anything is taken', async () => {
    id = await server.makeProject();
    list = await bring(FIRST);
    expect(list).toMatchObject({ sourceId: null, isKnown: false, profile: { headerRow: 1, key: 'code', columns: { code: 0, description: 1, quantity: 2, unit: 3, group: 4, storey: 5, price: 6 } } }); // biome-ignore format: one answer
    const seen = await call<ListPreviewDto>(`/projects/${id}/lists/${list.fileHash}/preview`, wanted());
    expect(seen.body).toMatchObject({ lines: 3, refusedCount: 2, alike: 0, known: 1, priced: 2, came: 3, went: 0, changed: 0 }); // biome-ignore format: one answer
    expect(seen.body.refused.map((r) => [r.row, r.reason])).toEqual([
      [7, '"many" is no figure.'],
      [8, 'There is no unit "barrel".'],
    ]);
  });
  it('prices itself: by the book where it knows the code, by its own prices', async () => {
    const { now, own } = await take(list.fileHash, wanted());
    expect(own).toMatchObject({ state: 'done', problem: null });
    // 12 x 128.00 + 4 x 210.50 + 36.5 x 14.20 = 1,536.00 + 842.00 + 518.30.
    expect(now.summary).toMatchObject({ total: 289_630, counts: { priced: 3, unpriced: 0 } });
    expect(now.sources).toMatchObject([{ kind: 'list', name: list.name, revisions: [{ state: 'counting', elements: 3, schema: 'List' }] }]); // biome-ignore format: one source
    const found = await call<FindingsPageDto>(`/projects/${id}/findings`);
    expect(found.body.findings.map((f) => f.finding.code)).toEqual(['list-row-refused', 'list-row-refused']);
    expect(now.sources[0]!.revisions[0]!.findingLines).toBe(1);
    const plan = await call<{ label: string; minor: number; groups: { label: string; minor: number }[] }>(`/projects/${id}/plan?by=section,storey`); // biome-ignore format: one call
    expect(plan.body.groups.map((g) => [g.label, g.minor])).toEqual([['From lists', 289_630]]);
    const [own1] = (await call<ElementStatesDto[]>(`/projects/${id}/elements/states`)).body;
    const cost = await call<ElementCostDto>(`/projects/${id}/elements/${own1!.keys[1]}/cost`);
    expect(cost.body.lines[0]).toMatchObject({ code: 'BENCH', net: 4, rate: 210.5, reason: 'By its code, or the price of its list', item: { description: 'Bench of larch', source: 'Price of the list' } }); // biome-ignore format: one line
  });
  it('takes an attribute on all that a scope catches as one change, and one undo', async () => {
    const give = async (of: object, value: unknown, base?: number, author = 'Ann') =>
      call<ChangeDto & ProblemDto>(
        `/projects/${id}/attributes`,
        { base: base ?? (await state(id)).project.seq, name: 'Lot', value, of },
        { 'x-author': author },
      );
    const changing = { scope: { field: 'type', op: 'is', value: 'changing' } };
    const given = await give(changing, 'A');
    expect(given).toMatchObject({ status: 200, body: { cause: 'Lot of 2 elements: A', entryCount: 2 } });
    const { layer, project } = await state(id);
    expect(Object.values(layer.attributes)).toEqual([{ Lot: 'A' }, { Lot: 'A' }]);
    expect(await give(changing, 'A')).toMatchObject({ status: 400, body: { code: 'request-invalid' } });
    expect(await give({ scope: { field: 'type', op: 'is', value: 'Nobody' } }, 'A')).toMatchObject({ status: 400, body: { code: 'scope-catches-nothing' } }); // biome-ignore format: one line
    expect(await give({ keys: [] }, 'A')).toMatchObject({ status: 400 });
    // Somebody else gave one of them another value since the state that this was made on.
    const key = Number(Object.keys(layer.attributes)[0]);
    expect((await give({ keys: [key] }, 'B')).status).toBe(200);
    expect(await give({ keys: [key] }, 'C', project.seq, 'Ben')).toMatchObject({ status: 409 });
    for (let n = 0; n < 2; n++) await call(`/projects/${id}/undo`, {}, { 'x-author': 'Ann' });
    expect((await state(id)).layer.attributes).toEqual({});
  });
  it('is replaced by a newer one: lines are known by their code, what was decided stays', async () => {
    const [before] = (await call<ElementStatesDto[]>(`/projects/${id}/elements/states`)).body;
    const [locker, bench, rope] = before!.keys;
    const pin = { id: 'p', element: rope, section: 'fittings', leaveOut: 'Bought by the client' };
    const { project } = await state(id);
    await call(`/projects/${id}/changes`, { base: project.seq, cause: 'Rope left out', diff: { added: [{ kind: 'pin', id: 'p', body: pin }], updated: [], removed: [] } }); // biome-ignore format: one change
    list = await bring(
      'Code;Text;Qty;Unit;Group;Level;Price\nROPE;Rope rail;40;m;Quay;;14,20\nM-LOCK;Locker;10;pcs;Changing;;\nHOOK;Boat hook;6;each;;;9,00',
    );
    expect(list).toMatchObject({ isKnown: true, profile: { headerRow: 0 } });
    const seen = await call<ListPreviewDto>(`/projects/${id}/lists/${list.fileHash}/preview`, wanted());
    expect(seen.body).toMatchObject({ lines: 3, came: 1, went: 1, changed: 2 });
    const { now } = await take(list.fileHash, wanted());
    const [after] = (await call<ElementStatesDto[]>(`/projects/${id}/elements/states`)).body;
    expect([after!.keys[0], after!.keys[1]]).toEqual([rope, locker]);
    expect(after!.keys).not.toContain(bench);
    // 10 x 128.00 + 6 x 9.00; the rope is left out.
    expect(now.summary).toMatchObject({ total: 133_400, counts: { priced: 2, leftOut: 1 } });
  });
  it('that cannot be used says why, and nothing is made', async () => {
    const sourceCount = (await state(id)).sources.length;
    const other = (await send<ListFileDto>(`/projects/${id}/lists`, 'other.csv', 'Code,Text,Qty,Unit\nA,B,none,each\n'))
      .body;
    const body = { profile: other.profile, sourceId: null, name: 'other', fileName: 'other.csv' };
    const seen = await call<ProblemDto>(`/projects/${id}/lists/${other.fileHash}/preview`, body);
    expect([seen.status, seen.body.code, seen.body.detail]).toEqual([400, 'list-without-lines', 'No row of "CSV" can be used: row 2, "none" is no figure.']); // biome-ignore format: one answer
    const open = await call<ProblemDto>(`/projects/${id}/lists/${'0'.repeat(64)}/take`, body);
    expect(open.status).toBe(404);
    const named = await call<ProblemDto>(`/projects/${id}/lists/${other.fileHash}/take`, { ...body, name: list.name });
    expect([named.status, named.body.code]).toEqual([409, 'source-named-so']);
    expect((await state(id)).sources).toHaveLength(sourceCount);
  });
});

describe('costs without an object', () => {
  it('are priced like elements, by what they go by; one whose measure is not known is unknown', async () => {
    const id = await server.makeProject();
    const allowances = {
      '-1': { code: 'PERMIT', name: 'Building permit', measure: 'once', rate: '3200.00' },
      '-2': { code: 'CABIN', name: 'Site cabin', measure: 'weeks', amount: 26, rate: '185.00', kind: 'plant' },
      '-3': { code: 'CLEAN', name: 'Final cleaning', measure: 'floorArea', rate: '6.40' },
    };
    const added = Object.entries(allowances).map(([key, body]) => ({ kind: 'allowance', id: key, body }));
    const made = await call(`/projects/${id}/changes`, { base: 1, cause: 'Allowances', diff: { added, updated: [], removed: [] } }); // biome-ignore format: one change
    expect(made).toMatchObject({ status: 200 });
    const now = await state(id);
    // 3,200.00 + 26 x 185.00; there is no floor yet.
    expect(now.summary).toMatchObject({ total: 801_000, unknownLines: 1, counts: { priced: 2, unpriced: 1 } });
    const plan = await call<{ groups: { label: string; minor: number; unknown: number }[] }>(`/projects/${id}/plan?by=section`); // biome-ignore format: one call
    expect(plan.body.groups).toMatchObject([{ label: 'Allowances', minor: 801_000, unknown: 1 }]);
    const refused = await call<ProblemDto>(`/projects/${id}/changes`, { base: now.project.seq, cause: 'x', diff: { added: [{ kind: 'allowance', id: '-9', body: { code: 'A', name: 'B', measure: 'once', rate: 'much' } }], updated: [], removed: [] } }); // biome-ignore format: one change
    expect([refused.status, refused.body.detail]).toEqual([
      400,
      expect.stringContaining('A rate is a figure such as 185.00.'),
    ]);
  });
});

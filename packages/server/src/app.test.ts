import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ChangeDto, ComparisonDto, ElementStatesDto, EventDto, JobDto, MoveDto, TablePartsDto } from '@tally/core';
import { REVISIONS, writeBoathouse, writeLodgeModel } from '@tally/demo';
import { TestServer } from './testing/run-server.ts';

const server = new TestServer();
const { call, state, makeProject } = server;
beforeAll(() => server.start());
afterAll(() => server.stop());

it('refuses a second process on the same data folder', async () => {
  expect((await server.spawn()).output).toContain('is in use by another Crisp Tally');
});

const upload = (project: string, name: string, content: string | Uint8Array, sourceId = '') =>
  server.send<JobDto>(`/projects/${project}/uploads`, name, content, { sourceId });
async function until<T>(read: () => Promise<T>, isDone: (value: T) => boolean): Promise<T> {
  for (let i = 0; ; i++) {
    const value = await read();
    if (isDone(value)) return value;
    if (i > 200) throw new Error(`Waited too long: ${JSON.stringify(value).slice(0, 400)}`);
    await new Promise((r) => setTimeout(r, 200));
  }
}
const settled = (project: string, id: string) =>
  until(
    () => state(project),
    (s) => ['done', 'failed', 'stopped'].includes(s.jobs.find((j) => j.id === id)?.state ?? ''),
  );
const R1 = writeBoathouse(REVISIONS.R1);

describe('from a file to a plan that follows', () => {
  let id = '';
  it('prices an uploaded model', async () => {
    id = await makeProject();
    const job = await upload(id, 'heron-R1.ifc', R1);
    const after = await settled(id, job.body.id);
    expect(after.jobs[0]!.problem).toBeNull();
    expect(after.summary.counts).toEqual({ priced: 415, leftOut: 10, unpriced: 16, partly: 0 });
    expect(after.sources[0]).toMatchObject({
      name: 'heron',
      revisions: [{ state: 'counting', elements: 441, geometryState: 'done' }],
    });
    const plan = await call<{ minor: number }>(`/projects/${id}/plan?by=section,storey`);
    expect(plan.body.minor).toBe(after.summary.total);
  });

  it('moves at once with a rate, tells every stream, refuses a stale write, undoes and redoes', async () => {
    const events: EventDto[] = [];
    const stream = await fetch(`${server.base}/events`);
    const reader = stream.body!.getReader();
    void (async () => {
      const decoder = new TextDecoder();
      let text = '';
      for (;;) {
        const { value, done } = await reader.read();
        if (done) return;
        const parts = (text + decoder.decode(value, { stream: true })).split('\n\n');
        text = parts.pop()!;
        for (const part of parts) {
          const json = /^data: (.*)$/m.exec(part)?.[1];
          if (json) events.push(JSON.parse(json));
        }
      }
    })().catch(() => undefined);
    const before = await state(id);
    const from = before.basis.items.find((i) => i.code === 'M-LOCK')!;
    // 24 lockers, 10.00 dearer each.
    const diff = {
      added: [],
      updated: [{ kind: 'item', id: 'M-LOCK', from, to: { ...from, rate: '138' } }],
      removed: [],
    };
    const changed = await call<ChangeDto>(
      `/projects/${id}/changes`,
      { base: before.project.seq, cause: 'Rate of M-LOCK 128.00 > 138', diff },
      { 'x-author': 'Ann' },
    );
    expect(changed.body).toMatchObject({ author: 'Ann', move: { move: 24000, causes: { price: 24000 } } });
    expect((await state(id)).summary.total).toBe(before.summary.total + 24000);
    const stale = await call<{ code: string; changes: ChangeDto[] }>(
      `/projects/${id}/changes`,
      { base: before.project.seq, cause: 'x', diff },
      { 'x-author': 'Ben' },
    );
    expect(stale).toMatchObject({ status: 409, body: { code: 'change-conflict', changes: [{ author: 'Ann' }] } });
    expect((await call(`/projects/${id}/undo`, {}, { 'x-author': 'Ben' })).status).toBe(409);
    expect((await call<ChangeDto>(`/projects/${id}/undo`, {}, { 'x-author': 'Ann' })).body).toMatchObject({
      cause: 'Undone: Rate of M-LOCK 128.00 > 138',
      move: { move: -24000 },
    });
    expect((await state(id)).summary.total).toBe(before.summary.total);
    expect((await call<ChangeDto>(`/projects/${id}/redo`, {}, { 'x-author': 'Ann' })).body.move!.move).toBe(24000);
    await call(`/projects/${id}/undo`, {}, { 'x-author': 'Ann' });
    await until(
      async () => events,
      (e) => e.filter((x) => x.kind === 'change').length >= 4,
    );
    await reader.cancel();
    expect(events.flatMap((e) => (e.kind === 'change' ? [e.change.move!.move] : []))).toEqual([
      24000, -24000, 24000, -24000,
    ]);
    const resumed = await fetch(`${server.base}/events`, { headers: { 'last-event-id': String(changed.body.id) } });
    const missed = resumed.body!.getReader();
    let text = '';
    while (text.split('data: ').length < 4) text += new TextDecoder().decode((await missed.read()).value);
    expect(text).toContain(`"change":{"id":${changed.body.id + 1},`);
    expect(text).not.toContain(`"change":{"id":${changed.body.id},`);
    await missed.cancel();
  });

  it('says how a change would move the plan before it is made, and keeps nothing', async () => {
    const before = await state(id);
    const from = before.basis.items.find((i) => i.code === 'M-LOCK')!;
    const preview = (rate: string) =>
      call<MoveDto>(`/projects/${id}/preview`, {
        diff: { added: [], updated: [{ kind: 'item', id: 'M-LOCK', from, to: { ...from, rate } }], removed: [] },
      });
    // 24 lockers, 10.00 dearer and 28.00 cheaper each.
    expect((await preview('138')).body).toMatchObject({ move: 24000, causes: { price: 24000 } });
    expect((await preview('100')).body.move).toBe(-67200);
    expect((await preview('cheap')).status).toBe(400);
    const after = await state(id);
    expect([after.summary.total, after.project.seq]).toEqual([before.summary.total, before.project.seq]);
  });

  it('takes the next revision from the drop folder once, and says what came, went and changed', async () => {
    const folder = join(server.data, 'drop', id);
    await call(`/projects/${id}/desk`);
    const total = (await state(id)).summary.total;
    const issued = await call<{ fileName: string }>(`/projects/${id}/desk`, REVISIONS.R2);
    expect(issued.body.fileName).toBe('heron-wharf-R2.ifc');
    // It counts beside the other source; cents of the move below depend on which of the two is there first.
    await until(
      async () => (await call<ChangeDto[]>(`/projects/${id}/changes`)).body,
      (list) => list.some((c) => c.cause.includes('heron-wharf-R2') && c.move),
    );
    writeFileSync(join(folder, 'heron-R2.ifc'), writeBoathouse(REVISIONS.R2));
    const after = await until(
      () => state(id),
      (s) => s.sources.some((x) => x.name === 'heron' && x.revisions.length === 2),
    );
    expect(after.sources.find((x) => x.name === 'heron')!.revisions).toHaveLength(2);
    const changes = await until(
      async () => (await call<ChangeDto[]>(`/projects/${id}/changes`)).body,
      (list) => list.some((c) => c.cause.includes('heron-R2') && c.move),
    );
    const change = changes.find((c) => c.cause.includes('heron-R2'));
    expect(change!.move).toMatchObject({
      // 88.66 of it are packs and lengths of both sources together.
      move: 7382853,
      causes: { price: 0, factors: 0 },
    });
    expect(change!.move!.after - change!.move!.before).toBe(change!.move!.move);
    const { body } = await call<ComparisonDto>(
      `/projects/${id}/compare?from=seq:${change!.seq - 1}&to=seq:${change!.seq}`,
    );
    // Three partitions were drawn anew: they are the ones of before.
    expect(body.counts).toMatchObject({ came: 52, went: 0, identified: 3 });
    expect(body.move).toEqual(change!.move);
    expect(body.groups.reduce((sum, g) => sum + g.move, 0)).toBe(7382853);
    expect(total).toBeGreaterThan(0);
  });

  it('takes a model whose every id was renewed for the building that it is', async () => {
    const other = await makeProject();
    const first = await settled(other, (await upload(other, 'a.ifc', R1)).body.id);
    const source = first.sources[0]!;
    const renewed = R1.replace(
      /('[0-3][0-9A-Za-z_$]{20})([0-9A-Za-z_$]')/g,
      (_, a: string, b: string) => `${a}${b[0] === 'x' ? 'y' : 'x'}'`,
    );
    const after = await settled(other, (await upload(other, 'b.ifc', renewed, source.id)).body.id);
    const [revision] = after.sources[0]!.revisions;
    expect(revision!.state).toBe('counting');
    // Two columns stand in one place, equally alike: which is which nobody can tell.
    expect(revision!.matched).toBe(revision!.elements - 2);
    expect(after.summary.total).toBe(first.summary.total);
  });

  it('lets an unknown model wait for a yes, and counts it when told', async () => {
    const other = await makeProject();
    await settled(other, (await upload(other, 'a.ifc', R1)).body.id);
    const source = (await state(other)).sources[0]!;
    // A lodge in place of the boathouse.
    const strange = writeLodgeModel();
    const waiting = await settled(other, (await upload(other, 'b.ifc', strange, source.id)).body.id);
    expect(waiting.sources[0]!.revisions[0]).toMatchObject({ state: 'waiting', matched: expect.any(Number) });
    expect(waiting.sources[0]!.revisions[1]!.state).toBe('counting');
    await call(`/projects/${other}/revisions/${waiting.sources[0]!.revisions[0]!.id}/count`, {});
    expect((await state(other)).sources[0]!.revisions[0]!.state).toBe('counting');
  });

  it('asks before a file that was written earlier counts', async () => {
    const other = await makeProject();
    const written = (day: string) => writeBoathouse(REVISIONS.R1, { timestamp: `2026-03-${day}T09:00:00` });
    await settled(other, (await upload(other, 'a.ifc', written('12'))).body.id);
    const source = (await state(other)).sources[0]!;
    const older = await settled(other, (await upload(other, 'b.ifc', written('05'), source.id)).body.id);
    expect(older.sources[0]!.revisions.map((r) => [r.state, r.fileTime])).toEqual([
      ['waiting', '2026-03-05T09:00:00.000Z'],
      ['counting', '2026-03-12T09:00:00.000Z'],
    ]);
    const newer = await settled(other, (await upload(other, 'c.ifc', written('19'), source.id)).body.id);
    expect(newer.sources[0]!.revisions[0]!.state).toBe('counting');
  });

  it('prices what lies below a level, and a chosen face, and both again in the next revision', async () => {
    const other = await makeProject(false);
    await settled(other, (await upload(other, 'p-R1.ifc', R1)).body.id);
    const change = async (cause: string, ...added: { kind: string; id: string; body: unknown }[]) => {
      const { project } = await state(other);
      return call<ChangeDto>(`/projects/${other}/changes`, {
        base: project.seq,
        cause,
        diff: { added, updated: [], removed: [] },
      });
    };
    const rule = (rid: string, name: string, driver: string) => ({
      kind: 'rule',
      id: rid,
      body: {
        id: rid,
        name,
        scope: { field: 'name', op: 'is', value: 'Outer wall north G2' },
        section: 's',
        item: 'R',
        driver,
      },
    });
    const item = { code: 'R', description: 'Render', kind: 'material', unit: 'm2', rate: '10.00' };
    await change(
      'Plinth priced',
      { kind: 'section', id: 's', body: { id: 's', name: 'Render' } },
      { kind: 'item', id: 'R', body: item },
      { kind: 'limit', id: 'plinth', body: { name: 'Plinth', below: { storey: 'Ground floor', offsetM: 0.3 } } },
      rule('r1', 'Plinth', 'within("Plinth", NetSideArea)'),
    );
    // 4.8 x 0.3 m2 at 10.00.
    expect((await state(other)).summary.total).toBe(1440);
    const parts = await call<TablePartsDto[]>(`/projects/${other}/parts`);
    const [limit] = parts.body[0]!.limits;
    const crossing = limit!.crossing.length;
    expect(crossing).toBeGreaterThan(20);
    const states = (await call<ElementStatesDto[]>(`/projects/${other}/elements/states`)).body[0]!;
    const key = states.keys[states.amounts.findIndex((a) => a > 0)]!;
    const face = { normal: [0, 1, 0] as const, offsetM: 0.15 };
    await change(
      'Face chosen',
      { kind: 'chosenFaces', id: String(key), body: { 'North face': [face] } },
      { kind: 'section', id: 't', body: { id: 't', name: 'Face' } },
      { ...rule('r2', 'Face', 'NorthFace'), body: { ...rule('r2', 'Face', 'NorthFace').body, section: 't' } },
    );
    // One face of 15.84 m2 on top.
    expect((await state(other)).summary.total).toBe(1440 + 15840);

    // The second revision has storeys of 3.8 instead of 3.6 m: the face grows by 0.96 m2, the plinth stays.
    const next = await settled(
      other,
      (await upload(other, 'p-R2.ifc', writeBoathouse({ ...REVISIONS.R1, storeyHeight: 3800 }))).body.id,
    );
    expect(next.sources[0]!.revisions[0]).toMatchObject({ state: 'counting', geometryState: 'done' });
    expect(next.summary).toMatchObject({ total: 1440 + 16800, unknownLines: 0 });
    const again = (await call<TablePartsDto[]>(`/projects/${other}/parts`)).body[0]!;
    expect(again.limits[0]!.crossing).toHaveLength(crossing);
    const moved = (await call<ChangeDto[]>(`/projects/${other}/changes`)).body[0]!;
    expect(moved).toMatchObject({ cause: 'Revision 2, p-R2.ifc', move: { move: 960, causes: { quantity: 960 } } });
  });

  it('opens an amount, sends the plan as CSV and packed files', async () => {
    const states = (await call<{ keys: number[]; amounts: number[] }[]>(`/projects/${id}/elements/states`)).body;
    const key = states[0]!.keys[states[0]!.amounts.findIndex((a) => a > 0)]!;
    expect(
      (await call<{ lines: unknown[] }>(`/projects/${id}/elements/${key}/cost`)).body.lines.length,
    ).toBeGreaterThan(0);
    expect((await call(`/projects/${id}/elements/999999/cost`)).status).toBe(404);
    const csv = await (await fetch(`${server.base}/projects/${id}/plan.csv?by=section`)).text();
    expect(csv.split('\r\n')[0]).toContain('Work section,Item,Description');
    expect((await call(`/projects/${id}/plan?by=colour`)).status).toBe(400);
  });
});

describe('bad input leaves the server alive and says what to do', () => {
  it.each([
    ['an empty file', '', 'file-empty'],
    ['a text', 'hello', 'file-not-ifc'],
    ['a zip', 'PK\u0003\u0004xx', 'file-zipped'],
    [
      'another schema',
      "ISO-10303-21;HEADER;FILE_SCHEMA(('AP214'));ENDSEC;DATA;ENDSEC;END-ISO-10303-21;",
      'file-schema-unknown',
    ],
    [
      'no elements',
      "ISO-10303-21;HEADER;FILE_SCHEMA(('IFC4'));ENDSEC;DATA;ENDSEC;END-ISO-10303-21;",
      'file-without-elements',
    ],
  ])('%s', async (name, content, code) => {
    const id = await makeProject(false);
    const after = await settled(id, (await upload(id, `${name}.ifc`, content)).body.id);
    expect(after.jobs[0]).toMatchObject({ state: 'failed', problem: { code, remedy: expect.any(String) } });
    expect(after.sources.flatMap((s) => s.revisions)).toEqual([]);
  });
  it('the same file twice, and two at once', async () => {
    const id = await makeProject(false);
    const [a, b] = await Promise.all([upload(id, 'a.ifc', R1), upload(id, 'b.ifc', writeBoathouse(REVISIONS.R3))]);
    await settled(id, a.body.id);
    const after = await settled(id, b.body.id);
    expect(after.jobs.map((j) => j.state)).toEqual(['done', 'done']);
    expect((await upload(id, 'c.ifc', R1)).status).toBe(409);
  });
  it('a stop in the middle leaves nothing half-visible', async () => {
    const id = await makeProject(false);
    const job = await upload(id, 'big.ifc', writeBoathouse(REVISIONS.R1, { copies: 12 }));
    await until(
      () => state(id),
      (s) => s.jobs[0]?.state === 'running',
    );
    expect((await call<JobDto>(`/projects/${id}/jobs/${job.body.id}/stop`, {})).body.state).toBe('stopped');
    expect((await state(id)).sources.flatMap((s) => s.revisions)).toEqual([]);
  });
  it('an upload cut off half-way', async () => {
    const id = await makeProject(false);
    const end = new AbortController();
    const body = new ReadableStream({
      start(c) {
        c.enqueue(
          new TextEncoder().encode(
            '--x\r\nContent-Disposition: form-data; name="file"; filename="a.ifc"\r\n\r\nISO-10303-21;',
          ),
        );
        setTimeout(() => end.abort(), 100);
      },
    });
    await expect(
      fetch(`${server.base}/projects/${id}/uploads`, {
        method: 'POST',
        body,
        headers: { 'content-type': 'multipart/form-data; boundary=x' },
        signal: end.signal,
        duplex: 'half',
      } as RequestInit),
    ).rejects.toThrow();
    expect((await state(id)).jobs).toEqual([]);
  });
  it('requests that are not right, not ours or not there', async () => {
    const id = await makeProject(false);
    const change = (diff: object) =>
      call<{ code: string; detail: string }>(`/projects/${id}/changes`, {
        base: 1,
        cause: 'x',
        diff: { added: [], updated: [], removed: [], ...diff },
      });
    expect(
      await change({
        added: [
          { kind: 'item', id: 'A', body: { code: 'A', description: '', kind: 'material', unit: 'sqm', rate: '1' } },
        ],
      }),
    ).toMatchObject({ status: 400, body: { code: 'entry-invalid', detail: expect.stringContaining('item A, unit') } });
    expect(
      await change({
        added: [
          { kind: 'item', id: 'B', body: { code: 'A', description: '', kind: 'material', unit: 'm2', rate: null } },
        ],
      }),
    ).toMatchObject({ status: 400 });
    const priced = (code: string, rate: string, more = {}) => ({
      kind: 'item',
      id: code,
      body: { code, description: '', kind: 'material', unit: 'm2', rate, ...more },
    });
    expect(await change({ added: [priced('a', '1'), priced('A', '2')] })).toMatchObject({
      status: 400,
      body: { code: 'code-too-alike' },
    });
    expect(await change({ added: [priced('C', '-1')] })).toMatchObject({
      status: 400,
      body: { code: 'entry-invalid' },
    });
    expect(await change({ added: [{ kind: 'spell', id: 'B', body: {} }] })).toMatchObject({ status: 400 });
    expect(await change({})).toMatchObject({ status: 400 });
    expect(await call('/projects', { name: '', currency: 'EUR' })).toMatchObject({
      status: 400,
      body: { code: 'request-invalid' },
    });
    expect((await call('/projects/none')).status).toBe(404);
    expect((await call('/nowhere')).status).toBe(404);
    const foreign = await fetch(`${server.base}/projects`, { headers: { origin: 'http://elsewhere.example' } });
    expect(foreign.status).toBe(403);
    expect(foreign.headers.get('content-type')).toContain('application/problem+json');
    expect((await call(`/projects/${id}/desk`, { ...REVISIONS.R1, bays: 99 })).status).toBe(400);
  });

  it('takes a template of 17,000 items, and gives it out again', async () => {
    const id = await makeProject(false);
    const items = Array.from({ length: 17_000 }, (_, i) => ({
      code: `T-${i}`,
      description: `Thing ${i} of a long list`,
      kind: 'material',
      unit: 'm',
      rate: `${i % 900}.25`,
    }));
    const template = {
      format: 'crisp-tally-template/1',
      name: 'Long',
      settings: { currency: 'EUR', units: 'metric' },
      sections: [],
      items,
      assemblies: [],
      rules: [],
    };
    expect((await call(`/projects/${id}/template`, { template })).status).toBe(200);
    const out = (await call<typeof template>(`/projects/${id}/template.json`)).body;
    expect([out.items.length, out.items.find((i) => i.code === 'T-16999')]).toEqual([17_000, items[16_999]]);
  }, 60_000);

  it('undoes two steps for two undos at once, and tells people without a name apart', async () => {
    const id = await makeProject();
    const rateOf = async () => (await state(id)).basis.items.find((i) => i.code === 'M-LOCK')!;
    const edit = async (rate: string, author: string) => {
      const from = await rateOf();
      const diff = { added: [], removed: [], updated: [{ kind: 'item', id: 'M-LOCK', from, to: { ...from, rate } }] };
      const base = (await state(id)).project.seq;
      return call(`/projects/${id}/changes`, { base, cause: rate, diff }, { 'x-author': author });
    };
    await edit('129.00', 'Teal 12');
    await edit('130.00', 'Teal 12');
    const undo = (author: string) => call<{ code?: string }>(`/projects/${id}/undo`, {}, { 'x-author': author });
    // Somebody else has nothing to take back.
    expect((await undo('Heron 77')).body.code).toBe('nothing-to-undo');
    const both = await Promise.all([undo('Teal 12'), undo('Teal 12')]);
    expect(both.map((b) => b.status)).toEqual([200, 200]);
    expect((await rateOf()).rate).toBe('128.00');
  });

  it('refuses an upload for a source that is not there, and goes on', async () => {
    const id = await makeProject(false);
    const form = new FormData();
    form.append('sourceId', 'nope');
    form.append('file', new Blob([R1]), 'a.ifc');
    const res = await fetch(`${server.base}/projects/${id}/uploads`, { method: 'POST', body: form });
    expect([res.status, ((await res.json()) as { code: string }).code]).toEqual([404, 'not-found']);
    expect((await state(id)).jobs).toEqual([]);
  });

  it('a material whose name has a sign that no text has is read; the server stays', async () => {
    const id = await makeProject(false);
    const odd = R1.replaceAll("'Mineral quilt'", "'Mineral\\X\\00quilt'");
    expect(odd).not.toBe(R1);
    const after = await settled(id, (await upload(id, 'odd.ifc', odd)).body.id);
    expect(after.jobs[0]).toMatchObject({ state: 'done' });
    expect(after.sources[0]!.revisions[0]!.elements).toBe(441);
  });
});

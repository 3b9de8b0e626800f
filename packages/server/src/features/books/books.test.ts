import type { EntryDiff, ProjectEffectDto } from '@tally/core';
import { TestServer } from '../../testing/run-server.ts';

const server = new TestServer();
const { call, state, makeProject } = server;
beforeAll(() => server.start());
afterAll(() => server.stop());

describe('books that projects share', () => {
  const commit = async (id: string, diff: object) =>
    call(`/projects/${id}/changes`, {
      base: (await state(id)).project.seq,
      cause: 'x',
      diff: { added: [], updated: [], removed: [], ...diff },
    });
  const publish = (id: string, body: object) => call<{ code?: string }>(`/projects/${id}/book/publish`, body);
  const rateOf = async (id: string, code: string) => (await state(id)).basis.items.find((i) => i.code === code)?.rate;

  it('have versions that never change; a project stands on one, sees newer ones, and keeps what is its own', async () => {
    const first = await makeProject();
    const before = (await state(first)).basis;
    expect((await publish(first, { name: 'River prices', note: 'First' })).status).toBe(200);
    const shared = await state(first);
    expect(shared.book).toMatchObject({ name: 'River prices', version: 1, newest: 1, own: [], overrides: [] });
    // The same prices as before, and nothing twice.
    expect(shared.basis.items.map((i) => i.code).sort()).toEqual(before.items.map((i) => i.code).sort());
    expect(await publish(first, { note: '' })).toMatchObject({ status: 409, body: { code: 'book-unchanged' } });
    expect(await publish(await makeProject(), { name: 'river PRICES', note: '' })).toMatchObject({
      body: { code: 'book-name-taken' },
    });

    const second = await makeProject(false);
    const { book } = shared;
    const pin = { bookId: book!.bookId, version: 1, hash: book!.hash };
    expect((await commit(second, { added: [{ kind: 'book', id: 'project', body: pin }] })).status).toBe(200);
    expect(await rateOf(second, 'M-BATT')).toBe('0.98');

    // The first project changes a rate for itself, then for all.
    const batten = shared.basis.items.find((i) => i.code === 'M-BATT')!;
    await commit(first, { added: [{ kind: 'item', id: 'M-BATT', body: { ...batten, rate: '1.20' } }] });
    expect((await state(first)).book).toMatchObject({ own: ['item/M-BATT'], overrides: ['item/M-BATT'] });
    expect(await rateOf(second, 'M-BATT')).toBe('0.98');
    expect((await publish(first, { note: 'Battens' })).status).toBe(200);
    expect((await state(first)).book).toMatchObject({ version: 2, own: [] });
    expect((await state(second)).book).toMatchObject({ version: 1, newest: 2 });
    expect(await rateOf(second, 'M-BATT')).toBe('0.98');
    const changed = await call<EntryDiff>(`/books/${book!.bookId}/compare?from=1&to=2`);
    expect(changed.body).toMatchObject({ added: [], removed: [], updated: [{ id: 'M-BATT', to: { rate: '1.20' } }] });

    // One that has not taken the newer version over cannot publish over it.
    await commit(second, { added: [{ kind: 'item', id: 'OWN', body: { ...batten, code: 'OWN' } }] });
    expect(await publish(second, { note: '' })).toMatchObject({ status: 409, body: { code: 'book-newer' } });
    const newest = (await call<{ number: number; hash: string }[]>(`/books/${book!.bookId}/versions`)).body[0]!;
    const to = { bookId: book!.bookId, version: newest.number, hash: newest.hash };
    await commit(second, { updated: [{ kind: 'book', id: 'project', from: pin, to }] });
    expect(await rateOf(second, 'M-BATT')).toBe('1.20');
    expect(await rateOf(second, 'OWN')).toBe('0.98');
    expect((await call(`/projects/${second}/undo`, {})).status).toBe(200);
    expect(await rateOf(second, 'M-BATT')).toBe('0.98');
  });

  it('are done without in parts: what a project takes out is gone there, comes back, and is not in what it shares', async () => {
    const first = await makeProject();
    expect((await publish(first, { name: 'Yard prices', note: '' })).status).toBe(200);
    const { book, basis } = await state(first);
    const second = await makeProject(false);
    const pin = { bookId: book!.bookId, version: 1, hash: book!.hash };
    await commit(second, { added: [{ kind: 'book', id: 'project', body: pin }] });
    const out = { kind: 'takenOut', id: 'item/M-BATT', body: {} };
    expect((await commit(second, { added: [out] })).status).toBe(200);
    expect(await rateOf(second, 'M-BATT')).toBeUndefined();
    expect(await rateOf(first, 'M-BATT')).toBe('0.98');
    expect((await state(second)).book).toMatchObject({ takenOut: ['item/M-BATT'], own: [] });
    expect((await call(`/projects/${second}/undo`, {})).status).toBe(200);
    expect(await rateOf(second, 'M-BATT')).toBe('0.98');
    await commit(second, { added: [out] });
    // The next version does without it, and the other project is told what that does.
    expect((await publish(second, { note: 'No battens' })).status).toBe(200);
    const shared = (await state(second)).book!;
    expect(shared).toMatchObject({ version: 2, takenOut: [], own: [] });
    const effects = await call<ProjectEffectDto[]>(`/projects/${second}/book/${book!.bookId}/effects?version=2`);
    expect(effects.body).toMatchObject([{ projectId: first, prices: 1, move: { move: 0 } }]);
    const { seq, diff } = effects.body[0]!;
    expect((await call(`/projects/${first}/changes`, { base: seq, cause: 'Newer', diff })).status).toBe(200);
    expect((await state(first)).basis.items.length).toBe(basis.items.length - 1);
    const ask = async (version: string) =>
      (await call(`/projects/${second}/book/${book!.bookId}/effects?version=${version}`)).status;
    expect([await ask('9'), await ask('newest')]).toEqual([404, 400]);
  });

  it('are refused in a version that is not there', async () => {
    const id = await makeProject(false);
    const body = { bookId: 'none', version: 1, hash: '0'.repeat(64) };
    expect(await commit(id, { added: [{ kind: 'book', id: 'project', body }] })).toMatchObject({
      status: 400,
      body: { code: 'book-version-unknown' },
    });
    expect((await state(id)).book).toBeNull();
  });
});

import type { ChangeDto, CostItem, EntryDiff, EntrySlice, EntrySliceDto, MoveDto } from '@tally/core';
import { TestServer } from '../../testing/run-server.ts';

const server = new TestServer();
const { call } = server;
let id: string;
beforeAll(async () => {
  await server.start();
  id = await server.makeProject();
}, 60_000);
afterAll(() => server.stop());

const read = async (slice: EntrySlice, since?: number) =>
  (await call<EntrySliceDto>(`/projects/${id}/slices/${slice}${since === undefined ? '' : `?since=${since}`}`)).body;
const names = ({ entries }: EntrySliceDto) => entries.map((e) => `${e.kind}/${e.id}`);
const findItem = async (code: string) =>
  (await read('book')).entries.find((e) => e.kind === 'item' && e.id === code)!.body as CostItem;

async function commit(cause: string, diff: Partial<EntryDiff>): Promise<ChangeDto> {
  const { seq } = await read('notes');
  const whole = { added: [], updated: [], removed: [], ...diff };
  const made = await call<ChangeDto>(`/projects/${id}/changes`, { base: seq, cause, diff: whole });
  expect([cause, made.status]).toEqual([cause, 200]);
  return made.body;
}
const setRate = async (code: string, rate: string) => {
  const from = await findItem(code);
  return commit(`Rate ${rate}`, { updated: [{ kind: 'item', id: code, from, to: { ...from, rate } }] });
};

describe('what pages read of a project', () => {
  it('comes slice by slice; of one that is held only what changed in it since', async () => {
    const book = await read('book');
    expect(book.isWhole).toBe(true);
    expect(names(book)).toContain('item/M-LOCK');
    expect(names(book).some((n) => n.startsWith('rule/'))).toBe(false);
    const { seq } = await setRate('M-LOCK', '131.00');
    const since = await read('book', book.seq);
    expect(since).toMatchObject({
      seq,
      isWhole: false,
      gone: [],
      entries: [{ id: 'M-LOCK', body: { rate: '131.00' } }],
    });
    expect(since.entries).toHaveLength(1);
    expect(await read('rules', book.seq)).toEqual({ seq, isWhole: false, entries: [], gone: [] });
    expect(JSON.stringify(since).length).toBeLessThan(1000);
  });
  it('tells what is gone, and comes whole for a state that is not there yet', async () => {
    const { seq } = await read('layer');
    await commit('Left out', { added: [{ kind: 'leftOut', id: '7', body: { reason: 'By others' } }] });
    expect(names(await read('layer', seq))).toEqual(['leftOut/7']);
    await call(`/projects/${id}/undo`, {});
    expect(await read('layer', seq)).toMatchObject({ isWhole: false, entries: [], gone: ['leftOut/7'] });
    expect((await read('layer', 99_999)).isWhole).toBe(true);
    expect((await call(`/projects/${id}/slices/else`)).status).toBe(400);
    expect((await call('/projects/nobody/slices/book')).status).toBe(404);
  });
  it('has the entries of the shared book: one of its own stands in place of it, what is taken out is gone and comes back', async () => {
    await call(`/projects/${id}/book/publish`, { name: 'Yard prices', note: '' });
    const shared = await read('book');
    const lock = await findItem('M-LOCK');
    const own = await commit('Own rate', { added: [{ kind: 'item', id: 'M-LOCK', body: { ...lock, rate: '99.00' } }] });
    const changed = await read('book', shared.seq);
    expect(changed.isWhole).toBe(false);
    expect(changed.entries.map((e) => (e.body as CostItem).rate)).toEqual(['99.00']);
    await commit('Back to the book', { removed: [{ kind: 'item', id: 'M-LOCK', body: { ...lock, rate: '99.00' } }] });
    expect((await read('book', own.seq)).entries.map((e) => (e.body as CostItem).rate)).toEqual(['131.00']);
    const { seq } = await read('book');
    await commit('Done without', { added: [{ kind: 'takenOut', id: 'item/M-LOCK', body: {} }] });
    const without = await read('book', seq);
    expect([names(without), without.gone]).toEqual([['takenOut/item/M-LOCK'], ['item/M-LOCK']]);
    await call(`/projects/${id}/undo`, {});
    const back = await read('book', without.seq);
    expect([names(back), back.gone]).toEqual([['item/M-LOCK'], ['takenOut/item/M-LOCK']]);
  });
  it('comes whole where the book is another', async () => {
    const { seq } = await read('book');
    await setRateInBook('133.00');
    const now = await read('book', seq);
    expect(now.isWhole).toBe(true);
    expect((now.entries.find((e) => e.id === 'M-LOCK')!.body as CostItem).rate).toBe('133.00');
  });
  it('comes whole where more changed than is told one by one', async () => {
    const { seq } = await read('layer');
    const added = Array.from({ length: 2500 }, (_, i) => ({ kind: 'zones', id: String(i + 1), body: ['North'] }));
    await commit('Zones', { added });
    const now = await read('layer', seq);
    expect([now.isWhole, now.entries.length]).toEqual([true, 2500]);
  });
});

/** Gives the locker another rate in the next version of the shared book. */
async function setRateInBook(rate: string): Promise<void> {
  const lock = await findItem('M-LOCK');
  await commit('Own rate', { added: [{ kind: 'item', id: 'M-LOCK', body: { ...lock, rate } }] });
  const made = await call(`/projects/${id}/book/publish`, { note: 'Next' });
  expect(made.status).toBe(200);
}

describe('previews beside changes', () => {
  it('are each of the state that they were asked of or a newer one, whole, and keep nothing', async () => {
    const other = await server.makeProject();
    const state = await server.state(other);
    const lock = state.basis.items.find((i) => i.code === 'M-LOCK')!;
    const tile = state.basis.items.find((i) => i.code === 'M-SLT')!;
    const update = (from: CostItem, rate: string) => ({
      added: [],
      updated: [{ kind: 'item', id: from.code, from, to: { ...from, rate } }],
      removed: [],
    });
    const previews = Array.from({ length: 8 }, (_, i) =>
      call<MoveDto>(`/projects/${other}/preview`, { diff: update(lock, `${200 + i}`) }),
    );
    let now = tile;
    for (let i = 0; i < 5; i++) {
      const rate = `${3 + i}.00`;
      const { seq } = (await call<EntrySliceDto>(`/projects/${other}/slices/notes`)).body;
      const made = await call(`/projects/${other}/changes`, {
        base: seq,
        cause: rate,
        diff: update(now as CostItem, rate),
      });
      expect(made.status).toBe(200);
      now = { ...now, rate };
    }
    for (const { status, body } of await Promise.all(previews)) {
      expect(status).toBe(200);
      // Nothing is measured here, so nothing costs anything: what counts is that each is answered.
      expect(body).toMatchObject({ move: 0, before: 0, after: 0 });
    }
    expect((await server.state(other)).basis.items.find((i) => i.code === 'M-LOCK')!.rate).toBe(lock.rate);
  });
  it('of somebody who has gone end, and hold nobody up', async () => {
    const gone = new AbortController();
    const from = await findItem('M-SLT');
    const diff = { added: [{ kind: 'item', id: 'M-SLT', body: { ...from, rate: '9' } }], updated: [], removed: [] };
    const asked = fetch(`${server.base}/projects/${id}/preview`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ diff }),
      signal: gone.signal,
    });
    gone.abort();
    await expect(asked).rejects.toThrow();
    expect((await call<MoveDto>(`/projects/${id}/preview`, { diff })).status).toBe(200);
  });
});

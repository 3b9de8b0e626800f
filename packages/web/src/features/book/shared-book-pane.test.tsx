/** @jest-environment jsdom */
import type { BookDto } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { type Answers, refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { SharedBookPane } from './shared-book-pane.tsx';

beforeAll(() => {
  giveSizes();
  // The made-up browser scrolls nothing.
  Element.prototype.scrollIntoView = () => {};
});

const YARD: BookDto = { id: 'yard', name: 'Yard prices', version: 3, hash: 'cccccccccccc' };
const versions = [3, 2, 1].map((number) => ({
  number,
  hash: 'abc'[number - 1]!.repeat(12),
  note: `Prices of round ${number}`,
  author: 'Ada',
  at: '2026-04-01T09:00:00.000Z',
}));
const rate = (to: string) => ({
  added: [],
  removed: [],
  updated: [
    {
      kind: 'item',
      id: 'M-LOCK',
      from: { code: 'M-LOCK', description: 'Locker, steel', kind: 'material', unit: 'each', rate: '128.00' },
      to: { code: 'M-LOCK', description: 'Locker, steel', kind: 'material', unit: 'each', rate: to },
    },
  ],
});
const other = { projectId: 'q', name: 'Slip house', currency: 'EUR', prices: 1, seq: 12, diff: rate('130.00'), move: { before: 100_000, after: 101_000, move: 1_000, causes: {} }, problem: null }; // biome-ignore format: one project
const answers = (more: Answers = {}): Answers => ({
  'GET /api/books/yard/versions': () => ({ body: versions }),
  'GET /api/books/yard/compare?from=2&to=3': () => ({ body: rate('130.00') }),
  'GET /api/books': () => ({ body: [YARD] }),
  'GET /book/yard/effects': () => ({ body: [other] }),
  'POST /preview': () => ({ body: { before: 307_200, after: 312_000, move: 4_800, causes: {} } }),
  'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
  'POST /api/projects/q/changes': () => ({ body: { projectId: 'q', seq: 13, move: null } }),
  ...more,
});
const standing = (version: number) =>
  sampleState({
    book: { bookId: 'yard', name: 'Yard prices', version, hash: 'abc'[version - 1]!.repeat(12), newest: 3, own: [],
      overrides: [], takenOut: [] },
  }); // biome-ignore format: one state

describe('the books that projects share', () => {
  it('offer nothing that supposes there is none before they are there', async () => {
    let release = () => {};
    const gate = new Promise<void>((done) => {
      release = done;
    });
    renderInProject(<SharedBookPane />, { 'GET /api/books': () => gate.then(() => ({ body: [] })) });
    expect(await screen.findByRole('progressbar')).toBeTruthy();
    expect(screen.queryByRole('textbox', { name: 'Name of the book' })).toBeNull();
    release();
    expect(await screen.findByRole('textbox', { name: 'Name of the book' })).toBeTruthy();
  });
  it('that cannot be read say why', async () => {
    renderInProject(<SharedBookPane />, {
      'GET /api/books': () => refuse('The list of books is damaged.', 'damaged', 500),
    });
    expect(await screen.findByText('The shared books cannot be shown')).toBeTruthy();
    expect(screen.getByText(/The list of books is damaged/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Share the book' })).toBeNull();
  });
  it('are taken over with what changed and what it does shown before, in other projects too where they are ticked', async () => {
    const user = userEvent.setup();
    const { posted } = renderInProject(<SharedBookPane />, answers(), standing(2));
    const sheet = within(await screen.findByRole('region', { name: 'Shared book' }));
    expect(await sheet.findByText('Changed since version 2')).toBeTruthy();
    expect((await sheet.findByRole('list', { name: 'Changes of the book' })).textContent).toMatch(/M-LOCK.*128.*130/);
    await waitFor(() => expect(sheet.getByRole('status', { name: 'Effect' }).textContent).toContain('+48.00'));
    await user.click(await sheet.findByRole('checkbox', { name: 'Take over in Slip house too' }));
    await user.click(sheet.getByRole('button', { name: 'Take version 3 over' }));
    await waitFor(() => expect(posted().filter((p) => p.what.endsWith('/changes'))).toHaveLength(2));
    const [here, there] = posted().filter((p) => p.what.endsWith('/changes')) as { what: string; body: object }[];
    expect(here).toMatchObject({
      what: 'POST /changes',
      body: {
        cause: 'Stands on the book Yard prices, version 3',
        diff: { updated: [{ kind: 'book', id: 'project', from: { bookId: 'yard', version: 2 }, to: { version: 3, hash: 'cccccccccccc' } }] },
      },
    }); // biome-ignore format: one change
    expect(there).toMatchObject({ what: 'POST /api/projects/q/changes', body: { base: 12, diff: rate('130.00') } });
  }, 20_000);
  it('that the project refuses to take over are not taken over elsewhere either', async () => {
    const user = userEvent.setup();
    const refused = { 'POST /changes': () => refuse('Somebody else changed the book.') };
    const { posted } = renderInProject(<SharedBookPane />, answers(refused), standing(2));
    await user.click(await screen.findByRole('checkbox', { name: 'Take over in Slip house too' }));
    await waitFor(() =>
      expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Take version 3 over' }).disabled).toBe(false),
    );
    await user.click(screen.getByRole('button', { name: 'Take version 3 over' }));
    expect(await screen.findByText(/Somebody else changed the book/)).toBeTruthy();
    expect(posted().filter((p) => p.what.includes('/api/projects/q'))).toEqual([]);
  }, 20_000);
});

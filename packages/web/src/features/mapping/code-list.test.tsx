/** @jest-environment jsdom */
import { buildElementTable, type ElementStatesDto } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleElement } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { CodeList } from './code-list.tsx';

const table = buildElementTable(
  [
    sampleElement('a', 'a', 'IfcFurniture', null, { codes: ['m-lock'] }),
    sampleElement('b', 'b', 'IfcFurniture', null, { codes: ['m-lock'] }),
    sampleElement('c', 'c', 'IfcFurniture', null, { codes: ['X-99'] }),
  ],
  Int32Array.of(1, 2, 3),
);
const states = (own: number[]): ElementStatesDto[] => [{ revisionId: 'r1', keys: [1, 2, 3], states: own, amounts: [0, 0, 0] }]; // biome-ignore format: one line
const first = sampleState({ sources: [sampleSource] });
const BARE = { ...first, basis: { ...first.basis, rules: [] } };

describe('the codes of the designers', () => {
  beforeAll(() => giveSizes());
  const open = async (own: number[]) => {
    const drawn = renderInProject(<CodeList choice={null} />, {
      'GET /elements/states': () => ({ body: states(own) }),
      'POST /preview': () => ({ body: { before: 0, after: 25_600, move: 25_600, causes: {} } }),
      'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
    }, BARE); // biome-ignore format: one call
    serveTable(table);
    return { ...drawn, grid: await screen.findByRole('grid', { name: 'Codes' }) };
  };
  it('say what each means and how many are open, and are mapped at once with the move told before', async () => {
    const user = userEvent.setup();
    const { grid, posted } = await open([0, 0, 0]);
    const known = within(grid).getByRole('row', { name: /m-lock/ });
    expect(known.textContent).toMatch(/M-LOCK Locker, steel.*Count/);
    expect(within(grid).getByRole('row', { name: /X-99/ }).textContent).toMatch(/not in the book/);
    await screen.findByText('1 code that the book knows has open elements.');
    await waitFor(() => expect(screen.getByRole('status', { name: 'Effect' }).textContent).toBe('+256.00 EUR'));
    await user.click(screen.getByRole('button', { name: 'Map it' }));
    await waitFor(() => expect(posted().some((p) => p.what === 'POST /changes')).toBe(true));
    expect(posted().find((p) => p.what === 'POST /changes')!.body).toMatchObject({
      cause: '1 code of the designers mapped',
      diff: {
        added: [
          { kind: 'rule', body: { item: 'M-LOCK', driver: 'Count', section: 'fit', scope: { field: 'code', op: 'is', value: 'm-lock' } } },
          { kind: 'order', id: 'rules' },
        ],
      },
    }); // biome-ignore format: one body
  }, 30_000);
  it('say nothing to be priced before that is known', async () => {
    let release = () => {};
    const gate = new Promise<void>((done) => {
      release = done;
    });
    renderInProject(<CodeList choice={null} />, { 'GET /elements/states': () => gate.then(() => ({ body: states([0, 0, 0]) })) }, BARE); // biome-ignore format: one call
    serveTable(table);
    await new Promise((done) => setTimeout(done, 200));
    expect(screen.queryByText(/is priced/)).toBeNull();
    expect(screen.getByRole('progressbar')).toBeTruthy();
    release();
    expect(await screen.findByText('1 code that the book knows has open elements.')).toBeTruthy();
  }, 20_000);
  it('propose nothing where all that carries them is priced', async () => {
    await open([2, 2, 0]);
    expect(await screen.findByText('What carries a code that the book knows is priced.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /Map/ })).toBeNull();
  }, 20_000);
});

/** @jest-environment jsdom */
import type { ElementChange, ElementTable, ProjectStateDto } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { type Answers, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleWalls } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { KnownAgain } from './known-again.tsx';

/** Walls 11 to 13 came under other ids: 11 surely the one that was, 12 and 13 perhaps, 13 less. */
const table: ElementTable = {
  ...sampleWalls(),
  identified: {
    rows: Int32Array.of(0, 1, 2),
    own: Int32Array.of(21, 22, 23),
    was: Int32Array.of(11, 12, 13),
    score: Float64Array.of(0.97, 0.62, 0.55),
    margin: Float64Array.of(0.5, 0.01, 0.01),
    sure: Uint8Array.of(1, 0, 0),
  },
};
const change = (key: number, what: ElementChange['what'], label: string) => ({ key, what, label, storey: 'Ground floor' }) as unknown as ElementChange; // biome-ignore format: one record
const COMMITTED: Answers = { 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) };

beforeAll(() => giveSizes());
async function draw(identities: ProjectStateDto['layer']['identities'] = {}, elements: readonly ElementChange[] = []) {
  const first = sampleState({ sources: [sampleSource] });
  const state = { ...first, layer: { ...first.layer, identities } };
  const drawn = renderInProject(<KnownAgain elements={elements} />, COMMITTED, state);
  serveTable(table);
  await screen.findByRole('row', { name: /Wall 3/ });
  const row = (name: RegExp) => within(screen.getByRole('row', { name }));
  const button = (name: RegExp, word: string) => row(name).getByRole('button', { name: word }) as HTMLButtonElement;
  return { ...drawn, row, button };
}

describe('elements that came under other ids', () => {
  it('stand with how alike they are, those that need somebody first, and what can be said of them', async () => {
    const { row, button } = await draw();
    expect(screen.getAllByRole('row').slice(1).map((r) => within(r).getAllByRole('gridcell').slice(0, 4).map((c) => c.textContent))).toEqual([
      ['Wall Wall 3', 'Ground floor', '55 %', 'Needs you'],
      ['Wall Wall 2', 'Ground floor', '62 %', 'Needs you'],
      ['Wall Wall 1', 'Ground floor', '97 %', 'Taken: same place or name'],
    ]); // biome-ignore format: three rows
    expect(row(/Wall 1/).getByText('Taken: same place or name')).toBeTruthy();
    expect([button(/Wall 1/, 'The same').disabled, button(/Wall 1/, 'Another').disabled]).toEqual([true, false]);
  }, 30_000);
  it('are said to be others, or the same, one by one', async () => {
    const { posted, button } = await draw();
    await userEvent.click(button(/Wall 1/, 'Another'));
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toMatchObject({
      cause: 'Wall Wall 1 is none of before',
      diff: { added: [{ kind: 'identity', id: '21', body: { was: null } }] },
    });
    await userEvent.click(button(/Wall 2/, 'The same'));
    await waitFor(() => expect(posted()).toHaveLength(2));
    expect(posted()[1]!.body).toMatchObject({
      cause: 'Wall Wall 2 known again',
      diff: { added: [{ id: '22', body: { was: 12 } }] },
    });
  }, 30_000);
  it('are all taken at once, those only that need somebody', async () => {
    const { posted } = await draw();
    expect(screen.getByText('2 pairs need you.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'All are the same' }));
    await waitFor(() => expect(posted()).toHaveLength(1));
    const { cause, diff } = posted()[0]!.body as {
      cause: string;
      diff: { added: { id: string; body: { was: number } }[] };
    };
    expect(cause).toBe('2 elements known again');
    expect(diff.added.map((e) => [e.id, e.body.was])).toEqual([['22', 12], ['23', 13]]); // biome-ignore format: two pairs
  }, 30_000);
  it('what was said is changed, not said twice; two that claim one are told', async () => {
    const { posted, row, button } = await draw({ '22': { was: 11, by: 'Ann', at: '2026-03-02' } } as never);
    // Wall 2 was said to be the 11 that wall 1 was taken for.
    await waitFor(() => expect(row(/Wall 1/).getByText('Two are said to be one element')).toBeTruthy());
    await userEvent.click(button(/Wall 2.*by hand/, 'Another'));
    await waitFor(() => expect(posted()).toHaveLength(1));
    const { diff } = posted()[0]!.body as {
      diff: { added?: unknown[]; updated: { id: string; from: { was: number }; to: { was: null } }[] };
    };
    expect(diff.added ?? []).toEqual([]);
    expect(diff.updated.map((e) => [e.id, e.from.was, e.to.was])).toEqual([['22', 11, null]]);
  }, 30_000);
  it('are paired by hand where nothing pairs them: one that went with one that came', async () => {
    const { posted } = await draw({}, [change(31, 'went', 'Door D1'), change(32, 'came', 'Door D1 new')]);
    const one = () => screen.getByRole('button', { name: 'They are one' }) as HTMLButtonElement;
    expect(one().disabled).toBe(true);
    for (const [label, option] of [['One that went', 'Door D1, Ground floor'], ['is one that came', 'Door D1 new, Ground floor']] as const) {
      await userEvent.click(screen.getByLabelText(label));
      await userEvent.click(await screen.findByRole('option', { name: option }));
    } // biome-ignore format: two fields
    await userEvent.click(one());
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toMatchObject({
      cause: 'Door D1 new is Door D1 of before',
      diff: { added: [{ kind: 'identity', id: '32', body: { was: 31 } }] },
    });
  }, 30_000);
});

/** @jest-environment jsdom */
import type { CheckedDto, CheckedMark } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { CheckedPart } from './checked-part.tsx';

const mark = (item: string, amount: number): CheckedMark => ({ on: { path: [], section: 'fit', item }, signature: 'a', amount, by: 'Ada', at: '2026-05-01' }) as CheckedMark; // biome-ignore format: one mark
const held = (item: string, amount: number, now: string, change = 0) => ({ id: `#fit|${item}`, mark: mark(item, amount), holds: now === 'a', signature: now, amount: change * 10_000 }); // biome-ignore format: one mark
const unchecked = (n: number) => ({ section: 'fit', item: `X-${n}`, description: `Thing ${n}`, amount: (100 - n) * 1_000_000, elements: 1 }); // biome-ignore format: one line

function open(data: CheckedDto, answers = {}) {
  const first = sampleState();
  return renderInProject(
    <CheckedPart />,
    { 'GET /checked': () => ({ body: data }), 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }), ...answers },
    { ...first, basis: { ...first.basis, checked: data.marks.map((m) => m.mark) } },
  ); // biome-ignore format: one call
}

describe('what was checked', () => {
  it('says its share of the money, and what fell away with what it was and is, the most money first', async () => {
    // 60.00 of 240.00 are not checked: three quarters are.
    open({
      total: 240_000_000,
      unchecked: [{ section: 'fit', item: 'L-CAR', description: 'Carpenter', amount: 60_000_000, elements: 3 }],
      marks: [held('A', 900, 'b', 1200), held('B', 5000, '', 0), held('C', 7000, 'a', 7000)],
    });
    const fallen = await screen.findByRole('region', { name: 'Fell away' });
    expect(fallen.textContent).toMatch(/Checked 75\.0 % of the money.*2 fell away/);
    expect(fallen.textContent).toMatch(/B.*50\.00gone.*A.*9\.0012\.00/);
    expect(fallen.textContent).not.toContain('70.00');
    const open_ = screen.getByRole('region', { name: 'Not checked' });
    expect(open_.textContent).toMatch(/60\.00.*L-CAR.*Carpenter.*Fittings.*60\.00/);
  }, 20_000);
  it('that fell away is taken off; what the server refuses is told', async () => {
    let isRefused = true;
    const { posted } = open(
      { total: 1, unchecked: [], marks: [held('A', 900, 'b', 1200)] },
      { 'POST /changes': () => (isRefused ? refuse('Not now.') : { body: { projectId: 'p', seq: 8, move: null } }) },
    );
    const fallen = await screen.findByRole('region', { name: 'Fell away' });
    await userEvent.click(within(fallen).getByRole('button', { name: 'Take off' }));
    expect(await screen.findByText(/Not now\./)).toBeTruthy();
    isRefused = false;
    await userEvent.click(within(fallen).getByRole('button', { name: 'Take off' }));
    await waitFor(() => expect(posted()).toHaveLength(2));
    expect(posted()[1]!.body).toMatchObject({ diff: { removed: [{ kind: 'checked' }] } });
  }, 20_000);
  it('says how many more are not checked than are shown', async () => {
    open({ total: 1e9, unchecked: Array.from({ length: 43 }, (_, i) => unchecked(i)), marks: [] });
    const region = await screen.findByRole('region', { name: 'Not checked' });
    expect(within(region).getAllByRole('button')).toHaveLength(40);
    expect(region.textContent).toContain('and 3 more');
  }, 20_000);
  it('that cannot be read says why', async () => {
    open({ total: 0, unchecked: [], marks: [] }, { 'GET /checked': () => refuse('The plan is too large.', 'x', 500) });
    expect(await screen.findByText('What was checked cannot be shown', undefined, { timeout: 8000 })).toBeTruthy();
  }, 20_000);
});

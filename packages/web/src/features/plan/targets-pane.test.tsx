/** @jest-environment jsdom */
import type { CheckedDto, HeldTarget, PlanDto } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { TargetsPane } from './targets-pane.tsx';

const WHOLE: HeldTarget = { id: 'whole', target: { amount: '3000' }, label: 'The whole', aim: 300_000, now: 307_200, left: -7200, open: 3, problem: null }; // biome-ignore format: one record
const ROOF: HeldTarget = { id: 'storey=Roof', target: { by: 'storey', is: 'Roof', amount: '10' }, label: 'Storey Roof', aim: 1000, now: null, left: null, open: 0, problem: 'The plan has no group Roof.' }; // biome-ignore format: one record
const CHECKED: CheckedDto = {
  total: 3_072_000_000,
  unchecked: [{ section: 'fit', item: 'M-LOCK', description: 'Locker, steel', amount: 768_000_000, elements: 6 }],
  marks: [
    { id: '#fit|L-CAR', mark: { on: { path: [], section: 'fit', item: 'L-CAR' }, signature: 'a', amount: 500, by: 'Ada', at: '2026-05-01' }, holds: false, signature: 'b', amount: 6_000_000 },
    { id: 'element=4', mark: { on: { element: 4 }, signature: 'a', amount: 900 }, holds: false, signature: '', amount: 0 },
    { id: 'storey=Roof', mark: { on: { path: [{ by: 'storey', is: 'Roof' }] }, signature: 'a', amount: 1 }, holds: true, signature: 'a', amount: 1 },
  ],
}; // biome-ignore format: a mark a line
const GROUPS = { groups: [{ label: 'Fittings' }, { label: 'Yard' }] } as unknown as PlanDto;

function open(held: HeldTarget[] = [WHOLE, ROOF]) {
  const first = sampleState();
  const targets = held.map((h) => h.target);
  const checked = CHECKED.marks.map((m) => m.mark);
  return renderInProject(
    <TargetsPane choice={null} />,
    {
      'GET /targets': () => ({ body: held }),
      'GET /checked': () => ({ body: CHECKED }),
      'GET /plan': () => ({ body: GROUPS }),
      'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
    },
    { ...first, basis: { ...first.basis, targets, checked } },
  );
}
const sent = (posted: ReturnType<ReturnType<typeof open>['posted']>) =>
  posted.findLast((p) => p.what === 'POST /changes')?.body;

describe('targets', () => {
  it('say what is over, that it is not all yet, and why one cannot be held', async () => {
    open();
    const whole = await screen.findByRole('row', { name: /The whole/ });
    expect(whole.textContent).toMatch(/3,000\.00.*3,072\.00so far.*−72\.00/);
    expect(screen.getByRole('row', { name: /Storey Roof/ }).textContent).toContain('The plan has no group Roof.');
  }, 20_000);
  it('are changed where they stand; what is no figure, or 0, stays as it was typed with the reason', async () => {
    const user = userEvent.setup();
    const { posted } = open();
    const field = await screen.findByRole('textbox', { name: 'Target of The whole' });
    for (const [typed, why] of [
      ['much', /no figure/],
      ['0', /more than 0/],
    ] as const) {
      await user.clear(field);
      await user.type(field, `${typed}{Enter}`);
      expect(await screen.findByText(why)).toBeTruthy();
      expect((field as HTMLInputElement).value).toBe(typed);
    }
    expect(sent(posted())).toBeUndefined();
    await user.clear(field);
    await user.type(field, '3100{Enter}');
    await waitFor(() => expect(sent(posted())).toMatchObject({ diff: { updated: [{ kind: 'target', id: 'whole', from: { amount: '3000' }, to: { amount: '3100' } }] } })); // biome-ignore format: one body
  }, 30_000);
  it('are sent once by Enter and then leaving the field, and not at all as they stand', async () => {
    const user = userEvent.setup();
    const { posted } = open();
    const field = await screen.findByRole('textbox', { name: 'Target of The whole' });
    await user.clear(field);
    await user.type(field, '3000');
    await user.tab();
    expect(sent(posted())).toBeUndefined();
    await user.clear(field);
    await user.type(field, '3100{Enter}');
    await user.tab();
    await waitFor(() => expect(sent(posted())).toBeDefined());
    await new Promise((done) => setTimeout(done, 50));
    expect(posted().filter((p) => p.what === 'POST /changes')).toHaveLength(1);
  }, 30_000);
  it('are set for a group of the plan, once each', async () => {
    const user = userEvent.setup();
    const { posted } = open();
    await screen.findByRole('row', { name: /The whole/ });
    await user.type(screen.getByRole('textbox', { name: 'Target amount' }), '2500');
    await user.click(screen.getByRole('button', { name: 'Set target' }));
    expect(screen.getByRole('alert').textContent).toBe('Say which group it is of.');
    await user.click(screen.getByRole('combobox', { name: 'Group' }));
    await user.click(await screen.findByRole('option', { name: 'Yard' }));
    await user.click(screen.getByRole('combobox', { name: 'Target per' }));
    await user.click(await screen.findByRole('option', { name: 'per m² of floor' }));
    await user.click(screen.getByRole('button', { name: 'Set target' }));
    await waitFor(() => expect(sent(posted())).toMatchObject({ diff: { added: [{ kind: 'target', id: 'section=Yard', body: { by: 'section', is: 'Yard', amount: '2500', per: 'floorArea' } }] } })); // biome-ignore format: one body
  }, 30_000);
});

it('what was checked and has moved is told with its money then and now, and taken off; what nobody looked at, the most first', async () => {
  const user = userEvent.setup();
  const { posted } = open();
  const fallen = await screen.findByRole('region', { name: 'Fell away' });
  // 768 of 3,072 are not checked: three quarters are.
  expect(fallen.textContent).toContain('Checked 75.0 % of the money');
  expect(fallen.textContent).toContain('2 fell away');
  expect(fallen.textContent).toMatch(/An element.*9\.00gone/);
  expect(fallen.textContent).toMatch(/L-CAR.*5\.006\.00/);
  expect(screen.getByRole('region', { name: 'Not checked' }).textContent).toMatch(
    /M-LOCK.*Locker, steel.*Fittings.*768\.00/,
  );
  await user.click(within(fallen).getAllByRole('button', { name: 'Take off' })[0]!);
  // The most money first: the element of 9.00.
  await waitFor(() =>
    expect(sent(posted())).toMatchObject({ diff: { removed: [{ kind: 'checked', id: 'element=4' }] } }),
  );
}, 30_000);

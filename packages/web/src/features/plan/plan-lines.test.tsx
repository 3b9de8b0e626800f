/** @jest-environment jsdom */
import type { PlanGroup, PlanLine } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { PlanLines } from './plan-lines.tsx';

const line = (item: string, minor: number, change: Partial<PlanLine> = {}): PlanLine => ({
  id: `/fit#${item}`, item, description: item === 'M-LOCK' ? 'Locker, steel' : 'Carpenter', kind: 'material', section: 'fit', unit: 'each',
  net: 24, toBuy: 24, wastePercent: 0, rate: minor / 2400, rates: 1, amount: minor * 10_000, minor, elements: 24, cells: 24, unknown: 0, problem: null,
  checked: 0, open: 0, element: null, key: null, ...change,
}); // biome-ignore format: one line
const group = (label: string, lines: readonly PlanLine[], minor: number, open = 0): PlanGroup => ({ id: `/${label}`, label, amount: minor * 10_000, minor, unknown: 0, open, cells: 24, checked: 0, groups: [], lines }); // biome-ignore format: one group
const whole = (...groups: PlanGroup[]) => ({
  body: { ...group('Total', [], groups.reduce((sum, g) => sum + g.minor, 0), groups.reduce((n, g) => n + g.open, 0)), groups },
}); // biome-ignore format: one plan
const BY_SECTION = whole(group('Fittings', [line('M-LOCK', 307_200)], 307_200));
const BY_STOREY = whole(group('Loft', [line('M-LOCK', 307_200)], 307_200));

function open(answers = {}) {
  return renderInProject(
    <PlanLines choice={null} />,
    {
      'GET /plan/elements': () => ({ body: [4, 5] }),
      'POST /elements/amount': () => ({ body: { amount: 0 } }),
      'GET /plan?': () => BY_SECTION,
      'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
      ...answers,
    },
    sampleState(),
  );
}
const grid = () => screen.findByRole('treegrid', { name: 'Plan' });
const row = async (name: RegExp) => within(await grid()).findByRole('row', { name }, { timeout: 8000 });

describe('the plan', () => {
  beforeAll(() => giveSizes());
  beforeEach(() => localStorage.clear());
  it('says amounts, rates and the total, and closes a group', async () => {
    open();
    expect((await row(/M-LOCK/)).textContent).toMatch(/Locker, steel.*24.*128\.00.*3,072\.00/);
    expect(screen.getByTestId('plan-total').textContent).toBe('3,072.00');
    await userEvent.click(within(await row(/Fittings/)).getByRole('button', { name: /Fittings|Close|Open/ }));
    await waitFor(async () => expect(within(await grid()).queryByRole('row', { name: /M-LOCK/ })).toBeNull());
    await userEvent.click(within(await row(/Fittings/)).getByRole('button', { name: /Fittings|Close|Open/ }));
  }, 30_000);
  it('asks for what is behind a row as it is broken down on screen, also while another breakdown is on its way', async () => {
    let release = () => {};
    const gate = new Promise<void>((done) => {
      release = done;
    });
    const asked: string[] = [];
    const { container } = open();
    await row(/M-LOCK/);
    const answer = globalThis.fetch;
    globalThis.fetch = (async (path: string, init?: RequestInit) => {
      asked.push(decodeURIComponent(path));
      if (decodeURIComponent(path).includes('/plan?view={"by":["storey"')) {
        await gate;
        return { ok: true, status: 200, json: async () => BY_STOREY.body } as Response;
      }
      return answer(path, init);
    }) as typeof fetch;
    await userEvent.click(screen.getByRole('button', { name: /By work section/ }));
    await userEvent.click(await screen.findByText('By storey'));
    await waitFor(() => expect(asked.some((path) => path.includes('"storey"'))).toBe(true));
    expect(container.textContent).toContain('Fittings');
    await userEvent.click(within(await row(/Fittings/)).getAllByRole('gridcell')[3]!);
    await waitFor(() => expect(asked.some((path) => path.includes('/plan/elements'))).toBe(true));
    expect(asked.find((path) => path.includes('/plan/elements'))).toContain('"by":["section"]');
    release();
    expect(await row(/Loft/)).toBeTruthy();
  }, 30_000);
  it('takes a rate typed into it, and keeps one that is refused where it was typed', async () => {
    let isRefused = true;
    const { posted } = open({ 'POST /changes': () => (isRefused ? refuse('Not now.') : { body: { projectId: 'p', seq: 8, move: null } }) }); // biome-ignore format: one call
    const heads = within(await grid()).getAllByRole('columnheader').map((h) => h.textContent ?? ''); // biome-ignore format: one step
    const at = heads.findIndex((h) => h.startsWith('Rate'));
    await userEvent.dblClick(within(await row(/M-LOCK/)).getAllByRole('gridcell')[at]!);
    const field = await within(await grid()).findByRole<HTMLInputElement>('textbox');
    expect(field.value).toBe('128.00');
    await userEvent.clear(field);
    await userEvent.type(field, '130{Enter}');
    expect((await screen.findAllByText(/Not now\./)).length).toBeGreaterThan(0);
    isRefused = false;
    await userEvent.type(await within(await grid()).findByRole('textbox'), '{Enter}');
    await waitFor(() => expect(posted().filter((p) => p.what === 'POST /changes')).toHaveLength(2));
    expect(posted().at(-1)!.body).toMatchObject({ diff: { updated: [{ kind: 'item', id: 'M-LOCK', to: { rate: '130' } }] } }); // biome-ignore format: one change
  }, 30_000);
  it('in which nothing is priced says the next step, and one with too many lines how to limit it', async () => {
    const open_ = { ...line('', 0), open: 24, cells: 24 };
    const first = open({ 'GET /plan?': () => ({ body: { ...whole(group('Fittings', [open_], 0, 24)).body, cells: 24, open: 24 } }) }); // biome-ignore format: one call
    expect(await screen.findByText('Nothing is priced yet')).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Make a rule' })).toBeTruthy();
    first.unmount();
    open({ 'GET /plan?': () => ({ body: { ...whole().body, cells: 1, tooMany: 240_000 } }) });
    expect(await screen.findByText('240,000 lines are too many to read')).toBeTruthy();
  }, 30_000);
  it('that cannot be read says why', async () => {
    open({ 'GET /plan?': () => refuse('The plan is being worked out.', 'busy', 503) });
    expect(await screen.findByText(/The plan is being worked out\./, undefined, { timeout: 8000 })).toBeTruthy();
  }, 30_000);
});

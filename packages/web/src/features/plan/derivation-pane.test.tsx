/** @jest-environment jsdom */
import type { BehindElement, ElementCostDto, PlanLine } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { DerivationPane } from './derivation-pane.tsx';
import type { PlanTableRow } from './plan-table-rows.ts';

const LINE: PlanLine = {
  id: '/Fittings#fit|M-LOCK', item: 'M-LOCK', description: 'Locker, steel', kind: 'material', section: 'fit', unit: 'each', net: 24, toBuy: 24, wastePercent: 0, rate: 128, rates: 1,
  amount: 3_072_000_000, minor: 307_200, elements: 2, cells: 2, unknown: 0, problem: null, checked: 0, open: 0, element: null, key: null,
}; // biome-ignore format: a line in short
const ROW: PlanTableRow = {
  kind: 'line',
  id: LINE.id,
  line: LINE,
  level: 1,
  path: [{ by: 'section', is: 'Fittings' }],
};
const BEHIND: BehindElement[] = [
  { key: 4, label: 'Furniture Lockers A', storey: 'Ground floor', net: 20, amount: 2_560_000_000, unknown: 0, isOpen: false },
  { key: 5, label: 'Furniture Lockers B', storey: null, net: 4, amount: 512_000_000, unknown: 0, isOpen: false },
]; // biome-ignore format: two elements
const cost = (net: number, basis: 'measured' | 'given' = 'measured') =>
  ({
    key: 4, state: 'priced', amount: 0, leftOut: null, openParts: [], decisions: [],
    lines: [{
      section: 'fit', reason: 'Lockers: class is IfcFurniture', rule: 'lockers', decider: 'rule', part: null, path: [], item: { code: 'M-LOCK', description: 'Locker, steel', kind: 'material', unit: 'each', rate: '128.00', source: 'Yard list' }, code: 'M-LOCK',
      quantities: [{ name: 'Count', value: net, unit: 'each', basis, method: basis === 'given' ? 'hand' : 'count' }],
      steps: [{ formula: 'Count * 1', figures: `${net} each * 1`, result: net, unit: 'each' }],
      net, wastePercent: 5, toBuy: net * 1.05, rate: 128, rateFactors: [], rateSteps: [], amount: net * 1.05 * 1_280_000, problem: null,
    }],
  }) as unknown as ElementCostDto; // biome-ignore format: a cost in short

const open = (state = sampleState(), answers: Parameters<typeof renderInProject>[1] = {}) =>
  renderInProject(
    <DerivationPane row={ROW} view={{ by: ['section'] }} onClose={() => undefined} onOpenRow={() => undefined} />,
    {
      'GET /plan/behind': () => ({ body: { count: 2, elements: BEHIND } }),
      'GET /elements/4/cost': () => ({ body: cost(20) }),
      'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
      ...answers,
    },
    state,
  );
const choose = async () => {
  await userEvent.setup().click(await screen.findByRole('button', { name: /Lockers A/ }));
  await screen.findByText('Yard list', { exact: false });
};

describe('how a figure came about', () => {
  it('goes from the total down to the element, its quantity, formula with figures, waste and rate, each with a way on', async () => {
    open();
    const list = await screen.findByRole('list', { name: 'Elements behind it' });
    expect(within(list).getAllByRole('button').map((b) => b.textContent)).toEqual(['Furniture Lockers A2,560.00Ground floor20 each', 'Furniture Lockers B512.004 each']); // biome-ignore format: short
    expect(screen.getByTestId('derived-amount').textContent).toBe('3,072.00');
    await choose();
    const text = screen.getByRole('region', { name: 'How it came about' }).textContent!;
    expect(text).toContain('Total 3,072.00 › Fittings');
    expect(text).toContain('Count * 1 = 20 each * 1 = 20 each');
    expect(text).toContain('+ 5 % waste = 21 each');
    expect(screen.getByRole('link', { name: 'Rule' }).getAttribute('href')).toBe(
      '/projects/p/mapping?view=rules&rule=lockers',
    );
    expect(screen.getByRole('link', { name: 'Rate in the book' }).getAttribute('href')).toBe('/projects/p/book?item=M-LOCK'); // biome-ignore format: short
  }, 30_000);
  it('a figure is set by hand only with a reason; what the server refuses stays as it was typed', async () => {
    const user = userEvent.setup();
    let times = 0;
    const { posted } = open(sampleState(), { 'POST /changes': () => (++times === 1 ? refuse('Somebody else set it.') : { body: { projectId: 'p', seq: 8, move: null } }) }); // biome-ignore format: one call
    await choose();
    await user.click(screen.getByRole('button', { name: 'Set by hand' }));
    const figure = screen.getByRole('textbox', { name: /Count/ });
    await user.clear(figure);
    await user.type(figure, '22');
    await user.click(screen.getByRole('button', { name: 'Set' }));
    expect(screen.getByRole('alert').textContent).toContain('Say why');
    expect(posted().some((p) => p.what === 'POST /changes')).toBe(false);
    await user.type(screen.getByRole('textbox', { name: 'Why' }), 'Two more are ordered');
    await user.click(screen.getByRole('button', { name: 'Set' }));
    await waitFor(() => expect(screen.getByRole('alert').textContent).toContain('Somebody else set it.'));
    expect((screen.getByRole('textbox', { name: /Count/ }) as HTMLInputElement).value).toBe('22');
    await user.click(screen.getByRole('button', { name: 'Set' }));
    await waitFor(() => expect(screen.queryByRole('textbox', { name: 'Why' })).toBeNull());
    expect(posted().findLast((p) => p.what === 'POST /changes')!.body).toMatchObject({
      diff: { added: [{ kind: 'given', id: '4', body: { Count: { value: 22, was: 20, unit: 'each', reason: 'Two more are ordered' } } }] },
    }); // biome-ignore format: one body
  }, 40_000);
  it('another item takes the place of the line’s in its section, and a note is kept on it', async () => {
    const user = userEvent.setup();
    const first = sampleState();
    const items = [...first.basis.items, { ...first.basis.items[0]!, code: 'M-LOCK2', description: 'Locker, wood' }];
    const { posted } = open({ ...first, basis: { ...first.basis, items } });
    await screen.findByRole('list', { name: 'Elements behind it' });
    await user.click(screen.getByRole('button', { name: 'Another item' }));
    await user.click(screen.getByRole('button', { name: 'Put in its place' }));
    expect(screen.getByRole('alert').textContent).toContain('Choose the item');
    await user.click(screen.getByRole('combobox', { name: /In place of M-LOCK/ }));
    await user.click(await screen.findByRole('option', { name: /M-LOCK2/ }));
    await user.click(screen.getByRole('button', { name: 'Put in its place' }));
    await waitFor(() => expect(posted().some((p) => p.what === 'POST /changes')).toBe(true));
    expect(posted().findLast((p) => p.what === 'POST /changes')!.body).toMatchObject({
      cause: 'M-LOCK2 in place of M-LOCK, in its section',
      diff: { added: [{ kind: 'swap', id: 'fit|M-LOCK', body: { from: 'M-LOCK', to: 'M-LOCK2', section: 'fit' } }] },
    });
    await user.click(screen.getByRole('button', { name: 'Note' }));
    await user.type(screen.getByRole('textbox', { name: 'Note on this line' }), 'Ask the yard');
    await user.click(screen.getByRole('button', { name: 'Keep' }));
    await waitFor(() => expect(posted().findLast((p) => p.what === 'POST /changes')!.body).toMatchObject({ diff: { added: [{ kind: 'note', id: 'fit|M-LOCK', body: { text: 'Ask the yard' } }] } })); // biome-ignore format: short
  }, 40_000);
  it('another section for the rule that decides, with how much goes along', async () => {
    const user = userEvent.setup();
    const first = sampleState();
    const sections = [...first.basis.sections, { id: 'yard', name: 'Yard' }];
    const { posted } = open({ ...first, basis: { ...first.basis, sections } });
    await screen.findByRole('list', { name: 'Elements behind it' });
    await user.click(screen.getByRole('button', { name: 'Another section' }));
    expect(screen.getByText(/Choose an element below first/)).toBeTruthy();
    await choose();
    expect(await screen.findByText('Of the rule Lockers: all 24 elements that it prices go along.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Move' }));
    expect(screen.getByRole('alert').textContent).toBe('Choose the section.');
    await user.click(screen.getByRole('combobox', { name: 'Another section' }));
    await user.click(await screen.findByRole('option', { name: 'Yard' }));
    await user.click(screen.getByRole('button', { name: 'Move' }));
    await waitFor(() => expect(posted().some((p) => p.what === 'POST /changes')).toBe(true));
    expect(posted().findLast((p) => p.what === 'POST /changes')!.body).toMatchObject({
      cause: 'Rule Lockers in section Yard',
      diff: { updated: [{ kind: 'rule', id: 'lockers', to: { section: 'yard' } }] },
    });
  }, 40_000);
});

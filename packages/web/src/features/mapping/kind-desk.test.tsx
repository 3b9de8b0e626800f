/** @jest-environment jsdom */
import { buildElementTable, type ElementStatesDto } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleElement } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { KindDesk } from './kind-desk.tsx';

const piece = (id: string, typeName: string) => sampleElement(id, id, 'IfcFurniture', 'Ground floor', { typeName });
const table = buildElementTable(
  [piece('l1', 'Locker'), piece('l2', 'Locker'), piece('b1', 'Bench')],
  Int32Array.of(1, 2, 3),
);
/** The lockers are priced at 128.00 each by the sample's rule, the bench is open. */
const STATES: ElementStatesDto[] = [
  { revisionId: 'r1', keys: [1, 2, 3], states: [2, 2, 0], amounts: [128e6, 128e6, 0] },
];

const first = sampleState({ sources: [sampleSource] });
const STATE = {
  ...first,
  basis: { ...first.basis, rules: first.basis.rules.map((r) => ({ ...r, scope: { field: 'type', op: 'is', value: 'Locker' } as const })) },
}; // biome-ignore format: one state

describe('the mapping desk', () => {
  beforeAll(() => giveSizes());
  const open = (answers = {}) => {
    const drawn = renderInProject(<KindDesk choice={null} />, {
      'GET /elements/states': () => ({ body: STATES }),
      'POST /elements/amount': () => ({ body: { amount: 0 } }),
      'POST /preview': () => ({ body: { before: 25_600, after: 34_600, move: 9000, causes: {} } }),
      'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
      ...answers,
    }, STATE); // biome-ignore format: one call
    serveTable(table);
    return drawn;
  };
  it('begins with the open kind that misses most money, and says what its like would cost', async () => {
    open();
    const decision = await screen.findByRole('region', { name: 'Decision' }, { timeout: 8000 });
    expect(within(decision).getByRole('heading', { name: 'Furniture, Bench' })).toBeTruthy();
    // A piece of furniture costs 128.00 here.
    expect(screen.getByTestId('kinds-missing').textContent).toBe('One kind is open, ≈ 128.00 EUR');
    expect(within(decision).getByText('Nothing decides about it yet.')).toBeTruthy();
    expect(screen.getByTestId('kind-catches').textContent).toBe('it alone');
  }, 20_000);
  it('prices a kind with what is found by its words, tells the move before, and keeps it with one key', async () => {
    const user = userEvent.setup();
    const { posted } = open();
    const field = await screen.findByRole('combobox', { name: 'Priced with' }, { timeout: 8000 });
    await user.type(field, 'locker');
    await screen.findByRole('option', { name: /M-LOCK/ });
    // The first that fits is marked: Enter chooses it, the key that keeps does not.
    await user.keyboard('{Control>}{Enter}{/Control}');
    expect((field as HTMLInputElement).value).toBe('locker');
    await user.keyboard('{Enter}');
    expect((field as HTMLInputElement).value).toBe('M-LOCK Locker, steel');
    await waitFor(() => expect(screen.getByRole('status', { name: 'Effect' }).textContent).toBe('+90.00 EUR'), {
      timeout: 8000,
    });
    await user.keyboard('{Control>}{Enter}{/Control}');
    await waitFor(() => expect(posted().some((p) => p.what === 'POST /changes')).toBe(true), { timeout: 8000 });
    const { body } = posted().find((p) => p.what === 'POST /changes')!;
    expect(body).toMatchObject({
      base: 7,
      cause: 'Rule added: Furniture, Bench',
      diff: {
        added: [
          {
            kind: 'rule',
            body: {
              item: 'M-LOCK',
              driver: 'Count',
              section: 'fit',
              scope: {
                all: [
                  { field: 'class', op: 'is', value: 'IfcFurniture' },
                  { field: 'type', op: 'is', value: 'Bench' },
                ],
              },
            },
          },
          { kind: 'order', id: 'rules' },
        ],
      },
    });
  }, 30_000);
  it('leaves a kind out with a reason, and keeps what was typed when the server says no', async () => {
    const user = userEvent.setup();
    open({
      'POST /changes': () => ({ status: 409, body: { detail: 'Ann changed the order meanwhile.', remedy: '' } }),
    });
    const decision = await screen.findByRole('region', { name: 'Decision' }, { timeout: 8000 });
    await user.click(within(decision).getByRole('button', { name: 'Leave it out' }));
    const reason = within(decision).getByRole('textbox', { name: 'Why it is left out' }) as HTMLInputElement;
    // Panes without sizes take a press for one on the line between them.
    reason.focus();
    await user.keyboard('By the club');
    await user.click(within(decision).getByRole('button', { name: 'Keep it out' }));
    expect(await within(decision).findByText(/Ann changed the order/)).toBeTruthy();
    expect(reason.value).toBe('By the club');
  }, 30_000);
});

/** @jest-environment jsdom */
import type { BaselineBody } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { FrozenPlans } from './frozen-plans.tsx';

const frozen = (name: string, at: string, total: number, isContract = false): BaselineBody => ({ name, file: 'f'.repeat(64), seq: 4, currency: 'EUR', total, engine: '3', at, by: 'Ann', isContract }); // biome-ignore format: one record
const ONE = frozen('Cost plan 1', '2026-01-05T09:00:00.000Z', 58_317_339, true);
const TWO = frozen('Cost plan 2', '2026-02-05T09:00:00.000Z', 60_000_000);
const done = { 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) };

beforeAll(() => giveSizes());
const open = async (onCompare = (_: string) => undefined as unknown, answers = {}, baselines: Record<string, BaselineBody> = { a: ONE, b: TWO }) => {
  const drawn = renderInProject(<FrozenPlans onCompare={onCompare} />, answers, sampleState({ baselines }));
  await userEvent.click(screen.getByRole('button', { name: 'Frozen plans' }));
  return drawn;
}; // biome-ignore format: one page
const row = (name: string) => within(screen.getAllByRole('listitem').find((li) => li.textContent!.startsWith(name))!);

describe('frozen plans', () => {
  it('stand with their totals, the newest first, and lead to what moved since and to themselves', async () => {
    const compared: string[] = [];
    await open((ref) => compared.push(ref));
    expect(screen.getAllByRole('listitem').map((li) => li.textContent!.slice(0, 11))).toEqual([
      'Cost plan 2',
      'Cost plan 1',
    ]);
    expect(row('Cost plan 1').getByText('583,173.39 EUR')).toBeTruthy();
    expect(row('Cost plan 1').getByText('Cost plan 1 · contract')).toBeTruthy();
    await userEvent.click(row('Cost plan 2').getByRole('button', { name: 'Compare with now' }));
    expect(compared).toEqual(['baseline:b']);
    expect(row('Cost plan 1').getByRole('link', { name: 'Look at it' }).getAttribute('href')).toBe(
      '/projects/p@4/plan',
    );
  }, 30_000);
  it('one of them is the contract: the one before is none any more, in the same change', async () => {
    const { posted } = await open(undefined, done);
    await userEvent.click(row('Cost plan 2').getByRole('button', { name: 'The contract' }));
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toMatchObject({
      cause: 'Cost plan 2 is the contract',
      diff: {
        updated: [
          { kind: 'baseline', id: 'b', to: { name: 'Cost plan 2', isContract: true } },
          { kind: 'baseline', id: 'a', to: { name: 'Cost plan 1', isContract: false } },
        ],
      },
    });
  }, 30_000);
  it('a name that the server refuses stays as it was typed, with the reason', async () => {
    const { posted } = await open(
      undefined,
      { 'POST /baselines': () => refuse('There is a frozen plan of this name.') },
      {},
    );
    const name = screen.getByLabelText('Freeze the plan of now as') as HTMLInputElement;
    const freeze = screen.getByRole('button', { name: 'Freeze' }) as HTMLButtonElement;
    expect(freeze.disabled).toBe(true);
    await userEvent.type(name, 'Tender');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Contract' }));
    await userEvent.click(freeze);
    expect(await screen.findByText(/There is a frozen plan of this name\./)).toBeTruthy();
    expect(name.value).toBe('Tender');
    expect(posted()[0]).toEqual({ what: 'POST /baselines', body: { name: 'Tender', isContract: true } });
  }, 30_000);
});

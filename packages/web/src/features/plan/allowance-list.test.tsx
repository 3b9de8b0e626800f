/** @jest-environment jsdom */
import type { Allowance } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleLayer } from '../../testing/sample-layer.ts';
import { AllowanceList } from './allowance-list.tsx';

const PERMIT: Allowance = { code: 'PERMIT', name: 'Building permit', measure: 'once', rate: '3850' };
const CABIN: Allowance = { code: 'CABIN', name: 'Site cabin', measure: 'weeks', amount: 12, rate: '145.5' };
const CLEAN: Allowance = { code: 'CLEAN', name: 'Final cleaning', measure: 'floorArea', rate: '6.20' };
const FIRST = { '31': PERMIT, '32': CABIN, '33': CLEAN };
/** The permit and the cabin are priced (3,850.00 and 12 x 145.50), the cleaning is not: no floor area is known. */
const STATES = [{ revisionId: 'allowances', keys: [31, 32, 33], states: [2, 2, 0], amounts: [3_850_000_000, 1_746_000_000, 0] }]; // biome-ignore format: one answer

function draw(onChange = (_: unknown): { status?: number; body: unknown } => ({ body: { projectId: 'p', seq: 8, move: null } })) {
  return renderInProject(
    <AllowanceList choice={null} />,
    { 'GET /elements/states': () => ({ body: STATES }), 'POST /changes': onChange },
    sampleState({ layer: sampleLayer({ allowances: FIRST }) }),
  );
} // biome-ignore format: one page
const rowOf = (name: string) => within(screen.getByRole('table', { name: 'Allowances' })).getAllByRole('row').find((r) => within(r).queryByDisplayValue(name))!; // biome-ignore format: one line

describe('costs without an object', () => {
  it('have their amounts, and what is not known is told, never added as nothing', async () => {
    draw();
    await waitFor(() => expect(screen.getByTestId('allowance-total').textContent).toBe('5,596.00'));
    expect(within(rowOf('Site cabin')).getByText('1,746.00')).toBeTruthy();
    expect(within(rowOf('Final cleaning')).getByText('unknown')).toBeTruthy();
    expect(screen.getByText(/Allowances together/).textContent).toBe('Allowances together so far, 1 unknown');
  }, 30_000);
  it('are changed cell by cell, each on what the one before made of it', async () => {
    const { posted } = draw();
    const weeks = screen.getByRole('textbox', { name: 'How many of Site cabin' });
    await userEvent.clear(weeks);
    await userEvent.type(weeks, '14{Enter}');
    const rate = screen.getByRole('textbox', { name: 'Rate of Site cabin' });
    await userEvent.clear(rate);
    await userEvent.type(rate, '150{Enter}');
    await waitFor(() => expect(posted()).toHaveLength(2));
    const diffs = posted().map(
      (p) => (p.body as { diff: { updated: { from: Allowance; to: Allowance }[] } }).diff.updated[0]!,
    );
    expect([diffs[0]!.from.amount, diffs[0]!.to.amount, diffs[0]!.to.rate]).toEqual([12, 14, '145.5']);
    expect([diffs[1]!.from.amount, diffs[1]!.to.amount, diffs[1]!.to.rate]).toEqual([14, 14, '150']);
  }, 30_000);
  it('a figure that is none, and one that the server refuses, stay as they were typed', async () => {
    const { posted } = draw(() => refuse('Ann changed it meanwhile.'));
    const rate = () => screen.getByRole('textbox', { name: 'Rate of Building permit' }) as HTMLInputElement;
    await userEvent.clear(rate());
    await userEvent.type(rate(), 'much{Enter}');
    expect(await screen.findByText('"much" is no figure. Write e.g. 185.00.')).toBeTruthy();
    expect(posted()).toEqual([]);
    await userEvent.clear(rate());
    await userEvent.type(rate(), '4100{Enter}');
    expect((await screen.findAllByText(/Ann changed it meanwhile\./)).length).toBeGreaterThan(0);
    expect(rate().value).toBe('4100');
    await userEvent.type(rate(), '{Escape}');
    expect(rate().value).toBe('3850.00');
  }, 30_000);
});

/** @jest-environment jsdom */
import type { CostItem } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject } from '../../testing/in-project.tsx';
import { MoveRatesDialog } from './move-rates-dialog.tsx';

const item = (code: string, rate: string | null): CostItem => ({ code, description: code, kind: 'material', unit: 'm', rate }); // biome-ignore format: one item
const ITEMS = [item('M-A', '10.00'), item('M-B', '128.50'), item('M-C', null)];
const CHANGES = 'POST /changes';
const PREVIEW = { 'POST /preview': () => ({ body: { before: 307_200, after: 316_416, move: 9_216, causes: {} } }) };
const field = () => screen.getByRole('textbox', { name: 'By per cent' }) as HTMLInputElement;
const keep = () => screen.getByRole('button', { name: 'Keep the new rates' }) as HTMLButtonElement;
const rowsOf = () =>
  within(screen.getByRole('grid', { name: 'Moved rates' }))
    .getAllByRole('row')
    .slice(1)
    .map((row) =>
      within(row)
        .getAllByRole('gridcell')
        .map((cell) => cell.textContent),
    );

beforeAll(giveSizes);

describe('moving rates', () => {
  it('shows each rate before and after and the effect, and is kept as one change', async () => {
    const user = userEvent.setup();
    const onClose = jest.fn();
    const { posted } = renderInProject(<MoveRatesDialog items={ITEMS} onClose={onClose} />, {
      ...PREVIEW,
      [CHANGES]: () => ({ body: { projectId: 'p', seq: 8, move: null } }),
    });
    expect(keep().disabled).toBe(true);
    expect(screen.getByText(/One of them has no figure to move/)).toBeTruthy();
    await user.type(field(), '+3');
    // 10.00 x 1.03 and 128.50 x 1.03 = 132.355, at the next cent.
    await waitFor(() => expect(rowsOf()).toEqual([
      ['M-A', 'M-A', '10.00', '10.30'],
      ['M-B', 'M-B', '128.50', '132.36'],
    ])); // biome-ignore format: two rows
    await waitFor(() => expect(screen.getByRole('status', { name: 'Effect' }).textContent).toContain('3,164.16'));
    await user.click(keep());
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    const change = posted().find((p) => p.what === CHANGES)!.body as { cause: string; diff: { updated: { id: string; to: CostItem }[] } }; // biome-ignore format: one line
    expect(change.cause).toBe('Rates of 2 items +3 %');
    const { updated } = change.diff;
    expect(updated.map((u) => [u.id, u.to.rate])).toEqual([['M-A', '10.30'], ['M-B', '132.36']]); // biome-ignore format: one list
  }, 30_000);

  it('says what is no per cent, and moves nothing by it', async () => {
    const user = userEvent.setup();
    renderInProject(<MoveRatesDialog items={ITEMS} onClose={() => {}} />, PREVIEW);
    for (const text of ['much', '-101', '1001']) {
      await user.clear(field());
      await user.type(field(), text);
      expect(await screen.findByText(`"${text}" is no per cent from −100 to 1000.`)).toBeTruthy();
      expect([keep().disabled, rowsOf()]).toEqual([true, []]);
    }
    await user.clear(field());
    await user.type(field(), '-100');
    await waitFor(() => expect(rowsOf().map((row) => row[3])).toEqual(['0.00', '0.00']));
  }, 30_000);

  it('stays open with what was typed where it is refused', async () => {
    const user = userEvent.setup();
    const onClose = jest.fn();
    renderInProject(<MoveRatesDialog items={ITEMS} onClose={onClose} />, {
      ...PREVIEW,
      [CHANGES]: () => refuse('Ann changed M-A meanwhile.'),
    });
    await user.type(field(), '5');
    await waitFor(() => expect(keep().disabled).toBe(false));
    await user.click(keep());
    expect(await screen.findByText(/Ann changed M-A meanwhile/)).toBeTruthy();
    expect([field().value, onClose.mock.calls.length]).toEqual(['5', 0]);
  }, 30_000);
});

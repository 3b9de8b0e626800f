/** @jest-environment jsdom */
import type { ChangedPrice, PriceComparison, SheetProfile } from '@tally/core';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { PriceComparisonView } from './price-comparison.tsx';

const PROFILE: SheetProfile = { sheet: 'Prices', headerRow: 0, columns: { code: 0, rate: 1 }, headings: {} };
const price = (code: string, from: string, to: string): ChangedPrice => ({
  kind: 'item',
  place: null,
  key: code,
  code,
  description: `Thing ${code}`,
  unit: 'm',
  from,
  to,
  percent: ((Number(to) - Number(from)) / Number(from)) * 100,
});
const comparison = (changed: readonly ChangedPrice[]): PriceComparison => ({
  changed: [...changed],
  fresh: [],
  vanished: [],
  skipped: [],
  unchanged: 7,
  decimal: 'point',
  isDecimalSure: true,
});
const FIRST = comparison([price('M-A', '10', '12'), price('M-B', '20', '19'), price('M-C', '5', '6')]);
const box = (code: string) => screen.getByRole('checkbox', { name: `Take ${code} over` }) as HTMLInputElement;
const take = () => screen.getByRole('button', { name: /^Take \d+ over/ }) as HTMLButtonElement;
const bookOf = (bookHash: string) => {
  const state = sampleState();
  return sampleState({ manifest: { ...state.manifest, bookHash } });
};

function draw(compare: () => { body: unknown } | Promise<{ body: unknown }>, takeOver: () => { status?: number; body: unknown } = () => ({ body: { projectId: 'p', seq: 8 } })) {
  const onDone = jest.fn();
  const drawn = renderInProject(
    <PriceComparisonView fileHash="h" profile={PROFILE} source="Timber yard" onDone={onDone} />,
    {
      'POST /price-sheets/h/compare': compare,
      'POST /price-sheets/h/preview': () => ({ body: { before: 307_200, after: 317_200, move: 10_000, causes: {} } }),
      'POST /price-sheets/h/effects': () => ({ body: [] }),
      'POST /price-sheets/h/take-over': takeOver,
    },
    bookOf('one'),
  );
  return { ...drawn, onDone };
} // biome-ignore format: one page

beforeAll(giveSizes);

describe('prices of a sheet beside those of the book', () => {
  it('are taken over as they are ticked, their effect seen first', async () => {
    const user = userEvent.setup();
    const { posted, onDone } = draw(() => ({ body: FIRST }));
    await waitFor(() => expect(take().textContent).toBe('Take 3 over'));
    await user.click(box('M-B'));
    await waitFor(() => expect(take().textContent).toBe('Take 2 over'));
    await waitFor(() => expect(screen.getByRole('status', { name: 'Effect' }).textContent).toContain('3,172.00'));
    await user.click(take());
    await waitFor(() => expect(onDone).toHaveBeenCalled());
    const order = posted().find((p) => p.what === 'POST /price-sheets/h/take-over')!.body as { source: string; bookHash: string }; // biome-ignore format: one line
    expect([order.source, order.bookHash]).toEqual(['Timber yard', 'one']);
  }, 30_000);

  it('stay ticked when somebody changes the book meanwhile, and are compared anew before they can be taken', async () => {
    const user = userEvent.setup();
    const answers: ((body: unknown) => void)[] = [];
    const { come } = draw(() => new Promise((done) => answers.push((body) => done({ body }))));
    await waitFor(() => expect(answers).toHaveLength(1));
    answers[0]!(FIRST);
    await waitFor(() => expect(take().textContent).toBe('Take 3 over'));
    await user.click(box('M-B'));
    come(bookOf('two'));
    await waitFor(() => expect(answers).toHaveLength(2));
    expect([box('M-A').checked, box('M-B').checked, take().disabled]).toEqual([true, false, true]);
    expect(screen.getByRole('status', { name: 'Effect' }).textContent).toBe('Comparing with the book as it is now');
    // The other has set M-C to what the sheet says: nothing is left of it to be taken.
    answers[1]!(comparison([price('M-A', '11', '12'), price('M-B', '20', '19')]));
    await waitFor(() => expect(take().textContent).toBe('Take 1 over'));
    await waitFor(() => expect(take().disabled).toBe(false));
    expect([box('M-A').checked, box('M-B').checked]).toEqual([true, false]);
  }, 30_000);

  it('that are refused stay ticked', async () => {
    const user = userEvent.setup();
    const { onDone } = draw(() => ({ body: FIRST }), () => refuse('Ann changed M-A meanwhile.')); // biome-ignore format: one line
    await user.click(await screen.findByRole('checkbox', { name: 'Take M-C over' }));
    await waitFor(() => expect(take().disabled).toBe(false));
    await user.click(take());
    expect(await screen.findByText(/Ann changed M-A meanwhile/)).toBeTruthy();
    expect([box('M-A').checked, box('M-C').checked, onDone.mock.calls.length]).toEqual([true, false, 0]);
  }, 30_000);
});

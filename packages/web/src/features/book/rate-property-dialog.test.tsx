/** @jest-environment jsdom */
import { buildElementTable, type CostItem } from '@tally/core';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleElement } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { RatePropertyDialog } from './rate-property-dialog.tsx';

const ITEM: CostItem = { code: 'M-WIN', description: 'Window', kind: 'material', unit: 'each', rate: '400.00' };
/** Two windows with a price in their properties, one that says only words. */
const WINDOWS = buildElementTable(
  [890, 1240.5, 'on request'].map((price, i) =>
    sampleElement(`w-${i}`, `Window ${i}`, 'IfcWindow', 'Ground floor', { properties: { Offer: { Price: price } } }),
  ),
  Int32Array.of(1, 2, 3),
);

function draw() {
  const drawn = renderInProject(
    <RatePropertyDialog item={ITEM} onClose={() => {}} />,
    {
      'POST /preview': () => ({ body: { before: 307_200, after: 520_250, move: 213_050, causes: {} } }),
      'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }),
    },
    sampleState({ sources: [sampleSource] }),
  );
  serveTable(WINDOWS);
  return drawn;
}
const take = () => screen.getByRole('button', { name: 'Take the rate from it' }) as HTMLButtonElement;

describe('a rate from a property', () => {
  it('is written as a formula that anybody can read, with the rate of elements that have none', async () => {
    const user = userEvent.setup();
    const { posted } = draw();
    await user.click(screen.getByRole('combobox', { name: 'Property' }));
    await user.click(await screen.findByText('Offer.Price'));
    expect(screen.getAllByText('2 elements, 890.00 to 1,240.50; 1 with no figure')).toHaveLength(1);
    expect(await screen.findByText('number("Offer.Price", 1 EUR/each)')).toBeTruthy();
    await user.type(screen.getByRole('textbox', { name: 'Where an element has none' }), '350');
    const formula = 'if(has("Offer.Price"), number("Offer.Price", 1 EUR/each), 350 EUR/each)';
    expect(await screen.findByText(formula)).toBeTruthy();
    await waitFor(() => expect(screen.getByRole('status', { name: 'Effect' }).textContent).toContain('5,202.50'));
    await user.click(take());
    await waitFor(() => expect(posted().some((p) => p.what === 'POST /changes')).toBe(true));
    const { diff } = posted().find((p) => p.what === 'POST /changes')!.body as { diff: { updated: unknown[] } };
    expect(diff.updated).toMatchObject([{ id: 'M-WIN', from: ITEM, to: { rate: null, rateFormula: formula } }]);
  }, 30_000);

  it('is not taken while the other rate is no figure, or no property is chosen', async () => {
    const user = userEvent.setup();
    draw();
    expect(take().disabled).toBe(true);
    await user.click(screen.getByRole('combobox', { name: 'Property' }));
    await user.click(await screen.findByText('Offer.Price'));
    await waitFor(() => expect(take().disabled).toBe(false));
    await user.type(screen.getByRole('textbox', { name: 'Where an element has none' }), '-3');
    expect(await screen.findByText('"-3" is no rate.')).toBeTruthy();
    expect(take().disabled).toBe(true);
  }, 30_000);
});

/** @jest-environment jsdom */
import type { BaselineBody, ComparisonDto } from '@tally/core';
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { type Answers, refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { ChangesPage } from './changes-page.tsx';

const NONE = { extent: 0, quantity: 0, mapping: 0, price: 0, factors: 0, rounding: 0 };
const CONTRACT: BaselineBody = { name: 'Cost plan 1', file: 'f'.repeat(64), seq: 4, currency: 'EUR', total: 100_000, engine: '3', at: '2026-01-05T09:00:00.000Z', isContract: true }; // biome-ignore format: one record
/** A comparison in which a price moved the whole. */
const comparison = (before: number, after: number): ComparisonDto => {
  const causes = { ...NONE, price: after - before };
  return {
    currency: 'EUR', minorDigits: 2,
    move: { before, after, move: after - before, causes },
    groups: [{ label: 'Fittings', from: before, to: after, move: after - before, causes }],
    counts: { came: 0, went: 0, changed: 0, priced: 1, identified: 0 },
    elements: [], rest: { count: 0, move: 0 }, surplus: 0, revisions: [[], []], drift: [null, null], floorAreaM2: [null, null],
  }; // biome-ignore format: one record
};

beforeAll(() => giveSizes());
const draw = (answers: Answers) =>
  renderInProject(<ChangesPage />, answers, sampleState({ baselines: { a: CONTRACT } }));

describe('a comparison', () => {
  it('of the contract with now comes first; the other way round nothing is shown until it is there', async () => {
    let tell = (_: ComparisonDto) => undefined as unknown;
    draw({
      'GET /compare?from=baseline': () => ({ body: comparison(100_000, 154_340) }),
      'GET /compare?from=live': () => new Promise((done) => (tell = (body) => done({ body }))),
    });
    expect(await screen.findByText(/\+543\.40 EUR/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'XLSX' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'The other way round' }));
    // The figures of before would be taken for those of the states that are chosen now.
    await waitFor(() => expect(screen.queryByText(/543\.40/)).toBeNull());
    expect(screen.getByRole('progressbar', { name: 'Comparing' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'XLSX' })).toBeNull();
    tell(comparison(154_340, 100_000));
    expect(await screen.findByText(/−543\.40 EUR/)).toBeTruthy();
  }, 30_000);
  it('is stopped while it is worked out, and asked for again', async () => {
    let asked = 0;
    let tell = (_: ComparisonDto) => undefined as unknown;
    draw({
      'GET /compare': () => {
        asked++;
        return new Promise((done) => (tell = (body) => done({ body })));
      },
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Stop' }));
    expect(await screen.findByText('Stopped: the two are not compared.')).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Compare' }));
    await waitFor(() => expect(asked).toBe(2));
    tell(comparison(100_000, 90_000));
    expect(await screen.findByText(/−100\.00 EUR/)).toBeTruthy();
    expect(screen.queryByText('Stopped: the two are not compared.')).toBeNull();
  }, 30_000);
  it('that cannot be made says why', async () => {
    draw({ 'GET /compare': () => refuse('One is in EUR, the other in USD.', 'currency-differs', 422) });
    expect((await screen.findByRole('alert')).textContent).toContain('One is in EUR, the other in USD.');
  }, 30_000);
});

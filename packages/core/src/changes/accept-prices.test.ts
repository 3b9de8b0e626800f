import type { CostItem } from '../book/cost-item.ts';
import type { PriceComparison, SheetProfile } from '../book/price-sheet.ts';
import { acceptPrices } from './accept-prices.ts';

const item: CostItem = { code: 'M', description: 'M', kind: 'material', unit: 'm', rate: '1.00' };
const value = { name: 'Crane hour', unit: 'EUR/h', value: '142' };
const profile: SheetProfile = { sheet: 'S', headerRow: 0, columns: { code: 0, rate: 1 }, headings: {} };
const comparison: PriceComparison = {
  changed: [
    { kind: 'item', key: 'M', code: 'M', description: '', unit: 'm', place: { at: 'rate' }, from: '1.00', to: '1.10', percent: 10 }, // biome-ignore format: one price
    { kind: 'value', key: 'Crane hour', code: 'Crane hour', description: '', unit: 'EUR/h', place: null, from: '142', to: '150', percent: 5.6 }, // biome-ignore format: one price
  ],
  fresh: [
    { row: 4, code: 'N', rate: '2.00', description: 'New', unit: 'm' },
    { row: 5, code: 'X', rate: '2.00', description: null, unit: null },
  ],
  vanished: [],
  skipped: [],
  unchanged: 0,
  decimal: 'point',
  isDecimalSure: true,
};
const accept = (changed: string[], fresh: string[], known?: SheetProfile) =>
  acceptPrices(
    comparison,
    { changed: new Set(changed), fresh: new Set(fresh) },
    { items: [item], values: [value] },
    { source: 'Yard', profile, known },
    '2026-05-01',
  );

describe('taking prices over', () => {
  it('gives the ticked items their rate with its source and date, values theirs, and adds what is new', () => {
    expect(accept(['M', 'Crane hour'], ['N', 'X'])).toEqual({
      removed: [],
      updated: [
        { kind: 'value', id: 'Crane hour', from: value, to: { ...value, value: '150' } },
        { kind: 'item', id: 'M', from: item, to: { ...item, rate: '1.10', source: 'Yard', date: '2026-05-01' } },
      ],
      added: [
        {
          kind: 'item',
          id: 'N',
          body: {
            code: 'N',
            description: 'New',
            kind: 'material',
            unit: 'm',
            rate: '2.00',
            source: 'Yard',
            date: '2026-05-01',
          },
        },
        { kind: 'priceSheet', id: 'Yard', body: profile },
      ],
    });
  });
  it('leaves the rest alone and keeps where the prices stand', () => {
    expect(accept(['M'], [], profile)).toMatchObject({ updated: [{ id: 'M' }], added: [] });
    const moved = { ...profile, headerRow: 3 };
    expect(accept([], [], moved)).toMatchObject({ updated: [{ kind: 'priceSheet', from: moved, to: profile }] });
  });
});

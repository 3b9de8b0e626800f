import { buyWhole } from './cost-item.ts';
import { readSoldAs, showSoldAs } from './sold-as-text.ts';

describe('how lengths are cut by a list', () => {
  it.each([
    ['lengths 3, 4.2 m, cut by list', { lengths: [3, 4.2], cut: {} }],
    ['lengths 3, 4.2 m, cut by list, kerf 0.004, keep over 1', { lengths: [3, 4.2], cut: { kerf: 0.004, keepOver: 1 } }],
    ['lengths 5.4, 7.2 m, per storey, cut by list, not joined', { lengths: [5.4, 7.2], perStorey: true, cut: { joined: false } }],
    ['lengths 3 at 7.00, 5 at 9.50 m, cut by list', { lengths: [3, 5], lengthPrices: ['7.00', '9.50'], cut: {} }],
  ])('is read and shown alike: %s', (text, sold) => {
    expect(readSoldAs(text)).toEqual({ ok: true, value: sold });
    expect(readSoldAs(showSoldAs(sold, 'm'))).toEqual({ ok: true, value: sold });
  }); // biome-ignore format: short
  it('is nothing for packs', () => expect(readSoldAs('packs of 25, cut by list')).toMatchObject({ ok: false }));
});

it('a new material that is counted is bought whole; hours, lengths and what says how it is sold stay as they are', () => {
  const item = { code: 'X', description: '', kind: 'material', unit: 'bag', rate: '1' } as const;
  expect(buyWhole(item).soldAs).toEqual({ pack: 1 });
  for (const other of [
    { ...item, unit: 'm2' },
    { ...item, kind: 'labour' as const },
    { ...item, soldAs: { pack: 4 } },
  ])
    expect(buyWhole(other)).toBe(other);
});

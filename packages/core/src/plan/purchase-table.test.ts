import { groupPurchases, PURCHASE_COLUMN, type PurchaseRow } from './purchase-table.ts';

const purchase = (code: string, supplier: string | null, storey: string | null, minor: number): PurchaseRow => ({
  code,
  supplier,
  kind: 'material',
  storey,
  minor,
});
const LIST = [
  purchase('T-10', 'Quay timber', null, 12_050),
  purchase('T-2', 'Quay timber', 'Upper floor', 4_025),
  purchase('T-2', 'Quay timber', 'Ground floor', 975),
  purchase('P-1', null, null, 300),
];
const shown = (by: Parameters<typeof groupPurchases>[1]) => {
  const { lines, totals } = groupPurchases(LIST, by);
  return {
    lines: lines.map((l) => [
      l.label || l.cells[PURCHASE_COLUMN.code],
      Number(l.cells[PURCHASE_COLUMN.minor]) / 10_000,
    ]),
    total: Number(totals[PURCHASE_COLUMN.minor]) / 10_000,
  };
};

describe('lists of purchases', () => {
  it('stand in the order of their codes', () => {
    expect(shown([])).toEqual({
      lines: [
        ['P-1', 300],
        ['T-2', 4_025],
        ['T-2', 975],
        ['T-10', 12_050],
      ],
      total: 17_350,
    });
  });
  it('by supplier have the sum of what is bought there; who has none is named', () => {
    expect(shown(['supplier'])).toEqual({
      lines: [
        ['No supplier', 300],
        ['P-1', 300],
        ['Quay timber', 17_050],
        ['T-2', 4_025],
        ['T-2', 975],
        ['T-10', 12_050],
      ],
      total: 17_350,
    });
  });
  it('lead back to what is bought', () => {
    const { lines } = groupPurchases(LIST, ['storey']);
    const keysOf = (label: string) => lines.find((l) => l.label === label)!.keys;
    expect(keysOf('Ground floor')).toEqual([2]);
    expect(keysOf('No storey')).toEqual([0, 3]);
  });
});

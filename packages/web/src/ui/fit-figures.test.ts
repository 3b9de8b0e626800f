import { fitFigures } from './fit-figures.ts';
import type { TableColumn } from './table-column.ts';

const column = (key: string, more: Partial<TableColumn<number>> = {}): TableColumn<number> => ({
  key,
  heading: key,
  width: 80,
  isFigure: true,
  cell: (n) => n.toFixed(2),
  ...more,
});

describe('columns of figures', () => {
  it('are as wide as their longest figure needs, else as they are made', () => {
    expect(fitFigures([column('a')], [1, 1234], undefined)).toEqual({});
    // 52733788.50 has 11 signs.
    expect(fitFigures([column('a')], [1, 52_733_788.5], undefined)).toEqual({ a: Math.ceil(11 * 8.2 + 18) });
  });
  it('look at the foot too, and not at what is copied of a cell that is drawn', () => {
    expect(fitFigures([column('a')], [1], () => '1,234,567,890.00')).toEqual({ a: Math.ceil(16 * 8.2 + 18) });
    const drawn = column('a', { cell: () => null, text: () => 'max(scale("Depth"), 20 EUR/m3)' });
    expect(fitFigures([drawn], [1], undefined)).toEqual({});
  });
  it('texts, and columns that share what is left, stay as they are', () =>
    expect(fitFigures([column('a', { isFigure: false }), column('b', { width: 0 })], [1e15], undefined)).toEqual({}));
  it('of a long table are looked at here and there, in little time', () => {
    let looked = 0;
    const counting = column('a', { cell: () => String(++looked) });
    fitFigures(
      [counting],
      Array.from({ length: 100_000 }, (_, i) => i),
      undefined,
    );
    expect(looked).toBeLessThan(1300);
  });
});

/** @jest-environment jsdom */
import type { PurchaseDto } from '@tally/core';
import { act, fireEvent, within } from '@testing-library/react';
import { renderInProject } from '../../testing/in-project.tsx';
import { OrderSheets } from './order-sheets.tsx';

const bought = (code: string, more: Partial<PurchaseDto> = {}): PurchaseDto => ({
  code, description: code, supplier: 'Yard', kind: 'material', storey: null, unit: 'm3', minor: 10_000, surplusMinor: 0, net: 1, waste: 0, toBuy: 1,
  packs: null, lengths: [], surplus: 0, splices: 0, cutting: null, unknown: 0, ...more,
}); // biome-ignore format: a purchase in short

/** What is printed: rows of cells, by supplier. */
function print(purchases: readonly PurchaseDto[]) {
  renderInProject(<OrderSheets purchases={purchases} />);
  act(() => void fireEvent(window, new Event('beforeprint')));
  const sheets = [...document.querySelectorAll<HTMLElement>('.print-sheet section')].map((sheet) => [
    sheet.querySelector('h2')!.textContent,
    within(sheet)
      .getAllByRole('row')
      .slice(1)
      .map((row) => [...row.querySelectorAll('td')].map((cell) => cell.textContent)),
  ]);
  act(() => void fireEvent(window, new Event('afterprint')));
  return Object.fromEntries(sheets) as Record<string, string[][]>;
}

describe('the sheets that are printed to order by', () => {
  it('add up what a supplier brings', () => {
    const { Yard } = print([bought('A'), bought('B', { minor: 2_550 })]);
    expect(Yard!.map((cells) => cells.at(-1))).toEqual(['100.00', '25.50', '125.50']);
    expect(Yard!.at(-1)![0]).toBe('Together');
    expect(document.querySelector('.print-sheet table')).toBeNull();
  });
  it('order nothing as 0 and give no sum for the whole that lacks something', () => {
    const { Yard, Mill } = print([
      bought('A', { unknown: 2, net: 0, toBuy: 0, minor: 0 }),
      bought('B', { unknown: 1, toBuy: 4, minor: 5_000 }),
      bought('C', { supplier: 'Mill' }),
    ]);
    expect(Yard!.map((cells) => [cells[0], cells.at(2), cells.at(-1)])).toEqual([
      ['A', 'unknown', 'unknown'],
      ['B', '4.000 so far', '50.00 so far'],
      ['Together so far', undefined, '50.00'],
    ]);
    expect(Mill!.at(-1)![0]).toBe('Together');
  });
});

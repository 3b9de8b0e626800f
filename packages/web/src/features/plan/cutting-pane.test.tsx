/** @jest-environment jsdom */
import type { ItemCut } from '@tally/core';
import { act, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject } from '../../testing/in-project.tsx';
import { CuttingPane } from './cutting-pane.tsx';

const ITEMS = [
  { code: 'M-GUTT', description: 'Gutter', isByList: false },
  { code: 'M-STUD', description: 'Stud', isByList: true },
];
const piece = (lengthM: number, from: string) => ({ lengthM, from });
const CUT: ItemCut = {
  item: 'M-STUD', storey: null, description: 'Stud', unit: 'm', unitM: 1, isByList: true, unknown: 2, stockM: 15, piecesM: 13.4, wasteM: 0.6, keptM: 1, joints: 0, lowerBoundM: 15,
  bars: [
    { stockM: 5, pieces: [piece(2.4, 'Wall 1'), piece(2.4, 'Wall 2')], offcutM: 0.2, isKept: false },
    { stockM: 5, pieces: [piece(2.4, 'Wall 3'), piece(2.4, 'Wall 3')], offcutM: 0.2, isKept: false },
    { stockM: 5, pieces: [piece(3.8, 'Wall 4')], offcutM: 1, isKept: true },
  ],
}; // biome-ignore format: a cut in short

describe('cutting lists', () => {
  it('draw bars that are cut alike once, say what is waste and what is kept, and what is not in them', async () => {
    renderInProject(<CuttingPane choice={null} />, {
      'GET /cutting/M-STUD': () => ({ body: { lists: [CUT] } }),
      'GET /cutting': () => ({ body: ITEMS }),
    });
    expect(await screen.findByText('2 ×')).toBeTruthy();
    expect(screen.getAllByText('2.400')).toHaveLength(2);
    expect(screen.getByText('1.00 kept')).toBeTruthy();
    expect(screen.getByText('0.60 m, 4.0 %')).toBeTruthy();
    expect(screen.getByText(/2 elements have no known quantity/)).toBeTruthy();
    expect(screen.getByRole('button', { name: /M-STUD/ }).getAttribute('aria-current')).toBe('true');
  }, 20_000);
  it('say by name which piece is longer than any bar', async () => {
    renderInProject(<CuttingPane choice={null} />, {
      'GET /cutting/M-STUD': () =>
        refuse('A piece of 6.001 m for Rafter 7 is longer than the longest bar, 6.000 m.', 'piece-too-long', 422),
      'GET /cutting': () => ({ body: ITEMS }),
    });
    expect((await screen.findByRole('alert')).textContent).toContain('6.001 m for Rafter 7');
  }, 20_000);
  it('are printed in full, drawn when they are printed and not before', async () => {
    renderInProject(<CuttingPane choice={null} />, {
      'GET /cutting/M-STUD': () => ({ body: { lists: [CUT] } }),
      'GET /cutting': () => ({ body: ITEMS }),
    });
    await screen.findByText('2 ×');
    const sheet = document.querySelector('.print-sheet')!;
    expect(sheet.textContent).toBe('');
    act(() => void window.dispatchEvent(new Event('beforeprint')));
    expect(sheet.textContent).toContain('Cutting list: M-STUD Stud');
    expect(sheet.textContent).toContain('2.400 + 2.400');
    expect(sheet.textContent).toContain('Wall 1, Wall 2, Wall 3 × 2');
    act(() => void window.dispatchEvent(new Event('afterprint')));
    expect(sheet.textContent).toBe('');
  }, 20_000);
  it('say the next step where nothing is sold in lengths', async () => {
    renderInProject(<CuttingPane choice={null} />, { 'GET /cutting': () => ({ body: [] }) });
    expect(await screen.findByText(/Say in the book how an item is sold/)).toBeTruthy();
    await userEvent.setup().tab();
  }, 20_000);
});

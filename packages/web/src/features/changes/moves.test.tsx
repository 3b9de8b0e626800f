/** @jest-environment jsdom */
import { useColorScheme } from '@mui/material/styles';
import type { ComparisonDto, ElementChange, MoveCause } from '@tally/core';
import { act, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect } from 'react';
import { giveSizes } from '../../testing/give-sizes.ts';
import { renderInProject, renderThemed } from '../../testing/in-project.tsx';
import { ChangesPrint } from './changes-print.tsx';
import { ElementChanges } from './element-changes.tsx';
import { GroupMoves } from './group-moves.tsx';
import { MoveWaterfall } from './move-waterfall.tsx';

const NONE = { extent: 0, quantity: 0, mapping: 0, price: 0, factors: 0, rounding: 0 };
/** An element whose move is given in whole minor units, by one cause. */
const element = (key: number, label: string, what: ElementChange['what'], minor: number, cause: MoveCause, more: Partial<ElementChange> = {}): ElementChange => ({
  key, sourceId: 's', what, isIdentified: false, identity: `${key}`, label, ifcClass: 'IfcWall', storey: 'Ground floor', move: minor * 10_000, causes: { ...NONE, [cause]: minor * 10_000 }, quantities: {}, attributes: {}, movedM: 0, split: null, reads: [], ...more,
}); // biome-ignore format: one record
// Walls: one came for 500.00, one is longer for 120.00, one went for 80.00, one has moved without money; 3.40 of packs are no element's.
const MOVE = {
  before: 100_000,
  after: 154_340,
  move: 54_340,
  causes: { ...NONE, extent: 42_000, quantity: 12_000, rounding: 340 },
};
const COMPARISON: ComparisonDto = {
  currency: 'EUR',
  minorDigits: 2,
  move: MOVE,
  groups: [
    { label: 'Walls', from: 100_000, to: 154_000, move: 54_000, causes: { ...NONE, extent: 42_000, quantity: 12_000 } },
    { label: 'Packs', from: 0, to: 340, move: 340, causes: { ...NONE, rounding: 340 } },
    { label: 'Roof', from: 0, to: 0, move: 0, causes: NONE },
  ],
  counts: { came: 1, went: 1, changed: 2, priced: 0, identified: 1 },
  elements: [
    element(1, 'Wall W1', 'came', 50_000, 'extent'),
    element(2, 'Wall W2', 'changed', 12_000, 'quantity', { quantities: { Length: [4, 8.8] }, reads: ['Length'] }),
    element(3, 'Wall W3', 'went', -8_000, 'extent'),
    element(4, 'Wall W4', 'changed', 0, 'quantity', { movedM: 0.5 }),
  ],
  rest: { count: 0, move: 0 },
  surplus: 3_400_000,
  revisions: [[], []],
  drift: [null, null],
  floorAreaM2: [null, null],
};
const cells = (row: HTMLElement) => within(row).getAllByRole('gridcell').map((c) => c.textContent); // biome-ignore format: one line

beforeAll(() => giveSizes());

describe('moves by group', () => {
  it('add up in every row and column, in which only causes that acted stand; what costs nothing is left out', () => {
    renderThemed(<GroupMoves comparison={COMPARISON} heading="Work section" cause={null} onOpen={() => undefined} />);
    const table = within(screen.getByRole('grid', { name: 'Moves by group' }));
    expect(table.getAllByRole('columnheader').map((c) => c.textContent).filter((t) => t !== '')).toEqual(['Work section', 'Before', 'After', 'Move', 'Extent', 'Quantity', 'Packs']); // biome-ignore format: one line
    expect(cells(table.getByRole('row', { name: /^Walls/ }))).toEqual([
      'Walls',
      '1,000.00',
      '1,540.00',
      '+540.00',
      '+420.00',
      '+120.00',
      '',
    ]);
    expect(cells(table.getByRole('row', { name: /^All/ }))).toEqual([
      'All',
      '1,000.00',
      '1,543.40',
      '+543.40',
      '+420.00',
      '+120.00',
      '+3.40',
    ]);
    expect(table.queryByText('Roof')).toBeNull();
  });
  it('by one cause are those that it moved, and lead to what is in them', async () => {
    const opened: string[] = [];
    renderThemed(
      <GroupMoves
        comparison={COMPARISON}
        heading="Work section"
        cause="extent"
        onOpen={(label) => opened.push(label)}
      />,
    );
    const table = within(screen.getByRole('grid', { name: 'Moves by group' }));
    expect(table.queryByText('Packs', { selector: '[role=gridcell]' })).toBeNull();
    await userEvent.dblClick(table.getByText('Walls'));
    expect(opened).toEqual(['Walls']);
  });
});

describe('moves by element', () => {
  const draw = (cause: MoveCause | null, onChoose = (_: number) => undefined as unknown) =>
    renderInProject(<ElementChanges comparison={COMPARISON} cause={cause} chosen={null} onChoose={onChoose} />);
  const labels = () => screen.queryAllByRole('row').slice(1, -1).map((r) => cells(r)[0]); // biome-ignore format: one line
  it('add up with what is no element’s to the move; what moves no money comes on asking', async () => {
    draw(null);
    expect(labels()).toEqual(['Wall W1', 'Wall W2', 'Wall W3']);
    expect(cells(screen.getByRole('row', { name: /W2/ }))).toEqual([
      'Wall W2',
      'Changed',
      'longer by 4.80 m',
      'Ground floor',
      '+120.00',
    ]);
    expect(cells(screen.getByRole('row', { name: /^3 elements/ })).at(-1)).toBe('+540.00');
    expect(screen.getByText('No element’s: what whole packs leave over').nextSibling!.textContent).toBe('+3.40');
    await userEvent.click(screen.getByText('1 more that move no money'));
    expect(labels()).toContain('Wall W4');
    await userEvent.click(screen.getByText('Only what moves money'));
    expect(labels()).not.toContain('Wall W4');
  });
  it('are limited to those that came, and say what the others are', async () => {
    const chosen: number[] = [];
    draw(null, (key) => chosen.push(key));
    await userEvent.click(screen.getByRole('button', { name: 'Came 1' }));
    expect(labels()).toEqual(['Wall W1']);
    expect(screen.getByText('Of other elements').nextSibling!.textContent).toBe('+43.40');
    await userEvent.click(screen.getByText('Wall W1'));
    expect(chosen).toEqual([1]);
    await userEvent.click(screen.getByRole('button', { name: 'Came 1' }));
    expect(labels()).toHaveLength(3);
  });
  it('by one cause add up to what it moved', () => {
    draw('extent');
    expect(labels()).toEqual(['Wall W1', 'Wall W3']);
    expect(cells(screen.getByRole('row', { name: /^2 elements/ })).at(-1)).toBe('+420.00');
    expect(screen.getByText('Move by extent')).toBeTruthy();
  });
});

describe('the printed comparison', () => {
  const figures = () => [...document.querySelectorAll('.print-sheet table:last-of-type tr')].map((r) => r.querySelector('.figure')!.textContent); // biome-ignore format: one line
  it('adds up: elements, what is no element’s, and the whole', async () => {
    renderInProject(<ChangesPrint comparison={COMPARISON} title="Cost plan 1 to Now" by="section" currency="EUR" />);
    act(() => void window.dispatchEvent(new Event('beforeprint')));
    expect(figures()).toEqual(['+500.00', '+120.00', '−80.00', '+3.40', '+543.40']);
    expect(screen.getByText('What whole packs leave over')).toBeTruthy();
  });
  it('has what is not printed one by one as a line of its own, to the cent', () => {
    // 300 walls of 0.10 each, of which 200 are printed: 100 x 0.10 and 3.40 of packs are left.
    const many = Array.from({ length: 300 }, (_, i) => element(i + 1, `Wall ${i + 1}`, 'came', 10, 'extent'));
    const move = { before: 0, after: 3_340, move: 3_340, causes: { ...NONE, extent: 3_000, rounding: 340 } };
    renderInProject(
      <ChangesPrint comparison={{ ...COMPARISON, move, elements: many }} title="" by="section" currency="EUR" />,
    );
    act(() => void window.dispatchEvent(new Event('beforeprint')));
    expect(figures()).toHaveLength(202);
    expect(figures().slice(-2)).toEqual(['+13.40', '+33.40']);
    expect(screen.getByText('100 other elements, and what whole packs leave over')).toBeTruthy();
  });
});

describe('the picture of a move', () => {
  beforeAll(() => {
    const rect = { width: 600, height: 176, top: 0, left: 0, right: 600, bottom: 176, x: 0, y: 0, toJSON: () => '' };
    HTMLElement.prototype.getBoundingClientRect = () => rect as DOMRect;
  });
  function Dark() {
    const { setMode } = useColorScheme();
    useEffect(() => setMode('dark'), [setMode]);
    return <MoveWaterfall move={MOVE} minorDigits={2} chosen={null} onChoose={() => undefined} />;
  }
  it('says in words what it shows', () => {
    renderThemed(<MoveWaterfall move={MOVE} minorDigits={2} chosen={null} onChoose={() => undefined} />);
    expect(screen.getByRole('img').getAttribute('aria-label')).toBe(
      'From 1,000.00 to 1,543.40: Extent +420.00, Quantity +120.00, Packs +3.40',
    );
  });
  it('is written in the ink of the scheme, light on dark', async () => {
    renderThemed(<Dark />);
    const written = await screen.findByText('+420.00');
    const ink = written.closest('text')!.style.fill || written.closest('text')!.getAttribute('fill')!;
    const channels = /^#/.test(ink) ? [1, 3, 5].map((i) => Number.parseInt(ink.slice(i, i + 2), 16)) : ink.match(/\d+/g)!.slice(0, 3).map(Number); // biome-ignore format: one choice
    expect(Math.min(...channels)).toBeGreaterThan(150);
  });
});

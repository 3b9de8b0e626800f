/** @jest-environment jsdom */
import type { GroupField, HeldBand, PlanDto } from '@tally/core';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { PlanStrip } from './plan-strip.tsx';

const group = (label: string, minor: number, open = 0) => ({ id: `/${label}`, label, minor, open });
const PLAN = { groups: [group('Ground floor', 300_000), group('Roof', 100_000, 2), group('No storey', 0)] } as unknown as PlanDto; // biome-ignore format: a plan in short
const band = (of: string, price: number | null, place: HeldBand['place'], open = 0): HeldBand => ({ band: { of, unit: 'm2 floor', low: '60', usual: '80', high: '100' }, amount: 0, quantity: 1, price, place, elements: 4, open }); // biome-ignore format: one band
const open = (bands: HeldBand[]) => {
  const shown: (readonly GroupField[])[] = [];
  const first = sampleState();
  const building = {
    floorAreaM2: 200,
    storeysWithoutArea: [],
    storeys: [{ name: 'Ground floor', areaM2: 120 }],
    units: [],
  };
  renderInProject(
    <PlanStrip onShow={(by) => shown.push(by)} />,
    { 'GET /plan': () => ({ body: PLAN }), 'GET /bands': () => ({ body: bands }) },
    { ...first, summary: { ...first.summary, building } },
  );
  return shown;
};

describe('the strip above the plan', () => {
  beforeEach(() => localStorage.clear());
  it('shows storeys by their share, with the cost per m2 of those whose area is known, and leads to them', async () => {
    const shown = open([]);
    // 3,000.00 of 4,000.00; 3,000.00 / 120 m2.
    expect((await screen.findByRole('button', { name: /Ground floor/ })).textContent).toBe(
      'Ground floor75.0 % · 25 per m²',
    );
    expect(screen.getByRole('button', { name: /Roof/ }).title).toContain('2 not priced');
    expect(screen.queryByRole('button', { name: /No storey/ })).toBeNull();
    await userEvent.setup().click(screen.getByRole('button', { name: /Roof/ }));
    expect(shown).toEqual([['storey']]);
  }, 20_000);
  it('tells what is dearer or cheaper than usual, and of what is not priced that it is not known', async () => {
    open([
      band('A10', 88, 'within'),
      band('B20', 191.4, 'above', 3),
      band('C10', 44, 'below'),
      band('IfcDoor', null, 'unknown'),
    ]);
    await userEvent.setup().click(screen.getByRole('tab', { name: 'Usual prices' }));
    const above = await screen.findByText('above, per m² floor, 3 open');
    expect(above.parentElement!.title).toContain(
      '191.40 per m² floor; usual 60 to 100, mostly 80; 3 of its elements are not fully priced',
    );
    expect(screen.getByText('below, per m² floor')).toBeTruthy();
    expect(screen.getByText('not known, per m² floor').parentElement!.textContent).toContain('–');
  }, 20_000);
  it('says where usual prices come from while there are none', async () => {
    open([]);
    await userEvent.setup().click(screen.getByRole('tab', { name: 'Usual prices' }));
    expect(await screen.findByText(/Give some in the book, under bands/)).toBeTruthy();
  }, 20_000);
});

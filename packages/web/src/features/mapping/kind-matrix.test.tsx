/** @jest-environment jsdom */
import { buildElementTable, type ElementStatesDto, type PricingRule } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import { giveSizes } from '../../testing/give-sizes.ts';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleElement } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { KindMatrix } from './kind-matrix.tsx';

const layer = (material: string) => ({ material, thickness: 0.1, position: 0, area: 10, volume: 1, weight: null });
/** Two walls of brick and plaster, and a locker. */
const table = () =>
  buildElementTable(
    [
      ...[1, 2].map((n) => sampleElement(`w${n}`, `Wall ${n}`, 'IfcWall', null, { typeName: 'Outer', layers: [layer('Brick'), layer('Plaster')] as never })),
      sampleElement('l', 'Locker', 'IfcFurniture', null, { typeName: 'Locker' }),
    ],
    Int32Array.of(1, 2, 3),
  ); // biome-ignore format: one building
const STATES: ElementStatesDto[] = [{ revisionId: 'r1', keys: [1, 2, 3], states: [2, 2, 0], amounts: [1, 1, 0] }];
const ofLayer = (id: string, material: string): PricingRule => ({ id, name: id, scope: { field: 'layer', op: 'is', value: material }, about: 'layer', section: 'fit', item: 'M-LOCK', driver: 'Count' }); // biome-ignore format: one rule

describe('kinds against work sections', () => {
  beforeAll(() => giveSizes());
  it('count an element once, though each of its layers has a rule, and tell where one is missed', async () => {
    const first = sampleState({ sources: [sampleSource] });
    const rules = [ofLayer('brick', 'Brick'), ofLayer('plaster', 'Plaster')];
    const expected = [{ ifcClass: 'IfcFurniture', sections: ['fit'] }];
    renderInProject(<KindMatrix choice={null} />, { 'GET /elements/states': () => ({ body: STATES }) }, { ...first, basis: { ...first.basis, rules, expected } }); // biome-ignore format: one call
    serveTable(table());
    const grid = await screen.findByRole('grid', { name: 'Kinds by section' }, { timeout: 8000 });
    const row = (name: RegExp) => within(within(grid).getByRole('row', { name })).getAllByRole('gridcell').map((c) => c.textContent); // biome-ignore format: one step
    await waitFor(() => expect(row(/Outer/)).toEqual(['Wall, Outer', '2', '2', '']), { timeout: 8000 });
    expect(row(/Locker/)).toEqual(['Furniture, Locker', '1', 'missing', '']);
  }, 20_000);
});

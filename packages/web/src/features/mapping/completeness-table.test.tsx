/** @jest-environment jsdom */
import { buildElementTable, type ElementStatesDto } from '@tally/core';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleElement } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { CompletenessTable } from './completeness-table.tsx';

const volume = (value: number) => [{ name: 'NetVolume', basis: 'measured' as const, unit: 'm3' as const, value, method: 'swept' as const }]; // biome-ignore format: one figure
const table = buildElementTable(
  [
    sampleElement('a', 'a', 'IfcWall', 'Ground floor', { quantities: volume(3) }),
    sampleElement('b', 'b', 'IfcWallStandardCase', 'Upper floor', { quantities: volume(1) }),
    sampleElement('c', 'c', 'IfcDoor', null),
  ],
  Int32Array.of(1, 2, 3),
);
const STATES: ElementStatesDto[] = [{ revisionId: 'r1', keys: [1, 2, 3], states: [2, 0, 3], amounts: [1, 0, 0] }];

describe('how complete the plan is, as a table', () => {
  beforeAll(() => giveSizes());
  const open = async () => {
    renderInProject(<CompletenessTable choice={null} />, { 'GET /elements/states': () => ({ body: STATES }) }, sampleState({ sources: [sampleSource] })); // biome-ignore format: one call
    serveTable(table);
    return screen.findByRole('grid', { name: 'Completeness' });
  };
  const cellsOf = (grid: HTMLElement, name: RegExp) =>
    within(within(grid).getByRole('row', { name }))
      .getAllByRole('gridcell')
      .map((c) => c.textContent);
  it('counts by class, those of one name together; what is left out is not missing', async () => {
    const grid = await open();
    expect(cellsOf(grid, /Wall/)).toEqual(['Wall', '1', '', '1', '', '50 %']);
    expect(cellsOf(grid, /Door/)).toEqual(['Door', '', '', '', '1', '–']);
  }, 20_000);
  it('tells it by volume, and by storey', async () => {
    const user = userEvent.setup();
    const grid = await open();
    await user.click(screen.getByRole('combobox', { name: 'Measured' }));
    await user.click(await screen.findByRole('option', { name: 'by volume' }));
    expect(cellsOf(grid, /Wall/)).toEqual(['Wall', '3.000 m³', '', '1.000 m³', '', '75 %']);
    await user.click(screen.getByRole('combobox', { name: 'Rows are' }));
    await user.click(await screen.findByRole('option', { name: 'by storey' }));
    expect(cellsOf(grid, /Upper floor/).slice(0, 4)).toEqual(['Upper floor', '', '', '1.000 m³']);
    expect(within(grid).getByRole('row', { name: /Without a storey/ })).toBeTruthy();
  }, 30_000);
});

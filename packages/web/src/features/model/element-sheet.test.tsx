/** @jest-environment jsdom */
import { buildElementTable, type Quantity } from '@tally/core';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { LoadedModel, LoadedModels } from '../../store/loaded-models.ts';
import { useSelection } from '../../store/selection.tsx';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleElement } from '../../testing/sample-table.ts';
import { ElementSheet } from './element-sheet.tsx';

const quantity = (name: string, value: number, more: Partial<Quantity> = {}): Quantity => ({
  name,
  value,
  unit: 'm2',
  basis: 'measured',
  method: 'swept',
  exactness: 'exact',
  ...more,
});
const stated = { basis: 'stated', method: 'file', exactness: null } as unknown as Partial<Quantity>;
const opening = (globalId: string, area: number | null) => ({ globalId, width: 1, height: 2, area, filledBy: null });

/** Two walls, one of which counts as stated since its body is a mesh, and one whose openings are not all measured. */
const table = buildElementTable(
  [
    sampleElement('a', 'Wall a', 'IfcWall', 'Ground floor', {
      quantities: [
        quantity('NetSideArea', 10, { exactness: 'mesh', method: 'mesh' }),
        quantity('NetSideArea', 9.5, stated),
        quantity('Height', 2.5, { unit: 'm' }),
      ],
    }),
    sampleElement('b', 'Wall b', 'IfcWall', 'Loft', {
      quantities: [
        quantity('NetSideArea', 12),
        quantity('NetSideArea', 11, stated),
        quantity('Height', 3, { unit: 'm' }),
        quantity('NetVolume', 3.6, { unit: 'm3' }),
      ],
    }),
    sampleElement('c', 'Wall c', 'IfcWall', 'Loft', {
      openings: [opening('o1', 2), opening('o2', null)] as never,
    }),
  ],
  Int32Array.of(1, 2, 3),
);
const model = { table } as LoadedModel;
const models: LoadedModels = {
  models: [model],
  tables: [table],
  named: [],
  isLoading: false,
  error: null,
  find: (key) => ({ model, row: [1, 2, 3].indexOf(key) }),
};

function Choose({ keys }: { readonly keys: readonly number[] }) {
  const { select } = useSelection();
  return (
    <button type="button" onClick={() => select([...keys])}>
      Choose
    </button>
  );
}
async function open(keys: readonly number[], units: 'metric' | 'imperial' = 'metric') {
  const state = sampleState();
  const basis = { ...state.basis, settings: { ...state.basis.settings, units } };
  renderInProject(
    <>
      <Choose keys={keys} />
      <ElementSheet models={models} />
    </>,
    {},
    { ...state, basis },
  );
  await userEvent.click(screen.getByRole('button', { name: 'Choose' }));
}
/** What stands beside the name of a quantity. */
const beside = (quantity: string) => screen.getByTitle(quantity).parentElement!.textContent;

describe('the sheet of several elements', () => {
  it('adds up the figures that the plan takes, not those that it does not', async () => {
    await open([1, 2]);
    // The stated 9.5 of the wall that is a mesh, the measured 12 of the other.
    expect(beside('NetSideArea')).toMatch(/21\.50m²$/);
    expect(beside('Height')).toMatch(/2\.50 – 3\.00m$/);
    expect(beside('NetVolume')).toMatch(/ of 13\.600m³$/);
  });
  it('is in the units of the project', async () => {
    await open([1, 2], 'imperial');
    // 21.5 / 0.3048².
    expect(beside('NetSideArea')).toMatch(/231\.42ft²$/);
    expect(beside('Height')).toMatch(/8' 2 7\/16" – 9' 10 1\/8"$/);
  });
});

describe('the sheet of an element', () => {
  it('says of each opening what is measured of it', async () => {
    await open([3]);
    const openings = within(screen.getByText('Openings (2)').closest('section')!);
    expect(openings.getByText('1.00 × 2.00 m = 2.00 m²')).toBeTruthy();
    expect(openings.getByText('1.00 × 2.00 m, area not measured')).toBeTruthy();
  });
  it('shows measured beside stated, and marks what differs by more than the tolerance', async () => {
    await open([2]);
    // 11 / 12 is 8.3 % less.
    expect(beside('NetSideArea')).toMatch(/−8\.3 %/);
    expect(screen.getByText('≠ 11.00')).toBeTruthy();
    expect(screen.getByText('12.00').getAttribute('title')).toMatch(/^exact/);
  });
});

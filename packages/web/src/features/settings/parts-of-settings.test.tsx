/** @jest-environment jsdom */
import { buildElementTable, type ModelStorey } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleLayer } from '../../testing/sample-layer.ts';
import { sampleElement } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { FunctionalUnitsPart } from './functional-units-part.tsx';
import { MaterialsPart } from './materials-part.tsx';
import { OverrideList } from './override-list.tsx';
import { StoreysPart } from './storeys-part.tsx';
import { ZonesPart } from './zones-part.tsx';

const floor = (value: number) => ({ name: 'NetFloorArea', basis: 'measured' as const, unit: 'm2' as const, value, method: 'swept' as const, exactness: 'exact' as const }); // biome-ignore format: one figure
const room = (id: string, area: number) =>
  sampleElement(id, `Room ${id}`, 'IfcSpace', 'Ground floor', {
    quantities: [floor(area)],
    zones: ['Wet'],
    materials: ['Oak'],
  });
const STOREYS: ModelStorey[] = [
  { name: 'Ground floor', elevation: 0, gfa: 120, gfaMethod: 'slabs' },
  { name: 'Loft', elevation: 3, gfa: null, gfaMethod: null },
];
const build = (storeys = STOREYS) =>
  buildElementTable([room('a', 12), room('b', 8.5)], Int32Array.of(1, 2), { storeys, densities: { Oak: 700 } });

function open(part: ReactNode, layer = {}, answer = () => ({ status: 200, body: { projectId: 'p', seq: 8, move: null } as unknown }), table = build()) {
  const drawn = renderInProject(part, { 'POST /changes': answer }, sampleState({ sources: [sampleSource], layer: sampleLayer(layer) }));
  serveTable(table);
  return { ...drawn, sent: () => drawn.posted().at(-1)?.body as { cause: string; diff: Record<string, unknown[]> } | undefined };
} // biome-ignore format: one helper
beforeAll(() => giveSizes());

describe('zones', () => {
  it('of the model say what lies in them, and are left to it', async () => {
    const { container } = open(<ZonesPart />);
    await screen.findByText('Wet');
    // 12 and 8.5 m2 of floor.
    expect(container.textContent).toMatch(/2 elements, from the model20\.50 m²/);
    expect(screen.queryByRole('button', { name: 'Rename' })).toBeNull();
  }, 20_000);
  it('add up no floor that is not there', async () => {
    const lost = sampleElement('c', 'Room c', 'IfcSpace', 'Ground floor', { zones: ['Wet'] });
    const wall = sampleElement('w', 'Wall', 'IfcWall', 'Ground floor', { zones: ['Wet'] });
    const all = buildElementTable([room('a', 12), lost, wall], Int32Array.of(1, 2, 3), { storeys: STOREYS });
    const { container } = open(<ZonesPart />, {}, undefined, all);
    await screen.findByText('Wet');
    expect(container.textContent).toMatch(/3 elements, from the model, the floor of one room not measured12\.00 m²/);
  }, 20_000);
  it('of our own are renamed; what the server refuses stays as it was typed, Escape gives it up', async () => {
    let isRefused = true;
    const { sent } = open(<ZonesPart />, { zones: { '1': ['Wet'] } }, () =>
      isRefused ? refuse('Somebody changed it.') : { status: 200, body: { projectId: 'p', seq: 8, move: null } },
    );
    const user = userEvent.setup();
    await user.click(await screen.findByRole('button', { name: 'Rename' }));
    const field = () => screen.queryByLabelText<HTMLInputElement>('New name of the zone');
    await user.clear(field()!);
    await user.type(field()!, 'Shower rooms{Enter}');
    await screen.findByText(/Somebody changed it/);
    expect(field()!.value).toBe('Shower rooms');
    isRefused = false;
    await user.type(field()!, '{Enter}');
    await waitFor(() => expect(field()).toBeNull());
    expect(sent()).toMatchObject({
      cause: 'Zone Wet renamed: Shower rooms',
      diff: { updated: [{ kind: 'zones', id: '1', from: ['Wet'], to: ['Shower rooms'] }] },
    });
  }, 20_000);
});

describe('gross floor areas', () => {
  it('add up to what is known, and say what is missing', async () => {
    const { container } = open(<StoreysPart />);
    expect((await screen.findByTestId('gfa-total')).textContent).toMatch(/none|m²/);
    await waitFor(() => expect(screen.getByTestId('gfa-total').textContent).toBe('120.00 m²'));
    expect(container.textContent).toContain('Together, without one storey that has none');
  }, 20_000);
  it('of which none is known are no 0', async () => {
    const { container } = open(<StoreysPart />, {}, undefined, build([{ name: 'Loft', elevation: 3, gfa: null, gfaMethod: null }])); // biome-ignore format: one call
    await screen.findByText('Loft');
    expect(screen.getByTestId('gfa-total').textContent).toBe('none');
    expect(container.textContent).not.toContain('without');
  }, 20_000);
});

describe('functional units', () => {
  it('are counted while their scope is said, and kept under a name', async () => {
    const user = userEvent.setup();
    const { sent } = open(<FunctionalUnitsPart />);
    await user.click(screen.getByRole('button', { name: 'Add a unit' }));
    await screen.findByText('2 counted');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Keep the unit' }).disabled).toBe(true);
    await user.type(screen.getByLabelText('Name of the unit'), ' Rooms ');
    await user.click(screen.getByRole('button', { name: 'Keep the unit' }));
    await waitFor(() => expect(sent()?.cause).toBe('Functional unit: Rooms'));
    const [{ to }] = sent()!.diff.updated as [{ to: { functionalUnits: unknown } }];
    expect(to.functionalUnits).toEqual([{ name: 'Rooms', scope: { field: 'class', op: 'is', value: 'IfcSpace' } }]);
    await waitFor(() => expect(screen.queryByLabelText('Name of the unit')).toBeNull());
  }, 20_000);
  it('keep what was typed when the server says no', async () => {
    const user = userEvent.setup();
    open(<FunctionalUnitsPart />, {}, () => refuse('Not now.'));
    await user.click(screen.getByRole('button', { name: 'Add a unit' }));
    await user.type(screen.getByLabelText('Name of the unit'), 'Rooms');
    await user.click(screen.getByRole('button', { name: 'Keep the unit' }));
    await screen.findByText(/Not now\./);
    expect(screen.getByLabelText<HTMLInputElement>('Name of the unit').value).toBe('Rooms');
  }, 20_000);
});

describe('which figure is used for some elements', () => {
  it('is said in people’s words, and kept by the name that files know', async () => {
    const user = userEvent.setup();
    const { sent } = open(<OverrideList names={['NetFloorArea']} />);
    await user.click(screen.getByRole('button', { name: 'Add an exception' }));
    await user.click(screen.getByLabelText('Quantity'));
    const option = (await screen.findAllByRole('option'))[0]!;
    expect(option.textContent).not.toBe('NetFloorArea');
    await user.click(option);
    await user.click(screen.getByRole('button', { name: 'Keep the exception' }));
    await waitFor(() => expect(sent()).toBeDefined());
    const [{ to }] = sent()!.diff.updated as [{ to: { quantityOverrides: unknown[] } }];
    expect(to.quantityOverrides).toMatchObject([{ quantity: 'NetFloorArea', choice: 'stated' }]);
    expect(sent()!.cause).not.toContain('NetFloorArea');
  }, 20_000);
});

describe('materials', () => {
  const edit = async (column: number, text: string) => {
    const user = userEvent.setup();
    const grid = await screen.findByRole('grid', { name: 'Materials' });
    const row = await within(grid).findByRole('row', { name: /Oak/ });
    await user.dblClick(within(row).getAllByRole('gridcell')[column]!);
    const field = await within(grid).findByRole('textbox');
    await user.clear(field);
    await user.type(field, `${text}{Enter}`);
  };
  it('say of how many elements they are, and the density of the file', async () => {
    open(<MaterialsPart />);
    expect((await screen.findByRole('row', { name: /Oak/ })).textContent).toMatch(/^Oak2700/);
  }, 20_000);
  it('take a density of one’s own, and refuse one that no material has', async () => {
    const { sent, posted } = open(<MaterialsPart />);
    await edit(2, '99000');
    expect((await screen.findAllByText(/A density lies between 0 and 30,000/)).length).toBeGreaterThan(0);
    expect(posted()).toEqual([]);
    await userEvent.keyboard('{Escape}');
    await edit(2, '690');
    await waitFor(() => expect(sent()?.cause).toBe('Density of Oak: 690 kg/m³'));
    expect(sent()!.diff.added).toEqual([{ kind: 'material', id: 'oak', body: { name: 'Oak', density: 690 } }]);
  }, 30_000);
  it('given here without a density keep their spellings when it is taken away', async () => {
    const given = { name: 'Oak', density: 690, synonyms: ['Eiche'] };
    const { sent } = open(<MaterialsPart />, { materials: [given] });
    await edit(2, ' ');
    await waitFor(() => expect(sent()?.cause).toBe('Density of Oak as in the file'));
    expect(sent()!.diff.updated).toEqual([{ kind: 'material', id: 'oak', from: given, to: { name: 'Oak', synonyms: ['Eiche'] } }]); // biome-ignore format: one change
  }, 30_000);
});

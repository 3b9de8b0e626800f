/** @jest-environment jsdom */
import { buildElementTable, type ElementStatesDto } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleLayer } from '../../testing/sample-layer.ts';
import { sampleElement } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { TakeoffPage } from './takeoff-page.tsx';

const metres = (value: number) => ({ name: 'Length', basis: 'measured' as const, unit: 'm' as const, value, method: 'swept' as const, exactness: 'exact' as const }); // biome-ignore format: one figure
/** Walls of 3, 4 and 5 m on the ground floor, one of 2.345 m in the loft. */
const walls = () =>
  buildElementTable(
    [3, 4, 5, 2.345].map((m, i) =>
      sampleElement(`w${i}`, `Wall ${i + 1}`, 'IfcWall', i < 3 ? 'Ground floor' : 'Loft', { quantities: [metres(m)] }),
    ),
    Int32Array.of(11, 12, 13, 14),
  );
const STATES: ElementStatesDto[] = [
  { revisionId: 'r1', keys: [11, 12, 13, 14], states: [2, 2, 2, 0], amounts: [0, 0, 0, 0] },
];

function open(answers = {}, layer = {}, views = {}) {
  const drawn = renderInProject(
    <TakeoffPage />,
    { 'GET /elements/states': () => ({ body: STATES }), 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }), 'POST /attributes': () => ({ body: { projectId: 'p', seq: 8, move: null } }), ...answers },
    sampleState({ sources: [sampleSource], layer: sampleLayer(layer), views }),
  ); // biome-ignore format: one call
  serveTable(walls());
  return drawn;
}
const table = () => screen.findByRole('treegrid', { name: 'Takeoff' });
const row = async (name: RegExp) => within(await table()).findByRole('row', { name }, { timeout: 8000 });
const choose = async (field: string, option: string) => {
  await userEvent.click(screen.getByRole('combobox', { name: field }));
  await userEvent.click(await screen.findByRole('option', { name: option }));
};

describe('the takeoff', () => {
  beforeAll(() => giveSizes());
  beforeEach(() => localStorage.clear());
  it('groups by storey, adds up as shown, and closes a group', async () => {
    open();
    // 3 + 4 + 5 m below, 2.345 m above.
    expect((await row(/Ground floor/)).textContent).toContain('12.00');
    expect((await row(/Loft/)).textContent).toMatch(/2\.3[45]/);
    expect((await table()).textContent).toMatch(/Total of 4.*14\.3[45]/);
    await userEvent.click(await row(/▾ Ground floor/));
    await userEvent.dblClick(within(await row(/▾ Ground floor/)).getAllByRole('gridcell')[0]!);
    expect((await row(/Ground floor/)).textContent).toContain('▸');
    expect(screen.queryByRole('row', { name: /Wall 1/ })).toBeNull();
    await userEvent.dblClick(within(await row(/▸ Ground floor/)).getAllByRole('gridcell')[0]!);
    expect(await row(/Wall 1/)).toBeTruthy();
  }, 30_000);
  it('takes an attribute typed into a cell for all of a row, and asks about a figure that could be one of two', async () => {
    const { posted } = open({}, { attributes: { '11': { Grade: 'A' } } });
    await row(/Ground floor/);
    await userEvent.click(screen.getByRole('button', { name: /^Columns/ }));
    await userEvent.click(screen.getByRole('combobox', { name: 'Columns, in this order' }));
    await userEvent.click(await screen.findByRole('option', { name: 'Grade' }));
    await userEvent.keyboard('{Escape}{Escape}');
    const cells = within(await row(/Wall 2/)).getAllByRole('gridcell');
    await userEvent.dblClick(cells.at(-1)!);
    const field = await screen.findByRole('textbox', { name: /Grade/ });
    await userEvent.type(field, '1.234{Enter}');
    expect((await screen.findAllByText(/1\.234/)).length).toBeGreaterThan(0);
    expect(posted()).toEqual([]);
    await userEvent.keyboard('{Escape}');
    await userEvent.dblClick(
      within(await row(/Wall 2/))
        .getAllByRole('gridcell')
        .at(-1)!,
    );
    await userEvent.type(await screen.findByRole('textbox', { name: /Grade/ }), 'C24{Enter}');
    await waitFor(() =>
      expect(posted().at(-1)?.body).toMatchObject({ of: { keys: [12] }, name: 'Grade', value: 'C24' }),
    );
  }, 40_000);
  it('is kept under a name; what the server refuses is told', async () => {
    open({ 'POST /changes': () => refuse('Not now.') });
    await row(/Ground floor/);
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    const name = await screen.findByRole('textbox', { name: 'Name of the table' });
    await userEvent.clear(name);
    await userEvent.type(name, 'Mine{Enter}');
    expect((await screen.findAllByText(/Not now\./)).length).toBeGreaterThan(0);
    expect((name as HTMLInputElement).value).toBe('Mine');
    expect(screen.getByRole('combobox', { name: 'Table' }).textContent).toBe('Elements by storey and class');
  }, 30_000);
  it('is limited to what is not priced, and says that it is looking while it does not know', async () => {
    let release = () => {};
    const gate = new Promise<void>((done) => {
      release = done;
    });
    open({ 'GET /elements/states': () => gate.then(() => ({ body: STATES })) });
    await row(/Ground floor/);
    await userEvent.click(screen.getByRole('button', { name: /^Filter/ }));
    await choose('Only those', 'Not fully priced');
    await userEvent.keyboard('{Escape}');
    expect(await screen.findByRole('progressbar', { name: 'Looking which elements these are' })).toBeTruthy();
    release();
    await waitFor(async () => expect((await table()).textContent).toContain('Total of 1'), { timeout: 8000 });
    expect(screen.queryByRole('progressbar', { name: 'Looking which elements these are' })).toBeNull();
    expect(await row(/Wall 4/)).toBeTruthy();
  }, 30_000);
  it('says what a saved table asks for and nothing here has, and keeps it until it is taken out', async () => {
    const saved = {
      name: 'Fire', row: 'element', columns: [{ field: 'name' }, { field: 'property:Pset_WallCommon.FireRating' }, { field: 'q:Length' }],
      groups: ['property:Own.Trade', 'storey'], scope: null, isBundled: false, sort: null,
    }; // biome-ignore format: a table in short
    open({}, {}, { fire: saved });
    await table();
    expect(screen.queryByText(/Not shown/)).toBeNull();
    await choose('Table', 'Fire');
    const told = 'Not shown, since nothing in this table has it: FireRating, Trade.';
    expect(await screen.findByText(told)).toBeTruthy();
    // Another column beside them: what is missing stays wanted.
    await userEvent.click(screen.getByRole('button', { name: /^Columns/ }));
    await userEvent.click(screen.getByRole('combobox', { name: 'Columns, in this order' }));
    await userEvent.click(await screen.findByRole('option', { name: 'Storey' }));
    await userEvent.keyboard('{Escape}{Escape}');
    expect(screen.getByText(told)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take them out of the table' }));
    await waitFor(() => expect(screen.queryByText(/Not shown/)).toBeNull());
    expect(await row(/▾ Ground floor/)).toBeTruthy();
  }, 30_000);
  it('within a limit that is gone says so', async () => {
    const saved = {
      name: 'East', row: 'element', columns: [{ field: 'name' }, { field: 'q:Length' }], groups: [], scope: null, isBundled: false, sort: null, within: 'East wing',
    }; // biome-ignore format: a table in short
    open({}, {}, { east: saved });
    await table();
    await choose('Table', 'East');
    expect(await screen.findByText(/There is no limit called East wing any more/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Whole building' }));
    expect(screen.queryByText(/no limit called/)).toBeNull();
    await waitFor(async () => expect((await table()).textContent).toMatch(/Total of 4.*14\.3[45]/));
  }, 30_000);
  it('of a project without a model says the next step', async () => {
    renderInProject(<TakeoffPage />);
    expect(await screen.findByRole('button', { name: 'Bring a model' })).toBeTruthy();
  });
});

/** @jest-environment jsdom */
import type { ComparisonDto, OptionConflict, ProjectStateDto } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { Options } from './options.tsx';
import { OptionsBeside } from './options-beside.tsx';

type OptionsOf = ProjectStateDto['options'];
const differs = (id: string) => ({ option: 'o', kind: 'item', id, from: { rate: '1' }, to: { rate: '2' } });
const option = (name: string, ...items: string[]) => ({
  name,
  at: `2026-02-0${1 + items.length}`,
  differences: items.map(differs),
});
const OPTIONS: OptionsOf = { o: option('Glulam', 'M-GLU'), q: { ...option('Steel', 'M-ST', 'L-ST'), isAway: true } };
const conflict = (id: string): OptionConflict => ({ difference: differs(id), base: { rate: '9' } });

beforeAll(() => giveSizes());
const open = async (answers: Parameters<typeof renderInProject>[1], options: OptionsOf = OPTIONS) => {
  const drawn = renderInProject(<Options onCompare={() => undefined} />, answers, sampleState({ options }));
  await userEvent.click(screen.getByRole('button', { name: 'Options' }));
  return drawn;
};
const row = (name: string) => within(screen.getAllByRole('listitem').find((li) => li.textContent!.startsWith(name))!);
const button = (of: ReturnType<typeof row>, name: string) => of.getByRole('button', { name }) as HTMLButtonElement;

describe('options of a project', () => {
  it('say how much differs, and are taken up again when they were put away', async () => {
    const { posted } = await open({ 'POST /changes': () => ({ body: { projectId: 'p', seq: 8, move: null } }) });
    expect(row('Glulam').getByText('One thing differs')).toBeTruthy();
    expect(row('Steel').getByText('2 things differ')).toBeTruthy();
    await userEvent.click(button(row('Steel'), 'Take up again'));
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toMatchObject({
      cause: 'Option taken up again: Steel',
      diff: { updated: [{ kind: 'option', id: 'q', from: { isAway: true }, to: { name: 'Steel', isAway: false } }] },
    });
  }, 30_000);
  it('cannot be merged before it is known that the plan changed nothing of it', async () => {
    let tell = (_: readonly OptionConflict[]) => undefined as unknown;
    await open({ 'GET /options/o/conflicts': () => new Promise((done) => (tell = (body) => done({ body }))) });
    expect(button(row('Glulam'), 'Merge into the plan').disabled).toBe(true);
    await waitFor(() => expect(tell.length).toBe(1));
    tell([]);
  }, 30_000);
  it('that the plan has changed too are settled one by one, or all at once', async () => {
    const conflicts = Array.from({ length: 22 }, (_, i) => conflict(`M-${i}`));
    const { posted } = await open({ 'GET /options/o/conflicts': () => ({ body: conflicts }), 'POST /options/o/rebase': () => refuse('It was settled meanwhile.') }, { o: OPTIONS.o! }); // biome-ignore format: one page
    const list = within(await screen.findByRole('alert'));
    expect(list.getByText('Item M-0')).toBeTruthy();
    expect(list.queryByText('Item M-20')).toBeNull();
    expect(list.getByText(/And 2 more/)).toBeTruthy();
    expect(button(row('Glulam'), 'Merge into the plan').disabled).toBe(true);
    await userEvent.click(list.getAllByRole('button', { name: 'The plan’s counts' })[1]!);
    await waitFor(() => expect(posted()).toHaveLength(1));
    expect(posted()[0]!.body).toEqual({ keepsOwn: { 'item/M-1': false } });
    // What was refused is told, and nothing of the list is gone.
    expect(await screen.findByText(/It was settled meanwhile\./)).toBeTruthy();
    await userEvent.click(list.getByRole('button', { name: 'Keep all of the option' }));
    await waitFor(() => expect(posted()).toHaveLength(2));
    expect(Object.values((posted()[1]!.body as { keepsOwn: object }).keepsOwn)).toEqual(new Array(22).fill(true));
  }, 30_000);
  it('a name that is refused stays, and nobody is led into an option that is none', async () => {
    const { posted } = await open(
      { 'POST /options': () => refuse('There is an option of this name.', 'name-taken', 422) },
      {},
    );
    const field = screen.getByLabelText('A new option') as HTMLInputElement;
    await userEvent.type(field, 'Glulam');
    await userEvent.click(screen.getByRole('button', { name: 'Make it and work in it' }));
    expect(await screen.findByText(/There is an option of this name\./)).toBeTruthy();
    expect(posted()).toHaveLength(1);
    expect(field.value).toBe('Glulam');
  }, 30_000);
});

describe('options side by side', () => {
  const causes = { extent: 0, quantity: 0, mapping: 0, price: 0, factors: 0, rounding: 0 };
  const comparison = (after: number) =>
    ({
      currency: 'EUR',
      minorDigits: 2,
      move: { before: 100_000, after, move: after - 100_000, causes },
      groups: [{ label: 'Roof', from: 100_000, to: after, move: after - 100_000, causes }],
      floorAreaM2: [100, 80],
    }) as unknown as ComparisonDto;
  it('show what each costs by group, what it differs by, and per m2 of its own floor', async () => {
    renderInProject(<OptionsBeside by="section" />, { 'GET /compare': () => ({ body: comparison(92_000) }) }, sampleState({ options: { o: OPTIONS.o! } })); // biome-ignore format: one page
    const table = within(await screen.findByRole('grid', { name: 'Options side by side' }));
    await table.findByRole('row', { name: /Per m² of floor/ });
    const cells = (name: RegExp) =>
      within(table.getByRole('row', { name }))
        .getAllByRole('gridcell')
        .map((c) => c.textContent);
    expect(cells(/^Roof/)).toEqual(['Roof', '1,000.00', '920.00', '−80.00']);
    // 1,000.00 over 100 m2, 920.00 over 80 m2.
    expect(cells(/^Per m²/)).toEqual(['Per m² of floor', '10.00', '11.50', '+1.50']);
    expect(cells(/^All/)).toEqual(['All', '1,000.00', '920.00', '−80.00']);
  }, 30_000);
  it('stand in the order in which they were made', async () => {
    const later = { ...option('Rendered'), at: '2026-03-01' };
    renderInProject(<OptionsBeside by="section" />, { 'GET /compare': () => ({ body: comparison(92_000) }) }, sampleState({ options: { a: later, o: OPTIONS.o! } })); // biome-ignore format: one page
    const heads = (await screen.findAllByRole('columnheader')).map((c) => c.textContent);
    expect(heads.filter((h) => h === 'Glulam' || h === 'Rendered')).toEqual(['Glulam', 'Rendered']);
  }, 30_000);
  it('name those that there is no room for', async () => {
    const many = Object.fromEntries(Array.from({ length: 8 }, (_, i) => [`o${i}`, option(`Way ${i}`)]));
    renderInProject(<OptionsBeside by="section" />, { 'GET /compare': () => ({ body: comparison(100_000) }) }, sampleState({ options: many })); // biome-ignore format: one page
    expect(await screen.findByText('Not shown: Way 6, Way 7. Put others away to see them.')).toBeTruthy();
  }, 30_000);
});

/** @jest-environment jsdom */
import type { CostItem } from '@tally/core';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { ItemsPane } from './items-pane.tsx';

const item = (code: string, description: string, rate: string | null, more: Partial<CostItem> = {}): CostItem => ({ code, description, kind: 'material', unit: 'm', rate, ...more }); // biome-ignore format: one item
const ITEMS = [
  item('M-1', 'Oak board', '12.50', { group: 'Timber' }),
  item('M-2', 'Träger, steel', '80.00', { group: 'Steel', supplier: 'Yard' }),
  item('M-3', 'Rope', null),
];
const DONE = { body: { projectId: 'p', seq: 8, move: null } };

function open(wanted: string | null = null, answers = {}) {
  const first = sampleState();
  const state = { ...first, basis: { ...first.basis, items: ITEMS as typeof first.basis.items } };
  const drawn = renderInProject(
    <ItemsPane wanted={wanted} />,
    { 'POST /changes': () => DONE, 'GET /items': () => ({ body: [] }), ...answers },
    state,
  );
  return { ...drawn, state, sent: () => drawn.posted().filter((p) => p.what === 'POST /changes').at(-1)?.body as { cause: string; diff: Record<string, unknown[]> } | undefined }; // biome-ignore format: one record
}
const grid = () => screen.getByRole('grid', { name: 'Cost items' });
const codes = () => within(grid()).getAllByRole('row').slice(1).map((r) => within(r).getAllByRole('gridcell')[0]!.textContent); // biome-ignore format: one step
const cellOf = (code: string, column: number) =>
  within(within(grid()).getByRole('row', { name: new RegExp(code) })).getAllByRole('gridcell')[column]!;
const columnOf = (heading: RegExp) =>
  within(grid()).getAllByRole('columnheader').findIndex((h) => heading.test(h.textContent ?? '')); // biome-ignore format: one step
const paste = (text: string) => fireEvent.paste(grid(), { clipboardData: { getData: () => text } });

describe('the cost items', () => {
  beforeAll(() => giveSizes());
  it('are found by any of their words, however they are written; what is hidden is said', async () => {
    const user = userEvent.setup();
    open();
    expect(codes()).toEqual(['M-1', 'M-2', 'M-3']);
    const field = screen.getByRole('textbox', { name: 'Filter items' });
    await user.type(field, 'TRAGER');
    expect(codes()).toEqual(['M-2']);
    expect(screen.getByText('1 of 3 items')).toBeTruthy();
    await user.clear(field);
    await user.type(field, 'marble');
    expect(screen.getByText('Nothing fits')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Show all' }));
    expect(codes()).toEqual(['M-1', 'M-2', 'M-3']);
    expect(screen.queryByRole('button', { name: 'Show all' })).toBeNull();
  }, 20_000);
  it('are limited to a group; one that is asked for is never hidden by that', async () => {
    const user = userEvent.setup();
    const { unmount } = open();
    await user.click(screen.getByRole('combobox', { name: 'Group' }));
    await user.click(await screen.findByRole('option', { name: 'Timber' }));
    expect(codes()).toEqual(['M-1']);
    unmount();
    open('M-2');
    expect(codes()).toContain('M-2');
  }, 20_000);
  it('are sorted by a heading, the other way when it is pressed again', async () => {
    const user = userEvent.setup();
    open();
    const heading = () => within(grid()).getAllByRole('columnheader')[columnOf(/^Rate/)]!;
    await user.click(within(heading()).getByText(/^Rate/));
    expect(codes().slice(0, 2)).toEqual(['M-1', 'M-2']);
    expect(heading().getAttribute('aria-sort')).toBe('ascending');
    await user.click(within(heading()).getByText(/^Rate/));
    expect(codes().indexOf('M-2')).toBeLessThan(codes().indexOf('M-1'));
    expect(heading().getAttribute('aria-sort')).toBe('descending');
  }, 20_000);
  it('take a rate typed into a cell, and keep one that is refused', async () => {
    const user = userEvent.setup();
    let isRefused = true;
    const { sent } = open(null, { 'POST /changes': () => (isRefused ? refuse('Not now.') : DONE) });
    await user.dblClick(cellOf('M-1', columnOf(/^Rate/)));
    const field = await within(grid()).findByRole('textbox');
    await user.clear(field);
    await user.type(field, '13.75{Enter}');
    expect((await screen.findAllByText(/Not now\./)).length).toBeGreaterThan(0);
    await waitFor(() => expect(within(grid()).getByRole<HTMLInputElement>('textbox').value).toBe('13.75'));
    isRefused = false;
    await user.type(within(grid()).getByRole('textbox'), '{Enter}');
    await waitFor(() => expect(sent()!.diff.updated).toMatchObject([{ kind: 'item', id: 'M-1', to: { rate: '13.75' } }])); // biome-ignore format: one change
  }, 30_000);
  it('take a block whole or not at all', async () => {
    const { sent, posted } = open();
    await userEvent.click(cellOf('M-1', columnOf(/^Rate/)));
    paste('14\nmuch');
    expect((await screen.findByRole('alert')).textContent).toMatch(/much/);
    expect(posted().filter((p) => p.what === 'POST /changes')).toEqual([]);
    paste('14\n90');
    await waitFor(() => expect(sent()?.cause).toBe('Pasted into 2 items'));
    expect(sent()!.diff.updated).toMatchObject([
      { id: 'M-1', to: { rate: '14' } },
      { id: 'M-2', to: { rate: '90' } },
    ]);
  }, 30_000);
  it('that buy several times what is needed are asked about before they are put in', async () => {
    const user = userEvent.setup();
    const { posted, sent } = open();
    await user.dblClick(cellOf('M-1', columnOf(/^Waste/)));
    const field = await within(grid()).findByRole('textbox');
    await user.clear(field);
    await user.type(field, '400{Enter}');
    const question = await screen.findByRole('dialog');
    expect(question.textContent).toMatch(/400/);
    expect(posted().filter((p) => p.what === 'POST /changes')).toEqual([]);
    await user.click(within(question).getByRole('button', { name: /Keep/ }));
    await waitFor(() => expect(sent()!.diff.updated).toMatchObject([{ id: 'M-1', to: { wastePercent: 400 } }]));
  }, 30_000);
  it('show only the columns that one wants, and remember them', async () => {
    const user = userEvent.setup();
    const { unmount } = open();
    await user.click(screen.getByRole('button', { name: /^Columns/ }));
    const density = await screen.findByRole('checkbox', { name: /Density/ });
    const wasShown = (density as HTMLInputElement).checked;
    await user.click(density);
    await user.keyboard('{Escape}');
    await screen.findByRole('grid', { name: 'Cost items' });
    expect(columnOf(/^Density/) >= 0).toBe(!wasShown);
    unmount();
    open();
    expect(columnOf(/^Density/) >= 0).toBe(!wasShown);
  }, 20_000);
});

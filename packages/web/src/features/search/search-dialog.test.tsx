/** @jest-environment jsdom */
import { buildElementTable } from '@tally/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { sampleElement } from '../../testing/sample-table.ts';
import { sampleSource, serveTable } from '../../testing/serve-table.ts';
import { SearchDialog } from './search-dialog.tsx';

const PAGES = [
  ['plan', 'Plan'],
  ['book', 'Book'],
] as const;
/** Forty lockers of the model; the book of the sample has one that is called so too. */
const lockers = buildElementTable(
  Array.from({ length: 40 }, (_, i) => sampleElement(`l${i}`, `Locker ${i}`, 'IfcFurniture', 'Ground floor')),
  Int32Array.from({ length: 40 }, (_, i) => i + 1),
);

function open() {
  const closed: string[] = [];
  renderInProject(<SearchDialog onClose={() => closed.push('closed')} pages={PAGES} />, {}, sampleState({ sources: [sampleSource] })); // biome-ignore format: one call
  serveTable(lockers);
  return { closed, field: screen.getByRole('combobox') };
}

describe('finding anything of a project', () => {
  beforeAll(() => giveSizes());
  it('begins with the pages, and finds items by code and rules by name, however they are written', async () => {
    const user = userEvent.setup();
    const { field } = open();
    expect((await screen.findAllByRole('option')).slice(0, 2).map((o) => o.textContent)).toEqual(['Plan', 'Book']);
    await user.type(field, 'm lock');
    expect(await screen.findByRole('option', { name: /Locker, steel/ })).toBeTruthy();
    expect(screen.queryByRole('option', { name: 'Plan' })).toBeNull();
    await user.clear(field);
    await user.type(field, 'nothing at all');
    expect(await screen.findByText('Nothing of that name')).toBeTruthy();
  }, 20_000);
  it('shows what else is called so beside the many elements of a name, and says how many they are', async () => {
    const user = userEvent.setup();
    const { field } = open();
    await user.type(field, 'locker');
    expect(await screen.findByText('Element, the first 15 of 40', undefined, { timeout: 8000 })).toBeTruthy();
    const list = screen.getByRole('listbox');
    expect(within(list).getAllByRole('option', { name: /^Locker \d+/ })).toHaveLength(15);
    expect(within(list).getByRole('option', { name: /Locker, steel/ })).toBeTruthy();
    expect(within(list).getByRole('option', { name: 'Lockers' })).toBeTruthy();
  }, 20_000);
  it('goes there and closes with the key that chooses', async () => {
    const user = userEvent.setup();
    const { field, closed } = open();
    await user.type(field, 'Lockers{Enter}');
    await waitFor(() => expect(closed).toEqual(['closed']));
  }, 20_000);
});

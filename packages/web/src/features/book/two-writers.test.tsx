/** @jest-environment jsdom */
import type { NamedValue, ProjectStateDto } from '@tally/core';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { giveSizes } from '../../testing/give-sizes.ts';
import { renderInProject, sampleState } from '../../testing/in-project.tsx';
import { AssemblyPane } from './assembly-pane.tsx';
import { ScalesPane } from './scales-pane.tsx';
import { ValuesPane } from './values-pane.tsx';

const CRANE: NamedValue = { name: 'Crane day', unit: 'EUR/day', value: '820', note: 'With driver' };
const PUMP = {
  name: 'Pump',
  unit: 'EUR/m3',
  keys: [{ name: 'Depth', unit: 'm' }],
  rows: [
    { at: [{ to: 5 }], value: 12 },
    { at: [{ from: 5 }], value: 15 },
  ],
};
type Basis = ProjectStateDto['basis'];
const withBook = (book: Partial<Basis>): ProjectStateDto => {
  const state = sampleState();
  return sampleState({ basis: { ...state.basis, values: [CRANE], scales: [PUMP], ...book } });
};
const answers = (changes: unknown[] = []) => ({
  'POST /preview': () => ({ body: { before: 0, after: 0, move: 0, causes: {} } }),
  'POST /changes': (body: unknown) => {
    changes.push(body);
    return { body: { projectId: 'p', seq: 8, move: null } };
  },
});
const field = (name: string) => screen.getByRole('textbox', { name }) as HTMLInputElement;

beforeAll(() => {
  giveSizes();
  // The made-up browser scrolls nothing.
  Element.prototype.scrollIntoView = () => {};
});

describe('a named value that two people write', () => {
  const draw = (changes: unknown[] = []) => renderInProject(<ValuesPane name="Crane day" onChoose={() => {}} />, answers(changes), withBook({})); // biome-ignore format: one line
  const comes = (change: Partial<NamedValue>) => withBook({ values: [{ ...CRANE, ...change }] });

  it('keeps what one typed when the other changes something else, and takes theirs in', async () => {
    const user = userEvent.setup();
    const changes: { diff: { updated: { from: object; to: object }[] } }[] = [];
    const { come } = draw(changes);
    await user.clear(field('Comment'));
    await user.type(field('Comment'), 'Without driver');
    come(comes({ value: '900' }));
    expect(field('Comment').value).toBe('Without driver');
    expect(await screen.findByText('Somebody else changed value meanwhile; it is taken in here.')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Keep the value' }));
    await waitFor(() => expect(changes).toHaveLength(1));
    expect(changes[0]?.diff.updated[0]).toMatchObject({
      from: { ...CRANE, value: '900' },
      to: { ...CRANE, value: '900', note: 'Without driver' },
    });
  }, 40_000);

  it('asks where both changed the same, and keeps neither until one is chosen', async () => {
    const user = userEvent.setup();
    const { come } = draw();
    await user.clear(field('Comment'));
    await user.type(field('Comment'), 'Mine');
    come(comes({ note: 'Theirs' }));
    const told = await screen.findByText(/was changed by both/);
    expect(told.textContent).toBe('Comment was changed by both. Theirs: Theirs. Yours: Mine.');
    expect((screen.getByRole('button', { name: 'Keep the value' }) as HTMLButtonElement).disabled).toBe(true);
    expect(screen.getByRole('status', { name: 'State of the value' }).textContent).toBe('Choose one of both first.');
    await user.click(screen.getByRole('button', { name: 'Take theirs' }));
    expect(field('Comment').value).toBe('Theirs');
    expect(screen.queryByText(/was changed by both/)).toBeNull();
  }, 40_000);

  it('is as the other left it, without a word, while one has written nothing', async () => {
    const { come } = draw();
    come(comes({ note: 'Theirs' }));
    await waitFor(() => expect(field('Comment').value).toBe('Theirs'));
    expect(screen.queryByRole('alert')).toBeNull();
  }, 40_000);

  it('is no change of another when it is one’s own that comes back, while one writes on', async () => {
    const user = userEvent.setup();
    const { come } = draw();
    await user.clear(field('Comment'));
    await user.type(field('Comment'), 'First');
    await user.click(screen.getByRole('button', { name: 'Keep the value' }));
    await user.type(field('Comment'), ' and more');
    come(comes({ note: 'First' }));
    expect(field('Comment').value).toBe('First and more');
    expect(screen.queryByRole('alert')).toBeNull();
  }, 40_000);
});

describe('a scale that two people write', () => {
  it('keeps the rows that one types, also what cannot be read yet, when the other changes the comment', async () => {
    const user = userEvent.setup();
    const { come } = renderInProject(<ScalesPane name="Pump" onChoose={() => {}} />, answers(), withBook({}));
    const rows = screen.getByRole('group', { name: 'Rows of the scale' });
    const to = within(rows).getByRole('textbox', { name: 'Depth to, row 1' }) as HTMLInputElement;
    await user.clear(to);
    await user.type(to, 'six');
    come(withBook({ scales: [{ ...PUMP, note: 'Night rate' }] }));
    await waitFor(() => expect(field('Comment').value).toBe('Night rate'));
    expect((within(rows).getByRole('textbox', { name: 'Depth to, row 1' }) as HTMLInputElement).value).toBe('six');
  }, 40_000);

  it('asks where both changed the rows', async () => {
    const user = userEvent.setup();
    const { come } = renderInProject(<ScalesPane name="Pump" onChoose={() => {}} />, answers(), withBook({}));
    const value = () => screen.getAllByRole('textbox').filter((f) => (f as HTMLInputElement).value === '12')[0] as HTMLInputElement; // biome-ignore format: one line
    await user.clear(value());
    const rows = screen.getByRole('group', { name: 'Rows of the scale' });
    const empty = within(rows).getAllByRole('textbox')[2] as HTMLInputElement;
    await user.type(empty, '13');
    come(withBook({ scales: [{ ...PUMP, rows: [{ at: [{ to: 5 }], value: 14 }, PUMP.rows[1]!] }] }));
    expect((await screen.findByText(/was changed by both/)).textContent).toContain('Rows was changed by both. Theirs: 2 rows, the last 15.'); // biome-ignore format: one line
    await user.click(screen.getByRole('button', { name: 'Take theirs' }));
    expect((within(rows).getAllByRole('textbox')[2] as HTMLInputElement).value).toBe('14');
  }, 40_000);
});

describe('an assembly that two people write', () => {
  const SHELF = sampleState().basis.assemblies[0]!;
  const draw = () => renderInProject(<AssemblyPane code="A-SHELF" onChoose={() => {}} />, answers(), withBook({}));
  const comes = (change: Partial<typeof SHELF>) => withBook({ assemblies: [{ ...SHELF, ...change }] });

  it('keeps what one typed, and takes in what only the other changed', async () => {
    const user = userEvent.setup();
    const { come } = draw();
    await user.clear(field('Description'));
    await user.type(field('Description'), 'Shelf of oak');
    come(comes({ group: 'Fittings' }));
    await waitFor(() => expect(field('Group').value).toBe('Fittings'));
    expect(field('Description').value).toBe('Shelf of oak');
    expect(screen.getByText('Somebody else changed group meanwhile; it is taken in here.')).toBeTruthy();
  }, 40_000);

  it('has its lines again when what was done to it is discarded', async () => {
    const user = userEvent.setup();
    draw();
    const lines = () => screen.getAllByRole('button', { name: 'Take this line out' });
    const before = lines().length;
    await user.click(lines()[0]!);
    await user.click(screen.getByRole('button', { name: 'Discard' }));
    expect(lines()).toHaveLength(before);
    fireEvent.click(screen.getByRole('button', { name: 'Add a line' }));
    expect(lines()).toHaveLength(before + 1);
  }, 40_000);

  it('shows the waste that the other gave a line, in a field that is open', async () => {
    const user = userEvent.setup();
    const { come } = draw();
    const waste = () => field('Waste %').value;
    await user.click(screen.getByRole('button', { name: 'More about the line L-CAR' }));
    await user.type(field('Waste %'), '5,');
    // What is not read to its end yet stays as it is typed.
    expect(waste()).toBe('5,');
    await user.clear(field('Waste %'));
    come(comes({ lines: [{ ...SHELF.lines[0]!, wastePercent: 7 }] }));
    await waitFor(() => expect(waste()).toBe('7'));
    await user.clear(field('Waste %'));
    await user.type(field('Waste %'), 'much');
    expect(waste()).toBe('much');
    expect(screen.getByText('No figure.')).toBeTruthy();
  }, 40_000);
});

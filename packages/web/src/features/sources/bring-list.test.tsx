/** @jest-environment jsdom */
import type { ListFileDto } from '@tally/core';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { refuse, renderInProject, sampleState } from '../../testing/in-project.tsx';
import { BringList } from './bring-list.tsx';

const FILE: ListFileDto = {
  fileHash: 'abc',
  fileName: 'yard.csv',
  name: 'yard',
  sourceId: null,
  isKnown: false,
  profile: null,
  sheets: [
    {
      name: 'yard',
      count: 3,
      rows: [
        ['Pos', 'What', 'Qty'],
        ['Y-1', 'Mooring ring', 12],
        ['Y-2', 'Fender', 8],
      ],
    },
  ],
};
const PREVIEW = {
  lines: 1,
  known: 0,
  priced: 0,
  came: 0,
  went: 0,
  changed: 0,
  alike: 0,
  refusedCount: 1,
  headings: [4, 9],
  headingCount: 2,
  refused: [{ row: 3, text: 'Fender', reason: 'its unit "pcs" is not known' }],
  sample: [{ row: 2, code: 'Y-1', description: 'Mooring ring', quantity: 12, unit: 'each', group: null, storey: null, price: null }], // biome-ignore format: one line
};
const LIST = { id: 'l1', name: 'Yard fittings', kind: 'list', revisions: [] } as never;

/** The upload of a file, which is told of its progress: answered at once. */
class Upload {
  readonly upload = {};
  readonly status = 200;
  response: unknown = null;
  onload = () => {};
  static answer: unknown = null;
  open(): void {}
  setRequestHeader(): void {}
  send(): void {
    this.response = Upload.answer;
    queueMicrotask(() => this.onload());
  }
}
beforeAll(() => {
  globalThis.XMLHttpRequest = Upload as unknown as typeof XMLHttpRequest;
});

type Answer = Parameters<typeof renderInProject>[1];
async function bring(answers: Answer) {
  Upload.answer = FILE;
  const drawn = renderInProject(
    <BringList />,
    { 'POST /lists/abc/preview': () => ({ body: PREVIEW }), ...answers },
    sampleState({ sources: [LIST] }),
  );
  const csv = new File(['Pos;What;Qty'], 'yard.csv', { type: 'text/csv' });
  fireEvent.change(screen.getByLabelText('List file'), { target: { files: [csv] } });
  await screen.findByRole('dialog', { name: 'Bring a list' });
  return drawn;
}
async function hold(column: number, what: string) {
  fireEvent.mouseDown(screen.getByRole('combobox', { name: `Column ${column} holds` }));
  fireEvent.click(within(await screen.findByRole('listbox')).getByRole('option', { name: what }));
}
const take = () => screen.getByRole('button', { name: /^Take/ }) as HTMLButtonElement;

describe('bringing a list', () => {
  it('asks for the quantity, shows what would be taken with the rows that are not, and takes it', async () => {
    const user = userEvent.setup();
    const taken: unknown[] = [];
    const { posted } = await bring({
      'POST /lists/abc/take': (body) => {
        taken.push(body);
        return { body: { id: 'j', state: 'queued' } };
      },
    });
    expect(screen.getByText('Say which column holds the quantity.')).toBeTruthy();
    expect(take().disabled).toBe(true);
    await hold(1, 'Code');
    await hold(3, 'Quantity');
    expect(await screen.findByText('One line; the book knows the codes of 0, 0 have a price.')).toBeTruthy();
    expect(screen.getByText('Row 3, Fender: its unit "pcs" is not known')).toBeTruthy();
    expect(screen.getByTestId('list-headings').textContent).toBe(
      '2 rows have neither quantity, unit nor price and are taken for headings: row 4, 9',
    );
    await user.type(screen.getByRole('textbox', { name: 'Unit of all lines' }), 'each');
    // Columns chosen anew leave what was said of the unit as it was.
    await hold(2, 'Description');
    await waitFor(() => expect(take().textContent).toBe('Take 1 line'));
    await user.click(take());
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(taken).toMatchObject([
      {
        name: 'yard',
        sourceId: null,
        fileName: 'yard.csv',
        profile: { columns: { code: 0, description: 1, quantity: 2 }, key: 'code', unit: 'each', pricesCount: false },
      },
    ]);
    expect(posted().filter((p) => p.what === 'POST /lists/abc/preview').length).toBeGreaterThan(0);
  }, 40_000);

  it('needs a name of its own, unless it is the next version of another', async () => {
    const user = userEvent.setup();
    await bring({});
    await hold(3, 'Quantity');
    await waitFor(() => expect(take().disabled).toBe(false));
    await user.clear(screen.getByRole('textbox', { name: 'Name of the list' }));
    expect(await screen.findByText('A list needs a name.')).toBeTruthy();
    expect(take().disabled).toBe(true);
    fireEvent.mouseDown(screen.getByRole('combobox', { name: 'It is' }));
    fireEvent.click(await screen.findByRole('option', { name: 'the next version of Yard fittings' }));
    await waitFor(() => expect(take().disabled).toBe(false));
    expect(screen.queryByRole('textbox', { name: 'Name of the list' })).toBeNull();
  }, 40_000);

  it('stays open with all that was said where it is refused', async () => {
    const user = userEvent.setup();
    await bring({ 'POST /lists/abc/take': () => refuse('The file is not there any more.', 'file-gone', 404) });
    await hold(3, 'Quantity');
    await waitFor(() => expect(take().disabled).toBe(false));
    await user.click(take());
    expect((await screen.findByRole('alert')).textContent).toContain('The file is not there any more.');
    expect(screen.getByRole('combobox', { name: 'Column 3 holds' }).textContent).toBe('Quantity');
    await waitFor(() => expect(take().disabled).toBe(false));
  }, 40_000);
});

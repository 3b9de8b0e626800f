/** @jest-environment jsdom */
import { act, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { giveSizes } from '../testing/give-sizes.ts';
import { renderThemed } from '../testing/in-project.tsx';
import { type TableColumn, VirtualTable } from './virtual-table.tsx';

interface Row {
  readonly code: string;
  readonly rate: string;
  readonly waste: string;
}
const ROWS: readonly Row[] = [
  { code: 'A', rate: '10', waste: '0' },
  { code: 'B', rate: '20', waste: '0' },
  { code: 'C', rate: '30', waste: '0' },
];

beforeAll(giveSizes);

/** What was sent, and the answers that are still owed: an answer puts the text in, or says why not. */
class Server {
  readonly sent: string[] = [];
  private readonly owed: ((refusal: string | null) => void)[] = [];

  ask(text: string): Promise<string | null> {
    this.sent.push(text);
    return new Promise((answer) => this.owed.push(answer));
  }

  async answer(refusal: string | null = null): Promise<void> {
    const next = this.owed.shift();
    if (!next) throw new Error('Nothing was asked.');
    await act(async () => {
      next(refusal);
      await new Promise((done) => setTimeout(done, 40));
    });
  }
}

function Sample({ server }: { readonly server: Server }) {
  const [rows, setRows] = useState(ROWS);
  const [isShown, setShown] = useState(true);
  const typed = (key: 'rate' | 'waste', heading: string): TableColumn<Row> => ({
    key,
    heading,
    width: 100,
    isFigure: true,
    cell: (r) => (key === 'rate' ? `${r.rate}.00` : `${r.waste} %`),
    edit: (r) => r[key],
    // Saved is the whole row, as an entry is: what is made of a row of before would take back what was done to it since.
    save: async (r, text) => {
      const made = { ...r, [key]: text };
      const refusal = await server.ask(`${made.code} ${made.rate} ${made.waste}`);
      if (refusal === null) setRows((now) => now.map((row) => (row.code === made.code ? made : row)));
      return refusal;
    },
  });
  return (
    <>
      {isShown && (
        <VirtualTable
          label="Sample"
          rows={rows}
          rowId={(r) => r.code}
          columns={[
            { key: 'code', heading: 'Code', width: 80, cell: (r) => r.code },
            typed('rate', 'Rate'),
            typed('waste', 'Waste'),
          ]}
        />
      )}
      <button type="button" onClick={() => setShown(false)}>
        Leave
      </button>
      <button type="button" onClick={() => setRows((now) => now.filter((r) => r.code !== 'B'))}>
        Filter
      </button>
    </>
  );
}
const cell = (name: string) => screen.getByRole('gridcell', { name });

describe('what is typed into a table', () => {
  it('stands in its cell at once, while one goes on by keys, until its answer comes', async () => {
    const user = userEvent.setup();
    const server = new Server();
    renderThemed(<Sample server={server} />);
    await user.click(cell('10.00'));
    await user.keyboard('12{Enter}');
    expect(cell('12').getAttribute('data-unsaved')).toBe('waits');
    expect(screen.queryByRole('textbox')).toBeNull();
    await user.keyboard('{ArrowDown}22{Enter}');
    expect(cell('22').getAttribute('data-unsaved')).toBe('waits');
    expect(server.sent).toEqual(['A 12 0']);
    await server.answer();
    await waitFor(() => expect(cell('12.00').getAttribute('data-unsaved')).toBeNull());
    await waitFor(() => expect(server.sent).toEqual(['A 12 0', 'B 22 0']));
    await server.answer();
    expect(await screen.findByRole('gridcell', { name: '22.00' })).toBeTruthy();
  }, 20_000);

  it('into two cells of one row is saved one after the other, each with the other', async () => {
    const user = userEvent.setup();
    const server = new Server();
    renderThemed(<Sample server={server} />);
    await user.click(cell('20.00'));
    await user.keyboard('25{Enter}{ArrowRight}7{Enter}');
    await server.answer();
    await waitFor(() => expect(server.sent).toEqual(['B 25 0', 'B 25 7']));
    await server.answer();
    await waitFor(() => expect([cell('25.00'), cell('7 %')]).toHaveLength(2));
  }, 20_000);

  it('and is refused after one has gone on stays there with the reason; what one types then goes where one is', async () => {
    const user = userEvent.setup();
    const server = new Server();
    renderThemed(<Sample server={server} />);
    await user.click(cell('10.00'));
    await user.keyboard('99{Enter}{ArrowDown}');
    await server.answer('Ann changed A meanwhile.');
    expect((await screen.findByRole('alert')).textContent).toBe('Ann changed A meanwhile.');
    expect(cell('99').getAttribute('data-unsaved')).toBe('refused');
    await user.keyboard('21{Enter}');
    await waitFor(() => expect(server.sent).toEqual(['A 99 0', 'B 21 0']));
    await server.answer();
    await waitFor(() => expect(cell('21.00')).toBeTruthy());
    // Opened again it begins with what was typed, and can be sent once more, or given up.
    await user.keyboard('{ArrowUp}{Enter}');
    expect((screen.getByRole('textbox') as HTMLInputElement).value).toBe('99');
    expect(screen.getByRole('alert').textContent).toBe('Ann changed A meanwhile.');
    await user.keyboard('{Enter}');
    await waitFor(() => expect(server.sent).toHaveLength(3));
    await server.answer();
    expect(server.sent.at(-1)).toBe('A 99 0');
    await waitFor(() => expect(cell('99.00')).toBeTruthy());
    expect(screen.queryByRole('alert')).toBeNull();
  }, 20_000);

  it('is let go of by Escape where it was refused', async () => {
    const user = userEvent.setup();
    const server = new Server();
    renderThemed(<Sample server={server} />);
    await user.click(cell('10.00'));
    await user.keyboard('99{Enter}');
    await server.answer('Not now.');
    expect(((await screen.findByRole('textbox')) as HTMLInputElement).value).toBe('99');
    expect((screen.getByRole('textbox') as HTMLInputElement).value).toBe('99');
    await user.keyboard('{Escape}');
    expect(cell('10.00').getAttribute('data-unsaved')).toBeNull();
    expect(screen.queryByRole('alert')).toBeNull();
  }, 20_000);

  it('over what is on its way is no change of somebody else', async () => {
    const user = userEvent.setup();
    const server = new Server();
    renderThemed(<Sample server={server} />);
    await user.click(cell('30.00'));
    await user.keyboard('31{Enter}32');
    await server.answer();
    await user.keyboard('{Enter}');
    expect(screen.queryByRole('alert')).toBeNull();
    await waitFor(() => expect(server.sent).toEqual(['C 31 0', 'C 32 0']));
    await server.answer();
    await waitFor(() => expect(cell('32.00')).toBeTruthy());
  }, 20_000);

  it('is sent when the table goes before its turn has come', async () => {
    const user = userEvent.setup();
    const server = new Server();
    renderThemed(<Sample server={server} />);
    await user.click(cell('10.00'));
    await user.keyboard('12{Enter}{ArrowDown}22{Enter}');
    expect(server.sent).toEqual(['A 12 0']);
    await user.click(screen.getByRole('button', { name: 'Leave' }));
    expect(server.sent).toEqual(['A 12 0', 'B 22 0']);
  }, 20_000);

  it('is told to be unsaved where its row is gone before its turn', async () => {
    const user = userEvent.setup();
    const server = new Server();
    renderThemed(<Sample server={server} />);
    await user.click(cell('10.00'));
    await user.keyboard('12{Enter}{ArrowDown}22{Enter}');
    await user.click(screen.getByRole('button', { name: 'Filter' }));
    await server.answer();
    expect(await screen.findByText('"22" was not saved: its row is not shown any more.')).toBeTruthy();
    expect(server.sent).toEqual(['A 12 0']);
    // It was told; one goes on.
    await user.click(cell('12.00'));
    await user.keyboard('{ArrowDown}');
    expect(screen.queryByRole('alert')).toBeNull();
  }, 20_000);
});

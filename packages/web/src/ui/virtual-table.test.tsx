/** @jest-environment jsdom */
import { fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { giveSizes } from '../testing/give-sizes.ts';
import { renderThemed } from '../testing/in-project.tsx';
import { type TableColumn, type TableEdit, VirtualTable } from './virtual-table.tsx';

interface Row {
  readonly code: string;
  readonly rate: string;
  readonly note: string;
}
const ROWS: readonly Row[] = [
  { code: 'A', rate: '10', note: 'first' },
  { code: 'B', rate: '20', note: '' },
  { code: 'C', rate: '30', note: 'last' },
];

beforeAll(giveSizes);

/** A table whose rates and notes are typed in; `save` says why a text is refused. */
function Sample({
  save,
  onPaste = async () => null,
}: {
  save: (row: Row, text: string) => Promise<string | null> | string | null;
  onPaste?: (edits: readonly TableEdit<Row>[]) => Promise<string | null>;
}) {
  // biome-ignore format: one line
  const [rows, setRows] = useState(ROWS);
  const put = (code: string, change: Partial<Row>) =>
    setRows((now) => now.map((r) => (r.code === code ? { ...r, ...change } : r)));
  const typed = (key: 'rate' | 'note'): TableColumn<Row> => ({
    key,
    heading: key === 'rate' ? 'Rate' : 'Note',
    width: 100,
    isFigure: key === 'rate',
    cell: (r) => r[key],
    edit: (r) => r[key],
    save: async (r, text) => {
      const refusal = await save(r, text);
      if (refusal === null) put(r.code, { [key]: text });
      return refusal;
    },
  });
  return (
    <>
      <VirtualTable
        label="Sample"
        rows={rows}
        rowId={(r) => r.code}
        columns={[{ key: 'code', heading: 'Code', width: 80, cell: (r) => r.code }, typed('rate'), typed('note')]}
        onPaste={onPaste}
      />
      <button type="button" onClick={() => put('B', { rate: '25' })}>
        Somebody else
      </button>
    </>
  );
}
const cell = (name: string) => screen.getByRole('gridcell', { name });
const field = () => screen.getByRole('textbox') as HTMLInputElement;

describe('a table that is typed in', () => {
  it('is gone through by keys; the cell one stands on is told', async () => {
    const user = userEvent.setup();
    renderThemed(<Sample save={() => null} />);
    const grid = screen.getByRole('grid', { name: 'Sample' });
    await user.click(cell('10'));
    await user.keyboard('{ArrowDown}{ArrowRight}');
    const active = () => document.getElementById(grid.getAttribute('aria-activedescendant')!)!;
    expect([active().getAttribute('role'), active().textContent]).toEqual(['gridcell', '']);
    await user.keyboard('{ArrowLeft}');
    expect(active().textContent).toBe('20');
  });
  it('keeps what was refused in its cell, with the reason, until it is right', async () => {
    const user = userEvent.setup();
    renderThemed(<Sample save={(_, text) => (Number.isNaN(Number(text)) ? `"${text}" is no rate.` : null)} />);
    await user.click(cell('20'));
    await user.keyboard('much{Enter}');
    expect(await screen.findByText('"much" is no rate.')).toBeTruthy();
    expect(field().value).toBe('much');
    await user.clear(field());
    await user.type(field(), '21{Enter}');
    await waitFor(() => expect(screen.queryByRole('textbox')).toBeNull());
    expect(cell('21')).toBeTruthy();
  });
  it('is left as it was by Escape', async () => {
    const user = userEvent.setup();
    renderThemed(<Sample save={() => null} />);
    await user.click(cell('20'));
    await user.keyboard('99{Escape}');
    expect(cell('20')).toBeTruthy();
  });
  it('never writes over what somebody else typed meanwhile without a word', async () => {
    const user = userEvent.setup();
    const saved: string[] = [];
    renderThemed(
      <Sample
        save={(_, text) => {
          saved.push(text);
          return null;
        }}
      />,
    );
    await user.dblClick(cell('20'));
    await user.clear(field());
    await user.type(field(), '22');
    fireEvent.click(screen.getByRole('button', { name: 'Somebody else' }));
    await user.type(field(), '{Enter}');
    expect(screen.getByText('Somebody else made it "25" meanwhile. Enter keeps yours, Escape theirs.')).toBeTruthy();
    expect([field().value, saved]).toEqual(['22', []]);
    await user.type(field(), '{Enter}');
    await waitFor(() => expect(saved).toEqual(['22']));
    expect(cell('22')).toBeTruthy();
  });
  it('copies the range that is drawn, and the whole table with its headings where none is', async () => {
    const user = userEvent.setup();
    const copied: string[] = [];
    Object.defineProperty(navigator, 'clipboard', { configurable: true, value: { writeText: async (text: string) => void copied.push(text) } }); // biome-ignore format: one stand-in
    renderThemed(<Sample save={() => null} />);
    await user.click(cell('A'));
    await user.keyboard('{Control>}c{/Control}');
    await user.keyboard('{Shift>}{ArrowDown}{ArrowRight}{/Shift}{Control>}c{/Control}');
    expect(copied).toEqual(['Code\tRate\tNote\nA\t10\tfirst\nB\t20\t\nC\t30\tlast', 'A\t10\nB\t20']);
    expect(cell('20').getAttribute('aria-selected')).toBe('true');
    expect(cell('30').getAttribute('aria-selected')).toBeNull();
  });
  it('is pasted into as a block, filled down over a range, and told why nothing went in', async () => {
    const user = userEvent.setup();
    const put: string[][] = [];
    const onPaste = async (edits: readonly TableEdit<Row>[]) => {
      put.push(edits.map((e) => `${e.row.code}.${e.column}=${e.text}`));
      return edits.some((e) => e.text === 'much') ? 'Nothing was put in.' : null;
    };
    renderThemed(<Sample save={() => null} onPaste={onPaste} />);
    const grid = screen.getByRole('grid', { name: 'Sample' });
    const paste = (text: string) => fireEvent.paste(grid, { clipboardData: { getData: () => text } });
    await user.click(cell('20'));
    paste('1\tx\n2\ty\n3\tz\n');
    await user.click(cell('10'));
    await user.keyboard('{Shift>}{ArrowDown}{ArrowDown}{/Shift}{Control>}d{/Control}');
    // The first column is not typed in: what meets it is passed over.
    await user.click(cell('A'));
    paste('P\tmuch\n');
    expect(await screen.findByText('Nothing was put in.')).toBeTruthy();
    expect(put).toEqual([['B.rate=1', 'B.note=x', 'C.rate=2', 'C.note=y'], ['B.rate=10', 'C.rate=10'], ['A.rate=much']]); // biome-ignore format: one list
  });
  it('has columns as wide as one draws them, until they get their own width again', () => {
    localStorage.clear();
    renderThemed(<Sample save={() => null} />);
    const heading = () => screen.getByRole('columnheader', { name: 'Rate' });
    const handle = heading().querySelector('[data-width-handle]')!;
    (handle as HTMLElement).setPointerCapture = () => undefined;
    const drag = (kind: string, clientX: number) => fireEvent(handle, new MouseEvent(kind, { bubbles: true, clientX }));
    const widths = () => getComputedStyle(screen.getAllByRole('row')[0]!).gridTemplateColumns;
    expect(widths()).toBe('80px 100px 100px');
    // Every element is 600 px wide in this browser; drawn 450 px to the left it is 150.
    drag('pointerdown', 500);
    drag('pointermove', 50);
    drag('pointerup', 50);
    drag('pointermove', 300);
    expect(widths()).toBe('80px 150px 100px');
    fireEvent.doubleClick(handle);
    expect(widths()).toBe('80px 100px 100px');
  });
});

describe('a long table', () => {
  it('draws only the rows again that the cursor leaves and comes to', async () => {
    const user = userEvent.setup();
    const drawn: string[] = [];
    const columns: TableColumn<Row>[] = [
      {
        key: 'code',
        heading: 'Code',
        width: 100,
        cell: (r) => {
          drawn.push(r.code);
          return r.code;
        },
      },
    ];
    renderThemed(<VirtualTable label="Long" rows={ROWS} columns={columns} rowId={(r) => r.code} />);
    screen.getByRole('grid').focus();
    drawn.length = 0;
    await user.keyboard('{ArrowDown}');
    expect([...new Set(drawn)].sort()).toEqual(['A', 'B']);
  });
});

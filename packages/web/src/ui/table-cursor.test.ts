import fc from 'fast-check';
import {
  fillDown,
  isInRange,
  isRange,
  moveCursor,
  NOWHERE,
  pasteBlock,
  putCursor,
  rangeOf,
  rangeToText,
  type TableCursor,
} from './table-cursor.ts';

const size = { rows: 20, columns: 4 };
const at = (row: number, column: number): TableCursor => putCursor(NOWHERE, row, column);
const press = (cursor: TableCursor, key: string, mode: 'shift' | 'command' | '' = '') =>
  moveCursor(cursor, { key, shift: mode === 'shift', command: mode === 'command' }, size)!;

describe('the cursor of a table', () => {
  it.each<[string, 'shift' | 'command' | '', number, number]>([
    ['ArrowDown', '', 6, 1],
    ['ArrowUp', '', 4, 1],
    ['ArrowRight', '', 5, 2],
    ['ArrowLeft', '', 5, 0],
    ['PageDown', '', 19, 1],
    ['PageUp', '', 0, 1],
    ['Home', '', 0, 1],
    ['End', '', 19, 1],
    ['ArrowRight', 'command', 5, 3],
    ['ArrowUp', 'command', 0, 1],
  ])('goes with %s %s', (key, mode, row, column) =>
    expect(press(at(5, 1), key, mode)).toMatchObject({ row, column, fromRow: row, fromColumn: column }),
  );
  it('draws a range with Shift, and drops it at the next step without', () => {
    const drawn = press(press(at(5, 1), 'ArrowDown', 'shift'), 'ArrowRight', 'shift');
    expect([rangeOf(drawn), isRange(drawn)]).toEqual([{ top: 5, bottom: 6, left: 1, right: 2 }, true]);
    expect(isInRange(rangeOf(drawn), 6, 2)).toBe(true);
    expect(isInRange(rangeOf(drawn), 7, 2)).toBe(false);
    const back = press(drawn, 'ArrowUp');
    expect([back.row, isRange(back)]).toEqual([5, false]);
    expect(rangeOf(putCursor(at(5, 3), 2, 0, true))).toEqual({ top: 2, bottom: 5, left: 0, right: 3 });
  });
  it('takes all with Ctrl A, begins anywhere, and stays off what is no step or no table', () => {
    expect(rangeOf(press(at(5, 1), 'a', 'command'))).toEqual({ top: 0, bottom: 19, left: 0, right: 3 });
    expect(press(NOWHERE, 'ArrowDown')).toMatchObject({ row: 0, column: 0 });
    expect(moveCursor(at(0, 0), { key: 'x', shift: false, command: false }, size)).toBeNull();
    expect(moveCursor(at(0, 0), { key: 'toString', shift: false, command: false }, size)).toBeNull();
    expect(moveCursor(NOWHERE, { key: 'End', shift: false, command: false }, { rows: 0, columns: 4 })).toBeNull();
  });
  it('never leaves the table, whatever is pressed', () => {
    const keys = fc.constantFrom('ArrowDown', 'ArrowUp', 'ArrowLeft', 'ArrowRight', 'PageDown', 'PageUp', 'Home', 'End', 'a'); // biome-ignore format: one list
    fc.assert(
      fc.property(fc.array(fc.tuple(keys, fc.boolean(), fc.boolean()), { maxLength: 40 }), (steps) => {
        let cursor = NOWHERE;
        for (const [key, shift, command] of steps) cursor = moveCursor(cursor, { key, shift, command }, size) ?? cursor;
        if (cursor.row < 0) return;
        const { top, bottom, left, right } = rangeOf(cursor);
        expect([top >= 0, bottom < 20, left >= 0, right < 4]).toEqual([true, true, true, true]);
      }),
      { seed: 3, numRuns: 200 },
    );
  });
});

describe('the clipboard of a table', () => {
  it('takes the range as a spreadsheet does', () =>
    expect(rangeToText({ row: 2, column: 1, fromRow: 1, fromColumn: 0 }, (r, c) => (r === 1 && c === 0 ? 'a\tb\nc' : `${r}.${c}`))).toBe('a b c\t1.1\n2.0\t2.1')); // biome-ignore format: one line
  it('puts a block in from the cell on, and leaves away what reaches beyond', () => {
    expect(pasteBlock('1\t2\r\n3\t4\r\n', at(19, 2), size)).toEqual([
      { row: 19, column: 2, text: '1' },
      { row: 19, column: 3, text: '2' },
    ]);
    expect(pasteBlock('1\t2\n3', at(0, 0), size)).toEqual([
      { row: 0, column: 0, text: '1' },
      { row: 0, column: 1, text: '2' },
      { row: 1, column: 0, text: '3' },
    ]);
    expect(pasteBlock('', at(0, 0), size)).toEqual([{ row: 0, column: 0, text: '' }]);
  });
  it('fills a range with one figure, and with a block that fits into it', () => {
    const range = (row: number, column: number): TableCursor => ({ row, column, fromRow: 0, fromColumn: 0 });
    expect(pasteBlock('9', range(2, 0), size).map((e) => [e.row, e.text])).toEqual([[0, '9'], [1, '9'], [2, '9']]); // biome-ignore format: one list
    expect(pasteBlock('a\nb', range(3, 0), size).map((e) => e.text)).toEqual(['a', 'b', 'a', 'b']);
    // Three rows are no whole number of two: the block goes in once.
    expect(pasteBlock('a\nb', range(2, 0), size).map((e) => e.text)).toEqual(['a', 'b']);
  });
  it('fills down: a cell from the one above, a range from its first row; what cannot be read is left alone', () => {
    const read = (row: number, column: number) => (column === 2 ? null : `${row}.${column}`);
    expect(fillDown(at(4, 1), read)).toEqual([{ row: 4, column: 1, text: '3.1' }]);
    expect(fillDown(at(0, 1), read)).toEqual([]);
    expect(fillDown({ row: 5, column: 2, fromRow: 3, fromColumn: 1 }, read)).toEqual([
      { row: 4, column: 1, text: '3.1' },
      { row: 5, column: 1, text: '3.1' },
    ]);
  });
});

import { findTyped, stepInTree, type TreeRow, typeLetter } from './tree-keys.ts';

/** Foundations (closed), Ground floor (open): Door (closed), Wall (open): W1, W2; Roof (open, nothing in it). */
const ROWS: readonly TreeRow[] = [
  { level: 0, label: 'Foundations', isOpen: false },
  { level: 0, label: 'Ground floor', isOpen: true },
  { level: 1, label: 'Door', isOpen: false },
  { level: 1, label: 'Wall', isOpen: true },
  { level: 2, label: 'W1', isOpen: null },
  { level: 2, label: 'W2', isOpen: null },
  { level: 0, label: 'Roof', isOpen: true },
];

describe('keys in a tree', () => {
  it.each<[string, number, string, number, string | null]>([
    ['down goes to the next row that is drawn', 1, 'ArrowDown', 2, null],
    ['up to the one before', 6, 'ArrowUp', 5, null],
    ['down stays at the last', 6, 'ArrowDown', 6, null],
    ['right opens what is closed', 0, 'ArrowRight', 0, 'open'],
    ['right goes into what is open', 3, 'ArrowRight', 4, null],
    ['right stays where nothing is below', 6, 'ArrowRight', 6, null],
    ['right stays on a leaf', 4, 'ArrowRight', 4, null],
    ['left closes what is open', 3, 'ArrowLeft', 3, 'close'],
    ['left goes out of a leaf', 5, 'ArrowLeft', 3, null],
    ['left goes out of what is closed', 2, 'ArrowLeft', 1, null],
    ['left stays at the outermost', 0, 'ArrowLeft', 0, null],
    ['Home and End go to the ends', 3, 'Home', 0, null],
    ['Home and End go to the ends', 3, 'End', 6, null],
    ['Space chooses', 4, ' ', 4, 'choose'],
    ['Enter shows', 4, 'Enter', 4, 'show'],
    ['the first key begins at the first row', -1, 'ArrowDown', 0, null],
    ['the first key begins at the first row', -1, 'ArrowRight', 0, null],
  ])('%s', (_, at, key, to, act) => expect(stepInTree(ROWS, at, key)).toEqual({ at: to, act }));
  it('that mean nothing here are left to others', () => {
    expect(stepInTree(ROWS, 1, 'Tab')).toBeNull();
    expect(stepInTree(ROWS, -1, 'Enter')).toBeNull();
    expect(stepInTree([], -1, 'ArrowDown')).toBeNull();
  });
});

describe('typing in a tree', () => {
  it('goes to the next row that begins so, around the end, in any case', () => {
    expect(findTyped(ROWS, 1, 'w')).toBe(3);
    expect(findTyped(ROWS, 3, 'w')).toBe(4);
    expect(findTyped(ROWS, 6, 'F')).toBe(0);
    expect(findTyped(ROWS, -1, 'g')).toBe(1);
    expect(findTyped(ROWS, 2, 'x')).toBe(-1);
  });
  it('stays on its row while the word grows', () => {
    const first = typeLetter(null, 'w', 1000);
    expect(findTyped(ROWS, 3, typeLetter(first, '2', 1500).text)).toBe(5);
    expect(findTyped(ROWS, 3, 'wa')).toBe(3);
    expect(typeLetter(first, 'g', 3000).text).toBe('g');
  });
});

/** A column of texts: each distinct text once, rows point into the pool. -1 is "none". */
export interface TextColumn {
  readonly pool: readonly string[];
  readonly index: Int32Array;
}

/** A column of lists of texts: row r has pool[index[offset[r]]] .. pool[index[offset[r + 1] - 1]]. */
export interface TextListColumn {
  readonly pool: readonly string[];
  readonly offset: Uint32Array;
  readonly index: Int32Array;
}

/** Collects distinct texts and hands out their numbers. */
export class TextPool {
  readonly texts: string[] = [];
  private readonly numbers = new Map<string, number>();

  /** Number of the text; a new one is appended. null gives -1. */
  add(text: string | null): number {
    if (text === null) return -1;
    const known = this.numbers.get(text);
    if (known !== undefined) return known;
    this.numbers.set(text, this.texts.length);
    this.texts.push(text);
    return this.texts.length - 1;
  }
}

export function buildTextColumn(values: readonly (string | null)[]): TextColumn {
  const pool = new TextPool();
  const index = Int32Array.from(values, (v) => pool.add(v));
  return { pool: pool.texts, index };
}

export function buildTextListColumn(values: readonly (readonly string[])[]): TextListColumn {
  const pool = new TextPool();
  const offset = new Uint32Array(values.length + 1);
  const index: number[] = [];
  values.forEach((list, row) => {
    for (const text of list) index.push(pool.add(text));
    offset[row + 1] = index.length;
  });
  return { pool: pool.texts, offset, index: Int32Array.from(index) };
}

/** Text of a row, or null. */
export function readText(column: TextColumn, row: number): string | null {
  const i = column.index[row]!;
  return i < 0 ? null : column.pool[i]!;
}

/** Texts of a row. */
export function readTextList(column: TextListColumn, row: number): string[] {
  const out: string[] = [];
  for (let i = column.offset[row]!; i < column.offset[row + 1]!; i++) out.push(column.pool[column.index[i]!]!);
  return out;
}

/** True if two columns or lists of rows hold the same, in the same order. */
export const isSameRows = (a: Int32Array, b: Int32Array): boolean =>
  a === b || (a.length === b.length && a.every((value, i) => value === b[i]));

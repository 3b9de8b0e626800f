/** A row of a tree as it is drawn: those below a closed one are not among them. */
export interface TreeRow {
  readonly level: number;
  readonly label: string;
  /** Null for one that has nothing below it. */
  readonly isOpen: boolean | null;
}

/** What a key does in a tree: where one stands then, and what of the row there is asked for. */
export interface TreeStep {
  readonly at: number;
  readonly act: 'open' | 'close' | 'choose' | 'show' | null;
}

/** Letters that were typed within this time are one word, ms. */
const ONE_WORD_MS = 800;

/** What has been typed to find a row, and when. */
export interface TypedWord {
  readonly text: string;
  readonly atMs: number;
}

/** The word after another letter. @example "wa" and soon after "l": "wal"; a while later "l" alone */
export const typeLetter = (before: TypedWord | null, letter: string, atMs: number): TypedWord => ({
  text: before && atMs - before.atMs <= ONE_WORD_MS ? before.text + letter : letter,
  atMs,
});

/**
 * What a key does: up and down go along the rows, right opens or goes in, left closes or goes out, Home and End go to the ends, Space
 * chooses, Enter chooses and shows. Null for keys that mean nothing here.
 */
export function stepInTree(rows: readonly TreeRow[], at: number, key: string): TreeStep | null {
  if (rows.length === 0) return null;
  const row = rows[at];
  const go = (to: number): TreeStep => ({ at: Math.max(0, Math.min(rows.length - 1, to)), act: null });
  switch (key) {
    case 'ArrowDown':
      return go(at + 1);
    case 'ArrowUp':
      return go(at < 0 ? 0 : at - 1);
    case 'Home':
      return go(0);
    case 'End':
      return go(rows.length - 1);
    case 'ArrowRight':
      if (!row) return go(0);
      if (row.isOpen === false) return { at, act: 'open' };
      return row.isOpen && (rows[at + 1]?.level ?? 0) > row.level ? go(at + 1) : go(at);
    case 'ArrowLeft': {
      if (!row) return go(0);
      if (row.isOpen) return { at, act: 'close' };
      for (let above = at - 1; above >= 0; above--) if (rows[above]!.level < row.level) return go(above);
      return go(at);
    }
    case ' ':
      return row ? { at, act: 'choose' } : null;
    case 'Enter':
      return row ? { at, act: 'show' } : null;
    default:
      return null;
  }
}

/** The next row whose label begins with what was typed, in any case; one's own counts while more letters come. -1 if there is none. */
export function findTyped(rows: readonly TreeRow[], at: number, typed: string): number {
  const wanted = typed.toLowerCase();
  const from = typed.length > 1 ? at : at + 1;
  for (let n = 0; n < rows.length; n++) {
    const index = (Math.max(0, from) + n) % rows.length;
    if (rows[index]!.label.toLowerCase().startsWith(wanted)) return index;
  }
  return -1;
}

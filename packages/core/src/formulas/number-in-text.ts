const FIGURE = /\d+(?:[.,]\d+)?/y;

/** Blanks do not matter, but between two figures, where they keep them apart. */
const squeeze = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/\s+/g, ' ')
    .replace(/(?<![\d#.,]) | (?![\d#])/g, '');

/** True for a pattern that says where one figure stands. @example hasOneFigure('EI#') // true */
export const hasOneFigure = (pattern: string): boolean => pattern.split('#').length === 2;

/**
 * The figure that stands in a text at the `#` of a pattern, which is looked for anywhere in it, the first place first; `*` stands for
 * any text between. Case, accents and blanks do not matter. Null if it is not there.
 * @example readNumberIn('Partition EI60 2x12.5 GKF', 'x#') // 12.5
 */
export function readNumberIn(text: string, pattern: string): number | null {
  const squeezed = squeeze(text);
  let at = 0;
  let figure: number | null = null;
  for (const piece of squeeze(pattern).split('*')) {
    const [before, after] = piece.split('#');
    if (after === undefined) {
      const found = squeezed.indexOf(piece, at);
      if (found < 0) return null;
      at = found + piece.length;
      continue;
    }
    const found = findFigure(squeezed, before!, after, at);
    if (!found) return null;
    figure = found.figure;
    at = found.end;
  }
  return figure;
}

/** The first whole figure from a place on with one text before and one behind it. */
function findFigure(text: string, before: string, after: string, from: number): { figure: number; end: number } | null {
  for (let at = text.indexOf(before, from); at >= 0; at = at < text.length ? text.indexOf(before, at + 1) : -1) {
    const start = at + before.length;
    // Not the rest of a figure that begins earlier.
    if (before === '' && /[\d.,]/.test(text[start - 1] ?? '') && /\d/.test(text[start] ?? '')) continue;
    FIGURE.lastIndex = start;
    const [digits] = FIGURE.exec(text) ?? [];
    if (digits !== undefined && text.startsWith(after, start + digits.length))
      return { figure: Number(digits.replace(',', '.')), end: start + digits.length + after.length };
  }
  return null;
}

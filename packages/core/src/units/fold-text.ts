/**
 * Folds a text for comparison: case, accents, spaces, underscores and hyphens do not matter.
 * @example foldText(' Außenwand_Träger ') // 'aussenwandtrager'
 */
export function foldText(text: string): string {
  let folded = known.get(text);
  if (folded === undefined) {
    // The same few names are asked about again and again; the rest must not pile up.
    if (known.size >= MOST_KNOWN) known.clear();
    folded = fold(text);
    known.set(text, folded);
  }
  return folded;
}

const MOST_KNOWN = 2000;
const known = new Map<string, string>();

function fold(text: string): string {
  return text
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/ø/g, 'o')
    .replace(/ł/g, 'l')
    .replace(/[\s_\u00a0-]+/g, '');
}

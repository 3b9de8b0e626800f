/**
 * Folds a text for comparison: case, accents, spaces, underscores and hyphens do not matter.
 * @example foldText(' Außenwand_Träger ') // 'aussenwandtrager'
 */
export function foldText(text: string): string {
  return text
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/ø/g, 'o')
    .replace(/ł/g, 'l')
    .replace(/[\s_\u00a0-]+/g, '');
}

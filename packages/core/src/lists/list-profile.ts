import type { DecimalSign } from '../book/price-text.ts';
import { cellHeading, cellText, HEAD_ROWS, type Sheet, type SheetCell } from '../book/sheet.ts';

/** What a column of a list holds. */
export const LIST_COLUMNS = ['code', 'description', 'quantity', 'unit', 'group', 'storey', 'price'] as const;
export type ListColumn = (typeof LIST_COLUMNS)[number];

/** What tells the lines of a list apart from one version to the next: a column, or the place in the list. */
export const LIST_KEYS = ['code', 'description', 'row'] as const;
export type ListKey = (typeof LIST_KEYS)[number];

/** Where the lines stand in a list: chosen once and found again by the headings. Rows and columns are counted from 0. */
export interface ListProfile {
  readonly sheet: string;
  readonly headerRow: number;
  readonly columns: Readonly<{ quantity: number } & Partial<Record<ListColumn, number>>>;
  /** Headings of the chosen columns, to know the list again. */
  readonly headings: Readonly<Partial<Record<ListColumn, string>>>;
  readonly key: ListKey;
  /** Unit of lines that say none. */
  readonly unit?: string;
  /** Prices of the list count, before those of the book. */
  readonly pricesCount: boolean;
  /** Sign before the decimals, if it was said; else it is judged over the column. */
  readonly decimal?: DecimalSign;
}

/** Words that head the columns, folded, without signs. */
const HEADINGS: Readonly<Record<ListColumn, RegExp>> = {
  quantity: /^(quantity|qty|amount|number|count|menge|anzahl|antal|quantite)$/,
  code: /^(code|item|itemno|itemcode|pos|position|no|nr|ref|reference|article|artikel|artikelnr|kode)$/,
  description: /^(description|text|name|designation|title|bezeichnung|beschreibung|beskrivelse|itemdescription)$/,
  unit: /^(unit|uom|einheit|enhed|enhet|me|per)$/,
  group: /^(group|section|trade|category|chapter|gruppe|kategorie|titel)$/,
  storey: /^(storey|story|level|floor|geschoss|etage|plan)$/,
  price: /^(price|unitprice|rate|unitrate|preis|einheitspreis|pris)$/,
};

/** A profile for chosen columns. A code tells lines apart where there is one, else the description. */
export function makeListProfile(
  sheet: string,
  headerRow: number,
  columns: ListProfile['columns'],
  header: readonly SheetCell[],
  more: Partial<Pick<ListProfile, 'key' | 'unit' | 'pricesCount' | 'decimal'>> = {},
): ListProfile {
  const headings: Partial<Record<ListColumn, string>> = {};
  for (const column of LIST_COLUMNS) {
    const at = columns[column];
    if (at !== undefined) headings[column] = cellText(header[at]);
  }
  const isThere = (key: ListKey | undefined) => key === 'row' || (key !== undefined && columns[key] !== undefined);
  const key = isThere(more.key)
    ? more.key!
    : columns.code !== undefined
      ? 'code'
      : columns.description !== undefined
        ? 'description'
        : 'row';
  return { sheet, headerRow, columns, headings, pricesCount: false, ...more, key };
}

/** The columns of a list as its headings name them; null if no row names a quantity beside a code or a description. */
export function guessListProfile(sheets: readonly Sheet[]): ListProfile | null {
  for (const { name, rows } of sheets)
    for (let r = 0; r < Math.min(rows.length, HEAD_ROWS); r++) {
      const columns: Partial<Record<ListColumn, number>> = {};
      for (const column of LIST_COLUMNS) {
        const at = rows[r]!.findIndex(
          (c, i) => HEADINGS[column].test(cellHeading(c)) && !Object.values(columns).includes(i),
        );
        if (at >= 0) columns[column] = at;
      }
      const { quantity, code, description } = columns;
      if (quantity !== undefined && (code !== undefined || description !== undefined))
        return makeListProfile(name, r, { ...columns, quantity }, rows[r]!);
    }
  return null;
}

/** A profile of before for another version of the list, moved to where its headings stand now; null if they are not there. */
export function findListProfile(profile: ListProfile, sheets: readonly Sheet[]): ListProfile | null {
  const wanted = Object.entries(profile.headings) as [ListColumn, string][];
  for (const { name, rows } of sheets)
    for (let r = 0; r < Math.min(rows.length, HEAD_ROWS); r++) {
      const columns: Partial<Record<ListColumn, number>> = {};
      for (const [column, words] of wanted) {
        const at = rows[r]!.findIndex((c) => cellHeading(c) === cellHeading(words) && cellHeading(c) !== '');
        if (at >= 0) columns[column] = at;
      }
      const { quantity } = columns;
      if (quantity === undefined || Object.keys(columns).length < wanted.length) continue;
      const { key, unit, pricesCount, decimal } = profile;
      return makeListProfile(name, r, { ...columns, quantity }, rows[r]!, { key, unit, pricesCount, decimal });
    }
  return null;
}

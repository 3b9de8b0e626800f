import { failure, type Result, success } from '../result/result.ts';
import { foldText } from '../units/fold-text.ts';
import type { ClassCodes, Classification, CostClass } from './cost-class.ts';
import type { SheetCell } from './sheet.ts';
import { UNIFORMAT } from './uniformat.ts';

/** A classification by its name: one of the book, else the one that comes with the application; null if there is none. */
export function findClassification(name: string, own: readonly Classification[]): Classification | null {
  const wanted = foldText(name);
  return [...own, UNIFORMAT].find((c) => foldText(c.name) === wanted) ?? null;
}

/** The classification in use: the chosen one, else the one that comes with the application. */
export function chooseClassification(name: string | undefined, own: readonly Classification[]): Classification {
  return (name === undefined ? null : findClassification(name, own)) ?? UNIFORMAT;
}

/** The code that an item or assembly has in a classification; null if none. */
export function readClassCode(codes: ClassCodes | undefined, { name }: Classification): string | null {
  const wanted = foldText(name);
  return Object.entries(codes ?? {}).find(([n]) => foldText(n) === wanted)?.[1] ?? null;
}

/** Codes with the one of a classification set, or taken away by null; undefined if none are left. */
export function setClassCode(
  codes: ClassCodes | undefined,
  { name }: Classification,
  code: string | null,
): ClassCodes | undefined {
  const { [name]: _, ...others } = codes ?? {};
  const all = code === null ? others : { ...others, [name]: code };
  return Object.keys(all).length > 0 ? all : undefined;
}

const known = new WeakMap<Classification, ReadonlyMap<string, CostClass>>();

/** A class by its code, in any case; null if the classification has none. */
export function findClass(classification: Classification, code: string): CostClass | null {
  let byCode = known.get(classification);
  if (!byCode) {
    byCode = new Map(classification.classes.map((c) => [foldText(c.code), c]));
    known.set(classification, byCode);
  }
  return byCode.get(foldText(code)) ?? null;
}

/** Signs that part the levels of a code and belong to none: `21.10` is below `21`. */
const PARTING = /[.\-/ ]$/;

/**
 * A class with those above it, the highest first. A class is above another if the other's code begins with its own.
 * @example B2010 of UNIFORMAT II: B Shell, B20 Exterior enclosure, B2010 Exterior walls
 */
export function listClassPath(classification: Classification, code: string): CostClass[] {
  const own = findClass(classification, code) ?? { code, title: '' };
  const above: CostClass[] = [];
  for (let n = 1; n < code.length; n++) {
    const start = code.slice(0, n);
    const found = PARTING.test(start) ? null : findClass(classification, start);
    if (found) above.push(found);
  }
  return [...above, own];
}

/** A class as it is shown. @example B2010 Exterior walls */
export const showClass = ({ code, title }: CostClass): string => `${code} ${title}`.trim();

const MOST_CLASSES = 20_000;
const HEADS = { code: /^(code|class|no|nr|number|id)$/, title: /^(title|name|description|text|designation)$/ };
const cellText = (cell: SheetCell | undefined): string => String(cell ?? '').trim();

/** A row of a list that was not taken, counted from 1. */
export interface SkippedClass {
  readonly row: number;
  readonly reason: string;
}

/**
 * Reads a classification from rows of a sheet: columns headed code and title, else the first two. Rows without a code and codes that
 * stand there twice are told. Errors: `classification-empty`, `classification-too-long`.
 */
export function readClasses(
  rows: readonly (readonly SheetCell[])[],
): Result<{ readonly classes: readonly CostClass[]; readonly skipped: readonly SkippedClass[] }> {
  const heads = (rows[0] ?? []).map((c) => foldText(cellText(c)));
  const at = { code: heads.findIndex((h) => HEADS.code.test(h)), title: heads.findIndex((h) => HEADS.title.test(h)) };
  const hasHeads = at.code >= 0;
  const [code, title] = hasHeads ? [at.code, at.title] : [0, 1];
  const classes: CostClass[] = [];
  const skipped: SkippedClass[] = [];
  const seen = new Map<string, number>();
  for (const [i, cells] of rows.entries()) {
    const row = i + 1;
    if ((hasHeads && i === 0) || cells.every((c) => cellText(c) === '')) continue;
    const own = { code: cellText(cells[code]).slice(0, 60), title: cellText(cells[title]).slice(0, 300) };
    const before = seen.get(foldText(own.code));
    if (own.code === '') skipped.push({ row, reason: 'It has no code.' });
    else if (before !== undefined) skipped.push({ row, reason: `The code stands in row ${before} already.` });
    else {
      seen.set(foldText(own.code), row);
      classes.push(own);
    }
  }
  if (classes.length === 0)
    return failure('classification-empty', 'The list has no row with a code.', {
      remedy: 'It needs a column of codes and a column of titles.',
    });
  if (classes.length > MOST_CLASSES)
    return failure('classification-too-long', `The list has ${classes.length} classes; ${MOST_CLASSES} are read.`, {
      remedy: 'Leave out what is not used.',
    });
  return success({ classes, skipped });
}

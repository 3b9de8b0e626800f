import type { CostItem } from '../book/cost-item.ts';
import { readTextList } from '../elements/columns.ts';
import type { ElementTable, PropertyColumn } from '../elements/element-table.ts';
import { appendToList } from '../result/append-to-list.ts';
import { findPropertyColumns } from '../scopes/evaluate-scope.ts';
import { codeKey } from '../units/code-key.ts';
import { distanceOf } from '../units/text-distance.ts';

/** Something of the book that a code of a model means. */
export interface CodeTarget {
  readonly kind: 'item' | 'assembly';
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  /** How it is meant: its own code, or its class in a classification (the whole code, or the longest beginning of it). */
  readonly by: 'code' | 'class';
}

/** A code that elements of a model carry, and what of the book it means. */
export interface MatchedCode {
  readonly code: string;
  /** Rows that carry it. */
  readonly rows: readonly number[];
  /** Assemblies before items, what has the code itself before what is of its class; none where the book does not know it. */
  readonly targets: readonly CodeTarget[];
  /** Of a code that the book does not know: what is written most like it, the nearest first. */
  readonly nearest: readonly CodeTarget[];
}

/** What is near to a code that the book does not know, at most. */
const MOST_NEAR = 3;
/** Share of its signs that may differ in what is near to a code. */
const NEAR = 0.25;

/** What of the book codes mean, ready to be looked up. */
interface CodeIndex {
  readonly byCode: ReadonlyMap<string, readonly CodeTarget[]>;
  readonly byClass: ReadonlyMap<string, readonly CodeTarget[]>;
}

/** What of an item or an assembly it is found by; its rate is none of it. */
export type NamedThing = Pick<CostItem, 'code' | 'description' | 'unit' | 'classes'>;

/** A book as things are found in it. */
export interface NamedBook {
  readonly items: readonly NamedThing[];
  readonly assemblies: readonly NamedThing[];
}

/**
 * The codes that the designers put into a model, with what of the book each means. Case and blanks around do not matter.
 * @param property name of the property that holds the codes ("Set.Name", or "Name" in any set); the references to classifications if null
 */
export function matchCodes(table: ElementTable, book: NamedBook, property: string | null = null): MatchedCode[] {
  const index = indexBook(book);
  const rows = property === null ? gatherCodes(table) : gatherValues(findPropertyColumns(table, property));
  return [...rows]
    .map(([code, carrying]): MatchedCode => {
      const folded = codeKey(code);
      const targets = [...(index.byCode.get(folded) ?? []), ...findOfClass(folded, index)];
      return { code, rows: carrying, targets, nearest: targets.length > 0 ? [] : listNearest(folded, index) };
    })
    .sort((a, b) => b.rows.length - a.rows.length || (a.code < b.code ? -1 : 1));
}

function indexBook({ items, assemblies }: NamedBook): CodeIndex {
  const [byCode, byClass] = [new Map<string, CodeTarget[]>(), new Map<string, CodeTarget[]>()];
  const add = (kind: CodeTarget['kind'], { code, description, unit, classes }: NamedThing) => {
    appendToList(byCode, codeKey(code), { kind, code, description, unit, by: 'code' });
    for (const own of new Set(Object.values(classes ?? {}).map(codeKey)))
      if (own !== '') appendToList(byClass, own, { kind, code, description, unit, by: 'class' });
  };
  for (const assembly of assemblies) add('assembly', assembly);
  for (const item of items) add('item', item);
  return { byCode, byClass };
}

/** What is of the class that a code is, or of the deepest one above it. */
function findOfClass(folded: string, { byClass }: CodeIndex): readonly CodeTarget[] {
  for (let length = folded.length; length > 0; length--) {
    const found = byClass.get(folded.slice(0, length));
    if (found) return found;
  }
  return [];
}

function gatherCodes(table: ElementTable): Map<string, number[]> {
  const rows = new Map<string, number[]>();
  for (let row = 0; row < table.count; row++)
    for (const code of readTextList(table.codes, row)) appendToList(rows, code, row);
  return rows;
}

function gatherValues(columns: readonly PropertyColumn[]): Map<string, number[]> {
  const rows = new Map<string, number[]>();
  for (const { rows: own, values } of columns)
    own.forEach((row, i) => {
      const text = String(values[i]).trim();
      if (text !== '') appendToList(rows, text, row);
    });
  return rows;
}

function listNearest(folded: string, { byCode }: CodeIndex): CodeTarget[] {
  const near: { readonly target: CodeTarget; readonly distance: number }[] = [];
  for (const [key, targets] of byCode) {
    const most = Math.max(1, Math.floor(NEAR * Math.max(folded.length, key.length)));
    if (Math.abs(key.length - folded.length) > most) continue;
    const distance = distanceOf(key, folded);
    if (distance <= most) near.push(...targets.map((target) => ({ target, distance })));
  }
  return near
    .sort((a, b) => a.distance - b.distance || (a.target.code < b.target.code ? -1 : 1))
    .slice(0, MOST_NEAR)
    .map(({ target }) => target);
}

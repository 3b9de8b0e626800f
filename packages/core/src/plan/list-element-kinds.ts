import { classWord } from '../elements/class-word.ts';
import { readText, readTextList } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { foldText } from '../units/fold-text.ts';
import { median } from '../units/median.ts';
import { COMPLETENESS_STATES, type CompletenessState, countNothing } from './plan.ts';

/** What elements are gathered by: their class and type, or these and their storey, materials or codes. */
export const KIND_GROUPINGS = ['type', 'storey', 'material', 'code'] as const;
export type KindGrouping = (typeof KIND_GROUPINGS)[number];

/** What elements of a kind have in common beside class and type: all texts of it; none where they have none. */
export interface KindWithin {
  readonly field: Exclude<KindGrouping, 'type'>;
  readonly values: readonly string[];
}

/** Quantities that a kind would be priced by, those that say most first. */
export const KIND_QUANTITIES = [
  'NetSideArea',
  'NetArea',
  'NetFloorArea',
  'SlopedArea',
  'Area',
  'NetVolume',
  'Length',
  'Count',
] as const;

/** A quantity of a kind: of how many of its elements it is known, and what it adds up to, SI. */
export interface KindQuantity {
  readonly name: string;
  readonly unit: string;
  readonly value: number;
  readonly known: number;
}

/** Elements that are decided about as one: those of a class and type. */
export interface ElementKind {
  /** Class and folded type (and what else they are gathered by), told apart by a line end. */
  readonly id: string;
  readonly ifcClass: string;
  /** null for those without a type; they are gathered by what they are called, up to the first figure. */
  readonly typeName: string | null;
  /** What those without a type are called, without what tells them apart at the end; null if they have no name. */
  readonly stem: string | null;
  readonly within: KindWithin | null;
  /** Element keys, in the order of the sources. */
  readonly keys: readonly number[];
  readonly counts: Readonly<Record<CompletenessState, number>>;
  /** In 1/10,000 of a minor unit. */
  readonly amount: number;
  /** What the missing ones cost at the price of their like, in the same unit; null where nothing like them has a price. */
  readonly missing: number | null;
  readonly quantities: readonly KindQuantity[];
}

/** What a kind is called in findings: the word for its class, and its type or what its elements are called. */
export const labelKind = ({ ifcClass, typeName, stem }: Pick<ElementKind, 'ifcClass' | 'typeName' | 'stem'>): string =>
  [classWord(ifcClass), typeName ?? stem].filter((t) => t).join(' ');

/** State and amount of an element in the plan. */
export type StateOf = (key: number) => { readonly state: CompletenessState; readonly amount: number } | undefined;

/**
 * What an element without a type is called, less what tells it from its like: figures and signs at its end.
 * @example 'Au\u00dfenwand 3.12' and 'Au\u00dfenwand 4' are both 'Au\u00dfenwand'
 */
export const stemOfName = (name: string): string => name.replace(/[\s\d.,;:/#()_-]+$/u, '').trim() || name.trim();

/** Elements of one kind in one table; what does not depend on the plan. */
interface TableKind {
  readonly id: string;
  readonly ifcClass: string;
  readonly typeName: string | null;
  readonly stem: string | null;
  readonly within: KindWithin | null;
  readonly rows: readonly number[];
  readonly quantities: readonly KindQuantity[];
}

const gathered = new WeakMap<ElementTable, Map<KindGrouping, readonly TableKind[]>>();

function readWithin(table: ElementTable, by: KindWithin['field'], row: number): string[] {
  if (by === 'material') return readTextList(table.materials, row);
  if (by === 'code') return readTextList(table.codes, row);
  const storey = readText(table.storey, row);
  return storey === null ? [] : [storey];
}

/** The kinds of a table; gathered once for the same table. */
function gatherKinds(table: ElementTable, by: KindGrouping): readonly TableKind[] {
  const known = gathered.get(table) ?? new Map<KindGrouping, readonly TableKind[]>();
  gathered.set(table, known);
  const kept = known.get(by);
  if (kept) return kept;
  const kinds = new Map<string, Omit<TableKind, 'rows' | 'quantities'> & { readonly rows: number[] }>();
  for (let row = 0; row < table.count; row++) {
    const ifcClass = readText(table.ifcClass, row) ?? '';
    const typeName = readText(table.typeName, row) || null;
    const name = readText(table.name, row);
    const stem = typeName === null && name ? stemOfName(name) : null;
    const within = by === 'type' ? null : { field: by, values: readWithin(table, by, row) };
    const called = typeName === null ? `=${foldText(stem ?? '')}` : foldText(typeName);
    const id = [ifcClass, called, ...(within ? [within.values.join('\t')] : [])].join('\n');
    const kind = kinds.get(id) ?? { id, ifcClass, typeName, stem, within, rows: [] };
    kinds.set(id, kind);
    kind.rows.push(row);
  }
  const list = [...kinds.values()].map((kind) => ({ ...kind, quantities: sumQuantities(table, kind.rows) }));
  known.set(by, list);
  return list;
}

/**
 * The elements of a project by kind, what misses most money first.
 * @param stateOf what the plan says of an element; one it does not know is unpriced
 */
export function listElementKinds(
  tables: readonly ElementTable[],
  stateOf: StateOf,
  by: KindGrouping = 'type',
): ElementKind[] {
  const kinds = new Map<string, ElementKind>();
  for (const table of tables) {
    if (table.origin) continue;
    for (const kind of gatherKinds(table, by)) {
      const before = kinds.get(kind.id);
      kinds.set(kind.id, before ? joinKinds(before, describeKind(table, kind, stateOf)) : describeKind(table, kind, stateOf)); // biome-ignore format: one step
    }
  }
  const list = [...kinds.values()];
  const rates = gatherRates(list);
  return list
    .map((kind) => ({ ...kind, missing: estimateMissing(kind, rates) }))
    .sort((a, b) => openOf(b) - openOf(a) || (b.missing ?? -1) - (a.missing ?? -1) || countOpen(b) - countOpen(a) || (a.id < b.id ? -1 : 1)); // biome-ignore format: one order
}

const countOpen = ({ counts }: ElementKind): number => counts.unpriced + counts.partly;
const openOf = (kind: ElementKind): number => Number(countOpen(kind) > 0);

function describeKind(table: ElementTable, { rows, ...kind }: TableKind, stateOf: StateOf): ElementKind {
  const counts = countNothing();
  const keys: number[] = [];
  let amount = 0;
  for (const row of rows) {
    const key = table.keys[row]!;
    const known = table.excluded?.[row] ? { state: 'leftOut' as const, amount: 0 } : stateOf(key);
    counts[known?.state ?? 'unpriced']++;
    amount += known?.amount ?? 0;
    keys.push(key);
  }
  return { ...kind, keys, counts, amount, missing: null };
}

/** Sums of quantities of elements in two sources. */
export function joinQuantities(a: readonly KindQuantity[], b: readonly KindQuantity[]): KindQuantity[] {
  const sums = new Map(a.map((q) => [q.name, q]));
  for (const q of b) {
    const own = sums.get(q.name);
    sums.set(q.name, own ? { ...own, value: own.value + q.value, known: own.known + q.known } : q);
  }
  return sortQuantities([...sums.values()]);
}

/** The same kind in another source. */
function joinKinds(a: ElementKind, b: ElementKind): ElementKind {
  return {
    ...a,
    keys: [...a.keys, ...b.keys],
    counts: Object.fromEntries(COMPLETENESS_STATES.map((s) => [s, a.counts[s] + b.counts[s]])) as ElementKind['counts'],
    amount: a.amount + b.amount,
    quantities: joinQuantities(a.quantities, b.quantities),
  };
}

/** Every quantity that any of some elements has, summed, those that say most first. */
export function sumQuantities(table: ElementTable, rows: readonly number[]): KindQuantity[] {
  const sums: KindQuantity[] = [];
  for (const { name, unit, values } of listEffectiveQuantities(table).values()) {
    let [value, known] = [0, 0];
    for (const row of rows) {
      if (Number.isNaN(values[row]!)) continue;
      value += values[row]!;
      known++;
    }
    if (known > 0) sums.push({ name, unit, value, known });
  }
  if (!sums.some((q) => q.name === 'Count')) sums.push({ name: 'Count', unit: 'each', value: rows.length, known: rows.length }); // biome-ignore format: one step
  return sortQuantities(sums);
}

function sortQuantities(list: readonly KindQuantity[]): KindQuantity[] {
  const rank = ({ name }: KindQuantity) => {
    const at = (KIND_QUANTITIES as readonly string[]).indexOf(name);
    return at < 0 ? KIND_QUANTITIES.length : at;
  };
  return [...list].sort((a, b) => rank(a) - rank(b) || (a.name < b.name ? -1 : 1));
}

/** The first quantity that all of a kind's elements have; pieces in the end. */
export function mainQuantityOf({ quantities, keys }: Pick<ElementKind, 'quantities' | 'keys'>): KindQuantity {
  return quantities.find((q) => q.known === keys.length) ?? quantities.find((q) => q.name === 'Count')!;
}

/** What a kind that is priced whole costs per unit of its main quantity, by class and by unit. */
function gatherRates(kinds: readonly ElementKind[]): ReadonlyMap<string, readonly number[]> {
  const rates = new Map<string, number[]>();
  for (const kind of kinds) {
    const { name, unit, value } = mainQuantityOf(kind);
    if (kind.amount <= 0 || value <= 0 || countOpen(kind) > 0 || kind.counts.leftOut > 0) continue;
    for (const key of [`${kind.ifcClass}/${name}`, `/${unit}`])
      rates.set(key, [...(rates.get(key) ?? []), kind.amount / value]);
  }
  return rates;
}

function estimateMissing(kind: ElementKind, rates: ReadonlyMap<string, readonly number[]>): number | null {
  const open = kind.counts.unpriced;
  if (open === 0) return 0;
  const { name, unit, value } = mainQuantityOf(kind);
  const known = rates.get(`${kind.ifcClass}/${name}`) ?? rates.get(`/${unit}`);
  return known ? Math.round(((median(known) * value) / kind.keys.length) * open) : null;
}

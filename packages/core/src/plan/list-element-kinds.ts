import { readText } from '../elements/columns.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { foldText } from '../units/fold-text.ts';
import { COMPLETENESS_STATES, type CompletenessState } from './plan.ts';

/** What elements are gathered by: their class and type, or their class, type and storey. */
export type KindGrouping = 'type' | 'storey';

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
  /** Class and folded type (and storey), told apart by a line end. */
  readonly id: string;
  readonly ifcClass: string;
  /** null for those without a type; they are gathered by what they are called, up to the first figure. */
  readonly typeName: string | null;
  /** What those without a type are called, without what tells them apart at the end; null if they have no name. */
  readonly stem: string | null;
  readonly storey: string | null;
  /** Element keys, in the order of the sources. */
  readonly keys: readonly number[];
  readonly counts: Readonly<Record<CompletenessState, number>>;
  /** In 1/10,000 of a minor unit. */
  readonly amount: number;
  /** What the missing ones cost at the price of their like, in the same unit; null where nothing like them has a price. */
  readonly missing: number | null;
  readonly quantities: readonly KindQuantity[];
}

/** State and amount of an element in the plan. */
export type StateOf = (key: number) => { readonly state: CompletenessState; readonly amount: number } | undefined;

/**
 * What an element without a type is called, less what tells it from its like: figures and signs at its end.
 * @example 'Au\u00dfenwand 3.12' and 'Au\u00dfenwand 4' are both 'Au\u00dfenwand'
 */
export const stemOfName = (name: string): string => name.replace(/[\s\d.,;:/#()_-]+$/u, '').trim() || name.trim();

interface Gathered {
  readonly ifcClass: string;
  readonly typeName: string | null;
  readonly stem: string | null;
  readonly storey: string | null;
  readonly rows: [table: ElementTable, row: number][];
}

/**
 * The elements of a project by kind, what misses most money first. Elements that are left out of the model by hand are none.
 * @param stateOf what the plan says of an element; one it does not know is unpriced
 */
export function listElementKinds(
  tables: readonly ElementTable[],
  stateOf: StateOf,
  by: KindGrouping = 'type',
): ElementKind[] {
  const kinds = new Map<string, Gathered>();
  for (const table of tables) {
    if (table.origin) continue;
    for (let row = 0; row < table.count; row++) {
      const ifcClass = readText(table.ifcClass, row) ?? '';
      const typeName = readText(table.typeName, row) || null;
      const name = readText(table.name, row);
      const stem = typeName === null && name ? stemOfName(name) : null;
      const storey = by === 'storey' ? readText(table.storey, row) : null;
      const id = [ifcClass, typeName === null ? `=${foldText(stem ?? '')}` : foldText(typeName), ...(by === 'storey' ? [storey ?? ''] : [])].join('\n'); // biome-ignore format: one key
      let kind = kinds.get(id);
      if (!kind) {
        kind = { ifcClass, typeName, stem, storey, rows: [] };
        kinds.set(id, kind);
      }
      kind.rows.push([table, row]);
    }
  }
  const list = [...kinds].map(([id, kind]) => describeKind(id, kind, stateOf));
  const rates = gatherRates(list);
  return list
    .map((kind) => ({ ...kind, missing: estimateMissing(kind, rates) }))
    .sort((a, b) => openOf(b) - openOf(a) || (b.missing ?? -1) - (a.missing ?? -1) || countOpen(b) - countOpen(a) || (a.id < b.id ? -1 : 1)); // biome-ignore format: one order
}

const countOpen = ({ counts }: ElementKind): number => counts.unpriced + counts.partly;
const openOf = (kind: ElementKind): number => Number(countOpen(kind) > 0);

function describeKind(id: string, { rows, ...kind }: Gathered, stateOf: StateOf): ElementKind {
  const counts = Object.fromEntries(COMPLETENESS_STATES.map((s) => [s, 0])) as Record<CompletenessState, number>;
  const keys: number[] = [];
  let amount = 0;
  for (const [table, row] of rows) {
    const key = table.keys[row]!;
    const known = table.excluded?.[row] ? { state: 'leftOut' as const, amount: 0 } : stateOf(key);
    counts[known?.state ?? 'unpriced']++;
    amount += known?.amount ?? 0;
    keys.push(key);
  }
  return { id, ...kind, keys, counts, amount, missing: null, quantities: sumQuantities(rows) };
}

/** Every quantity that any of the elements has, those that say most first; pieces last. */
function sumQuantities(rows: readonly (readonly [ElementTable, number])[]): KindQuantity[] {
  const sums = new Map<string, { unit: string; value: number; known: number }>();
  for (const [table, row] of rows)
    for (const column of listEffectiveQuantities(table).values()) {
      const figure = column.values[row]!;
      if (Number.isNaN(figure)) continue;
      const sum = sums.get(column.name) ?? { unit: column.unit, value: 0, known: 0 };
      sums.set(column.name, sum);
      sum.value += figure;
      sum.known++;
    }
  if (!sums.has('Count')) sums.set('Count', { unit: 'each', value: rows.length, known: rows.length });
  const rank = (name: string) => {
    const at = (KIND_QUANTITIES as readonly string[]).indexOf(name);
    return at < 0 ? KIND_QUANTITIES.length : at;
  };
  return [...sums]
    .map(([name, sum]) => ({ name, ...sum }))
    .sort((a, b) => rank(a.name) - rank(b.name) || (a.name < b.name ? -1 : 1));
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

function median(figures: readonly number[]): number {
  const sorted = [...figures].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

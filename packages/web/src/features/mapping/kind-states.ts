import {
  type CodeTarget,
  type DecidedPart,
  type ElementKind,
  type ElementStatesDto,
  type ElementTable,
  type KindGrouping,
  type KindPart,
  listDecidedParts,
  listElementKinds,
  type MatchedCode,
  matchCodes,
  type NamedBook,
  type PricingRule,
  readText,
} from '@tally/core';
import type { LoadedModel } from '../../store/loaded-models.ts';
import { readStates } from '../../store/read-states.ts';
import type { SourceMapping } from '../../store/table-reader.ts';

/** The kinds of a project's elements with their state in the plan. */
export function readKinds(
  tables: readonly ElementTable[],
  states: readonly ElementStatesDto[],
  by: KindGrouping,
): ElementKind[] {
  const known = readStates(states);
  return listElementKinds(tables, (key) => known.get(key), by);
}

/** What decides about a kind in a section. */
export interface KindDecision {
  readonly section: string | null;
  /** The rule; null for decisions by hand, and what elements are priced with by themselves. */
  readonly rule: PricingRule | null;
  readonly leaveOut: string | null;
  /** Of how many of its elements. */
  readonly elements: number;
  /** What of them it is about; null for the elements themselves. */
  readonly about: DecidedPart | null;
}

/** The kind of each element. */
function mapKinds(kinds: readonly Pick<ElementKind, 'id' | 'keys'>[]): ReadonlyMap<number, string> {
  const kindOf = new Map<number, string>();
  for (const { id, keys } of kinds) for (const key of keys) kindOf.set(key, id);
  return kindOf;
}

/** What decides about the elements of each kind, by its id, section by section; what decides about most first. */
export function indexDecisions(
  kinds: readonly Pick<ElementKind, 'id' | 'keys'>[],
  models: readonly LoadedModel[],
  mappings: readonly SourceMapping[],
): ReadonlyMap<string, readonly KindDecision[]> {
  const kindOf = mapKinds(kinds);
  const found = new Map<string, Map<string, KindDecision>>();
  for (const { id, mapping } of mappings) {
    const table = models.find((m) => m.revision.id === id)?.table;
    if (!table) continue;
    for (const { id: decision, section, rule, decision: made, rows, about } of mapping.mapped) {
      const counts = new Map<string, number>();
      for (let at = 0; at < rows.length; at++) {
        // Of parts an element stands there as often as it has some.
        if (at > 0 && rows[at - 1] === rows[at]) continue;
        const kind = kindOf.get(table.keys[rows[at]!]!);
        if (kind !== undefined) counts.set(kind, (counts.get(kind) ?? 0) + 1);
      }
      for (const [kind, count] of counts) {
        const own = found.get(kind) ?? new Map<string, KindDecision>();
        found.set(kind, own);
        const elements = count + (own.get(decision)?.elements ?? 0);
        own.set(decision, { section, rule, leaveOut: made.leaveOut ?? null, elements, about });
      }
    }
  }
  return new Map([...found].map(([kind, own]) => [kind, [...own.values()].sort((a, b) => b.elements - a.elements)]));
}

/** Elements of a kind that a section prices, and those that it only leaves out. */
export interface SectionCount {
  readonly priced: number;
  readonly out: number;
}

export const NOTHING_DECIDED: SectionCount = { priced: 0, out: 0 };

/** How many elements of each kind each section decides about, by the kind's id and the section: an element once, however many of its parts are decided about. */
export function countSections(
  kinds: readonly Pick<ElementKind, 'id' | 'keys'>[],
  models: readonly LoadedModel[],
  mappings: readonly SourceMapping[],
): ReadonlyMap<string, ReadonlyMap<string, SectionCount>> {
  const [PRICED, OUT] = [2, 1];
  /** Of each section what it does with each element that it decides about. */
  const told = new Map<string, Map<number, number>>();
  for (const { id, mapping } of mappings) {
    const table = models.find((m) => m.revision.id === id)?.table;
    if (!table) continue;
    for (const { section, decision, rows } of mapping.mapped) {
      if (section === null) continue;
      const own = told.get(section) ?? new Map<number, number>();
      told.set(section, own);
      const what = decision.leaveOut === undefined ? PRICED : OUT;
      for (const row of rows) own.set(table.keys[row]!, Math.max(own.get(table.keys[row]!) ?? 0, what));
    }
  }
  const kindOf = mapKinds(kinds);
  const counts = new Map(kinds.map(({ id }) => [id, new Map<string, SectionCount>()] as const));
  for (const [section, own] of told)
    for (const [key, what] of own) {
      const ofKind = counts.get(kindOf.get(key) ?? '');
      if (!ofKind) continue;
      const { priced, out } = ofKind.get(section) ?? NOTHING_DECIDED;
      ofKind.set(section, what === PRICED ? { priced: priced + 1, out } : { priced, out: out + 1 });
    }
  return counts;
}

/** How many of the layers, face styles or finishes of a kind are decided about, by `partId`. */
export function countDecidedParts(
  keys: ReadonlySet<number>,
  models: readonly LoadedModel[],
  mappings: readonly SourceMapping[],
): ReadonlyMap<string, number> {
  const decided = new Map<string, Set<string>>();
  for (const { id, mapping } of mappings) {
    const table = models.find((m) => m.revision.id === id)?.table;
    if (!table) continue;
    for (const { about, rows, parts } of mapping.mapped) {
      if (!about) continue;
      const { offset, name, surface } = listDecidedParts(table, about);
      rows.forEach((row, at) => {
        if (!keys.has(table.keys[row]!)) return;
        const place = offset[row]! + parts![at]!;
        const part = partId({ about, name: readText(name, place), surface: surface?.[place] ?? null });
        // Two sections may decide about one part: it counts once.
        decided.set(part, (decided.get(part) ?? new Set()).add(`${id}/${place}`));
      });
    }
  }
  return new Map([...decided].map(([part, places]) => [part, places.size]));
}

/** Tells the parts of a kind apart. */
export const partId = ({ about, name, surface }: Pick<KindPart, 'about' | 'name' | 'surface'>): string =>
  JSON.stringify([about, surface, name]);

/** The next kind that something of is open, after one; the first where there is none after it. Null if nothing is open. */
export function nextOpenKind(kinds: readonly ElementKind[], after: string | null): ElementKind | null {
  const isOpen = ({ counts }: ElementKind) => counts.unpriced + counts.partly > 0;
  const at = kinds.findIndex((k) => k.id === after);
  return kinds.slice(at + 1).find(isOpen) ?? kinds.find((k) => isOpen(k) && k.id !== after) ?? null;
}

const codesOf = new WeakMap<ElementTable, { readonly book: NamedBook; readonly matched: readonly MatchedCode[] }>();

/** The codes of a table; looked up once for the same table and book. */
function readCodes(table: ElementTable, book: NamedBook): readonly MatchedCode[] {
  const known = codesOf.get(table);
  if (known?.book.items === book.items && known.book.assemblies === book.assemblies) return known.matched;
  const matched = matchCodes(table, book);
  codesOf.set(table, { book, matched });
  return matched;
}

/** What of the book the codes mean that all elements of a kind carry. */
export function listCoded(
  keys: ReadonlySet<number>,
  models: readonly LoadedModel[],
  book: NamedBook,
): { readonly code: string; readonly target: CodeTarget }[] {
  const carried = new Map<string, { elements: number; readonly targets: readonly CodeTarget[] }>();
  for (const { table } of models)
    for (const { code, rows, targets } of readCodes(table, book)) {
      const of = carried.get(code) ?? { elements: 0, targets };
      carried.set(code, of);
      for (const row of rows) if (keys.has(table.keys[row]!)) of.elements++;
    }
  return [...carried].flatMap(([code, { elements, targets }]) =>
    elements === keys.size ? targets.map((target) => ({ code, target })) : [],
  );
}

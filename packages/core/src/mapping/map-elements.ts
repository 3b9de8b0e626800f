import { type DecidedPart, listDecidedParts } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { listRowsByKey } from '../elements/rows-by-key.ts';
import type { RowMask } from '../scopes/evaluate-scope.ts';
import {
  type Candidate,
  caughtBy,
  gatherAlike,
  inheritedId,
  listRuleCandidates,
  placePins,
} from './list-candidates.ts';
import { type Decider, deciderOfRule, listDecidedSections, orderRules } from './precedence.ts';
import type { OwnDecision, Pin, PricedWith, PricingRule } from './pricing-rule.ts';
import { relateWholes } from './relate-wholes.ts';

/** One decision: which rows it prices (or leaves out) in its section. Pins that price the same way in a section are one decision. */
export interface MappedRows {
  /** Tells decisions apart, for ever: the rule's id, or how the pins price. */
  readonly id: string;
  readonly decider: Decider;
  /** The rule; null for pins. */
  readonly rule: PricingRule | null;
  /** What it prices with, or why it leaves out. */
  readonly decision: PricedWith;
  readonly section: string | null;
  /** Ascending; of a decision about parts each row as often as it has some that it catches. */
  readonly rows: Int32Array;
  /** What of its rows it decides about; null for the elements themselves. */
  readonly about: DecidedPart | null;
  /** Place of each part among those of its row (`listDecidedParts`), ascending within a row; null for the elements themselves. */
  readonly parts: Int32Array | null;
}

/** How many elements a decision is about. */
export function countRows({ rows, parts }: Pick<MappedRows, 'rows' | 'parts'>): number {
  return parts ? rows.reduce((n, row, at) => n + Number(at === 0 || row !== rows[at - 1]), 0) : rows.length;
}

export interface Mapping {
  readonly mapped: readonly MappedRows[];
  /** Rows that a rule caught but that are priced with their whole, or by their parts, in that section: 1, else 0. */
  readonly covered: Uint8Array;
  /** How many elements each rule's scope catches, whether it prices them or not, by rule id. */
  readonly caught: ReadonlyMap<string, number>;
}

/** Places that decisions have in one section: rows, or places of the parts they are about. */
interface SectionMapping {
  readonly places: ReadonlyMap<string, Int32Array>;
  readonly covered: readonly number[];
}

/** Sections as they were decided, kept while what decided is the same. */
export class MappingMemory {
  private readonly kept = new Map<string, { readonly from: readonly unknown[]; readonly mapping: SectionMapping }>();
  private readonly counts = new WeakMap<RowMask, number>();

  decide(key: string, from: readonly unknown[], decide: () => SectionMapping): SectionMapping {
    const known = this.kept.get(key);
    if (known && known.from.length === from.length && from.every((f, i) => f === known.from[i])) return known.mapping;
    const mapping = decide();
    this.kept.set(key, { from, mapping });
    return mapping;
  }

  count(mask: RowMask): number {
    let count = this.counts.get(mask);
    if (count === undefined) {
      count = mask.reduce((n, hit) => n + hit, 0);
      this.counts.set(mask, count);
    }
    return count;
  }
}

/** Rows and parts of decided places. */
function spreadPlaces(table: ElementTable, about: DecidedPart | null, places: Int32Array): Pick<MappedRows, 'rows' | 'about' | 'parts'> {
  if (!about) return { rows: places, about, parts: null };
  const { rows, offset } = listDecidedParts(table, about);
  const own = places.map((place) => rows[place]!);
  return { rows: own, about, parts: places.map((place, at) => place - offset[own[at]!]!) };
} // biome-ignore format: one head

/**
 * Decides for each element and section what prices it, as `precedence.ts` says. A whole and its parts are never both priced in one section: the first decision stands, the other is covered by it. Rules
 * that are off take no part.
 * @param memory sections of an earlier run; those are taken over whose rules, pins and caught elements are the same
 * @param own what elements are priced with by themselves, where nothing of this decides about them in any section
 */
export function mapElements(
  table: ElementTable,
  rules: readonly PricingRule[],
  pins: readonly Pin[],
  memory: MappingMemory = new MappingMemory(),
  own: readonly OwnDecision[] = [],
): Mapping {
  const ordered = orderRules(rules);
  const kinds = gatherAlike(pins, 'pin');
  const placesOf = new Map<string, Int32Array>();
  const leftOut = new Map<string, Set<number>>();
  const ruleOf = new Map(ordered.flatMap((r) => [[r.id, r] as const, [inheritedId(r), r] as const]));
  const covered = new Uint8Array(table.count);
  for (const section of listDecidedSections(rules, pins)) {
    const fromPins = kinds
      .filter((k) => k.section === section)
      .map((kind): Candidate => ({ id: kind.id, leaveOut: kind.decision.leaveOut !== undefined, about: kind.about, mask: null, places: placePins(kind, table), isForParts: false })); // biome-ignore format: one step
    const candidates = [...fromPins, ...listRuleCandidates(ordered, section, table)];
    const from = [table.keys, table.parent, table.identity, table.excluded?.join(), ...candidates.flatMap((c) => [c.id, c.leaveOut, c.isForParts, c.about && listDecidedParts(table, c.about), c.mask ?? c.places.join()])]; // biome-ignore format: what decides
    const decided = memory.decide(section, from, () => decideSection(table, candidates));
    for (const row of decided.covered) covered[row] = 1;
    for (const [id, places] of decided.places) {
      const rule = ruleOf.get(id);
      if (!rule || rule.section) placesOf.set(id, places);
      else leftOut.set(id, new Set([...(leftOut.get(id) ?? []), ...places]));
    }
  }
  for (const [id, places] of leftOut) placesOf.set(id, Int32Array.from(places).sort());
  const mapped: MappedRows[] = [];
  for (const { id, section, decision, about } of kinds) {
    const places = placesOf.get(id);
    if (places)
      mapped.push({ id, decider: 'pin', rule: null, decision, section, ...spreadPlaces(table, about, places) });
  }
  const addRule = (rule: PricingRule, id: string, decider: Decider) => {
    const places = placesOf.get(id);
    const section = rule.section ?? null;
    if (places)
      mapped.push({ id, decider, rule, decision: rule, section, ...spreadPlaces(table, rule.about ?? null, places) });
  };
  for (const rule of ordered) addRule(rule, rule.id, deciderOfRule(rule));
  for (const rule of ordered) addRule(rule, inheritedId(rule), 'inherited');
  if (own.length > 0) {
    const decided = covered.slice();
    for (const { rows } of mapped) for (const row of rows) decided[row] = 1;
    const rowOf = listRowsByKey(table.keys);
    const isOpen = (row: number | undefined) => row !== undefined && !decided[row] && !table.excluded?.[row];
    for (const { id, section, decision, elements } of gatherAlike(own, 'own')) {
      const rows = Int32Array.from(elements.map((element) => rowOf.get(element)!).filter(isOpen)).sort();
      if (rows.length > 0)
        mapped.push({ id, decider: 'own', rule: null, decision, section, rows, about: null, parts: null });
    }
  }
  const caught = new Map(rules.map((r) => [r.id, memory.count(caughtBy(r, table))]));
  return { mapped, covered, caught };
}

/** The first decision that catches an element, or a part of it, has it; what is priced as its whole, its part, or in parts already is covered. */
function decideSection(table: ElementTable, candidates: readonly Candidate[]): SectionMapping {
  const related = relateWholes(table);
  const taken = new Uint8Array(table.count);
  const priced = new Uint8Array(table.count);
  const takenParts = new Map<DecidedPart, Uint8Array>();
  const inParts = new Uint8Array(table.count);
  const places = new Map<string, Int32Array>();
  const covered: number[] = [];
  const isCovered = (row: number) => related.isAny[row] === 1 && related.of(row).some((other) => priced[other]);
  for (const { id, leaveOut, about, mask, places: single, isForParts } of candidates) {
    const own: number[] = [];
    const take = (row: number) => {
      if (taken[row] || table.excluded?.[row]) return;
      taken[row] = 1;
      if (!leaveOut) {
        if (inParts[row] || isCovered(row) || (isForParts && related.hasParts(row))) {
          covered.push(row);
          return;
        }
        priced[row] = 1;
      }
      own.push(row);
    };
    const rowOf = about && listDecidedParts(table, about).rows;
    const takePart = (place: number) => {
      const row = rowOf![place]!;
      const known = takenParts.get(about!) ?? new Uint8Array(rowOf!.length);
      takenParts.set(about!, known);
      if (taken[row] || known[place] || table.excluded?.[row]) return;
      known[place] = 1;
      if (!leaveOut) {
        if (isCovered(row)) return;
        priced[row] = 1;
        inParts[row] = 1;
      }
      own.push(place);
    };
    const see = about ? takePart : take;
    if (mask) for (let at = mask.indexOf(1); at >= 0; at = mask.indexOf(1, at + 1)) see(at);
    else for (const at of single) see(at);
    if (own.length > 0) places.set(id, Int32Array.from(own).sort());
  }
  return { places, covered };
}

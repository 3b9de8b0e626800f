import type { ElementTable } from '../elements/element-table.ts';
import { relateElements } from '../elements/relations.ts';
import { appendToList } from '../result/append-to-list.ts';
import { evaluateScope, type RowMask } from '../scopes/evaluate-scope.ts';
import { type Decider, deciderOfRule, listDecidedSections, orderRules, speaksIn } from './precedence.ts';
import type { OwnDecision, Pin, PricedWith, PricingRule } from './pricing-rule.ts';

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
  /** Ascending. */
  readonly rows: Int32Array;
}

export interface Mapping {
  readonly mapped: readonly MappedRows[];
  /** Rows that a rule caught but that are priced with their whole, or by their parts, in that section: 1, else 0. */
  readonly covered: Uint8Array;
  /** How many elements each rule's scope catches, whether it prices them or not, by rule id. */
  readonly caught: ReadonlyMap<string, number>;
}

const relatedOf = new WeakMap<Int32Array, Related>();
interface Related {
  /** Rows that are a whole or a part: 1, else 0. */
  readonly isAny: Uint8Array;
  /** Rows of the wholes above and of all parts below one. */
  readonly of: (row: number) => readonly number[];
}

/** Rows of the wholes above and of all parts below each row that has any; worked out once for the same wholes. */
export function relateWholes(table: ElementTable): Related {
  const { wholes } = relateElements(table);
  const kept = relatedOf.get(wholes);
  if (kept) return kept;
  const rowOf = listRowsByKey(table.keys);
  const parentOf = new Map<number, number>();
  const partsOf = new Map<number, number[]>();
  wholes.forEach((key, row) => {
    const whole = key === 0 ? undefined : rowOf.get(key);
    if (whole === undefined || whole === row) return;
    parentOf.set(row, whole);
    appendToList(partsOf, whole, row);
  });
  const known = new Map<number, readonly number[]>();
  const isAny = new Uint8Array(wholes.length);
  for (const row of [...parentOf.keys(), ...partsOf.keys()]) isAny[row] = 1;
  const of = (row: number): readonly number[] => {
    let found = known.get(row) as number[] | undefined;
    if (!found) {
      found = [];
      for (let at = parentOf.get(row), n = 0; at !== undefined && n < 32; at = parentOf.get(at), n++) found.push(at);
      const below = [...(partsOf.get(row) ?? [])];
      for (let at = below.pop(); at !== undefined && found.length < 10_000; at = below.pop()) {
        found.push(at);
        below.push(...(partsOf.get(at) ?? []));
      }
      known.set(row, found);
    }
    return found;
  };
  const related = { isAny, of };
  relatedOf.set(wholes, related);
  return related;
}

const rowsByKey = new WeakMap<Int32Array, ReadonlyMap<number, number>>();
function listRowsByKey(keys: Int32Array): ReadonlyMap<number, number> {
  let rows = rowsByKey.get(keys);
  if (!rows) {
    rows = new Map([...keys].map((key, row) => [key, row]));
    rowsByKey.set(keys, rows);
  }
  return rows;
}

/** A decision with what it catches: a mask for a rule, single rows for pins. */
interface Candidate {
  readonly id: string;
  readonly leaveOut: boolean;
  readonly mask: RowMask | null;
  readonly rows: readonly number[];
}

/** Who prices which rows in one section. */
interface SectionMapping {
  readonly rows: ReadonlyMap<string, Int32Array>;
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

/** Decisions about single elements that price the same way in a section, as one. */
interface DecisionKind {
  readonly id: string;
  readonly section: string;
  readonly decision: PricedWith;
  readonly elements: number[];
}

const kindsOf = new WeakMap<readonly (Pin | OwnDecision)[], readonly DecisionKind[]>();

/** Decisions by what they price with; gathered once for the same list. */
function gatherAlike(decisions: readonly (Pin | OwnDecision)[], who: 'pin' | 'own'): readonly DecisionKind[] {
  const known = kindsOf.get(decisions);
  if (known) return known;
  const kinds = new Map<string, DecisionKind>();
  for (const one of decisions) {
    const { section, item, assembly, driver, parameters, leaveOut, element } = one;
    const settings = Object.entries(parameters ?? {}).sort(([a], [b]) => (a < b ? -1 : 1));
    const id = `${who}:${JSON.stringify([section, item, assembly, driver, settings, leaveOut])}`;
    const kind = kinds.get(id) ?? { id, section, decision: one, elements: [] };
    kinds.set(id, kind);
    kind.elements.push(element);
  }
  const gathered = [...kinds.values()];
  kindsOf.set(decisions, gathered);
  return gathered;
}

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
  const rowOf = pins.length + own.length > 0 ? listRowsByKey(table.keys) : new Map<number, number>();
  const rowsOf = new Map<string, Int32Array>();
  const leftOut = new Map<string, Set<number>>();
  const covered = new Uint8Array(table.count);
  for (const section of listDecidedSections(rules, pins)) {
    const fromPins = kinds
      .filter((k) => k.section === section)
      .map(({ id, decision, elements }): Candidate => {
        const rows = elements.flatMap((element) => rowOf.get(element) ?? []);
        return { id, leaveOut: decision.leaveOut !== undefined, mask: null, rows };
      });
    const fromRules = ordered
      .filter((r) => speaksIn(r, section))
      .map(({ id, scope, leaveOut }): Candidate => ({ id, leaveOut: leaveOut !== undefined, mask: evaluateScope(scope, table), rows: [] })); // biome-ignore format: one step
    const candidates = [...fromPins, ...fromRules];
    const from = [table.keys, table.parent, table.identity, table.excluded?.join(), ...candidates.flatMap((c) => [c.id, c.leaveOut, c.mask ?? c.rows.join()])]; // biome-ignore format: what decides
    const decided = memory.decide(section, from, () => decideSection(table, candidates));
    for (const row of decided.covered) covered[row] = 1;
    for (const [id, rows] of decided.rows) {
      const rule = ordered.find((r) => r.id === id);
      if (!rule || rule.section) rowsOf.set(id, rows);
      else leftOut.set(id, new Set([...(leftOut.get(id) ?? []), ...rows]));
    }
  }
  for (const [id, rows] of leftOut) rowsOf.set(id, Int32Array.from(rows).sort());
  const mapped: MappedRows[] = [];
  for (const { id, section, decision } of kinds) {
    const rows = rowsOf.get(id);
    if (rows) mapped.push({ id, decider: 'pin', rule: null, decision, section, rows });
  }
  for (const rule of ordered) {
    const rows = rowsOf.get(rule.id);
    if (rows)
      mapped.push({
        id: rule.id,
        decider: deciderOfRule(rule),
        rule,
        decision: rule,
        section: rule.section ?? null,
        rows,
      });
  }
  if (own.length > 0) {
    const decided = covered.slice();
    for (const { rows } of mapped) for (const row of rows) decided[row] = 1;
    const isOpen = (row: number | undefined) => row !== undefined && !decided[row] && !table.excluded?.[row];
    for (const { id, section, decision, elements } of gatherAlike(own, 'own')) {
      const rows = Int32Array.from(elements.map((element) => rowOf.get(element)!).filter(isOpen)).sort();
      if (rows.length > 0) mapped.push({ id, decider: 'own', rule: null, decision, section, rows });
    }
  }
  const caught = new Map(rules.map((r) => [r.id, memory.count(evaluateScope(r.scope, table))]));
  return { mapped, covered, caught };
}

/** The first decision that catches an element has it; an element that is priced as its whole or part already is covered. */
function decideSection(table: ElementTable, candidates: readonly Candidate[]): SectionMapping {
  const related = relateWholes(table);
  const taken = new Uint8Array(table.count);
  const priced = new Uint8Array(table.count);
  const rows = new Map<string, Int32Array>();
  const covered: number[] = [];
  for (const { id, leaveOut, mask, rows: single } of candidates) {
    const own: number[] = [];
    const take = (row: number) => {
      if (taken[row] || table.excluded?.[row]) return;
      taken[row] = 1;
      if (!leaveOut) {
        if (related.isAny[row] && related.of(row).some((other) => priced[other])) {
          covered.push(row);
          return;
        }
        priced[row] = 1;
      }
      own.push(row);
    };
    if (mask) for (let row = mask.indexOf(1); row >= 0; row = mask.indexOf(1, row + 1)) take(row);
    else for (const row of single) take(row);
    if (own.length > 0) rows.set(id, Int32Array.from(own).sort());
  }
  return { rows, covered };
}

import type { ElementTable } from '../elements/element-table.ts';
import { appendToList } from '../result/append-to-list.ts';
import { evaluateScope } from '../scopes/evaluate-scope.ts';
import type { Pin, PricingRule } from './pricing-rule.ts';

/** Who decided: a pin, a rule for the type, or the rule order. */
export type Decider = 'pin' | 'type' | 'order';

/** The decision for one rule or pin: which rows it prices (or leaves out) in its section. */
export interface MappedRows {
  readonly decider: Decider;
  readonly rule: PricingRule | null;
  readonly pin: Pin | null;
  readonly section: string | null;
  readonly rows: Int32Array;
}

export interface Mapping {
  readonly mapped: readonly MappedRows[];
  /** Rows that a rule caught but that are priced with their whole, or by their parts, in that section: 1, else 0. */
  readonly covered: Uint8Array;
  /** How many elements each rule's scope catches, whether it prices them or not, by rule id. */
  readonly caught: ReadonlyMap<string, number>;
}

/** Rows of the wholes above and of all parts below each row that has any. */
function relateWholes(table: ElementTable): (row: number) => readonly number[] {
  const rowOf = new Map<string, number>();
  table.globalId.index.forEach((i, row) => void rowOf.set(table.globalId.pool[i]!, row));
  const parentOf = new Map<number, number>();
  const partsOf = new Map<number, number[]>();
  table.parent.index.forEach((i, row) => {
    const whole = i < 0 ? undefined : rowOf.get(table.parent.pool[i]!);
    if (whole === undefined || whole === row) return;
    parentOf.set(row, whole);
    appendToList(partsOf, whole, row);
  });
  const known = new Map<number, readonly number[]>();
  return (row) => {
    if (!parentOf.has(row) && !partsOf.has(row)) return NO_ROWS;
    let related = known.get(row);
    if (!related) {
      const found: number[] = [];
      for (let at = parentOf.get(row), n = 0; at !== undefined && n < 32; at = parentOf.get(at), n++) found.push(at);
      const below = [...(partsOf.get(row) ?? [])];
      for (let at = below.pop(); at !== undefined && found.length < 10_000; at = below.pop()) {
        found.push(at);
        below.push(...(partsOf.get(at) ?? []));
      }
      related = found;
      known.set(row, related);
    }
    return related;
  };
}
const NO_ROWS: readonly number[] = [];

/**
 * Decides for each element and section what prices it: a pin, else the first rule for its type, else the first rule in
 * order. A whole and its parts are never both priced in one section: the first decision stands, the other is covered by it. Rules
 * that are off take no part.
 */
export function mapElements(table: ElementTable, rules: readonly PricingRule[], pins: readonly Pin[]): Mapping {
  const sections = new Set<string>();
  for (const r of rules) if (r.section) sections.add(r.section);
  for (const p of pins) sections.add(p.section);
  const active = rules.filter((r) => !r.isOff);
  const ordered = [...active.filter((r) => r.forType), ...active.filter((r) => !r.forType)];
  const rowsOf = new Map<string, number[]>();
  const take = (id: string, row: number) => {
    const list = rowsOf.get(id);
    if (list) list.push(row);
    else rowsOf.set(id, [row]);
  };
  const rowByKey = new Map<number, number>();
  if (pins.length > 0) table.keys.forEach((key, row) => void rowByKey.set(key, row));
  const leftOut = new Map<string, Set<number>>();
  const related = relateWholes(table);
  const covered = new Uint8Array(table.count);
  // Without any section, leave-out rules still speak.
  for (const section of sections.size > 0 ? sections : ['']) {
    const taken = new Uint8Array(table.count);
    const priced = new Uint8Array(table.count);
    for (const pin of pins) {
      const row = pin.section === section ? rowByKey.get(pin.element) : undefined;
      if (row === undefined || taken[row] || table.excluded?.[row]) continue;
      taken[row] = 1;
      if (pin.leaveOut === undefined) {
        if (related(row).some((other) => priced[other])) {
          covered[row] = 1;
          continue;
        }
        priced[row] = 1;
      }
      take(`pin:${pin.id}`, row);
    }
    for (const rule of ordered) {
      if (rule.section !== section && !(rule.leaveOut !== undefined && !rule.section)) continue;
      const mask = evaluateScope(rule.scope, table);
      for (let row = 0; row < table.count; row++) {
        if (!mask[row] || taken[row] || table.excluded?.[row]) continue;
        taken[row] = 1;
        if (rule.leaveOut === undefined) {
          if (related(row).some((other) => priced[other])) {
            covered[row] = 1;
            continue;
          }
          priced[row] = 1;
        }
        if (rule.section) take(rule.id, row);
        else {
          const set = leftOut.get(rule.id) ?? new Set();
          leftOut.set(rule.id, set.add(row));
        }
      }
    }
  }
  for (const [id, rows] of leftOut)
    rowsOf.set(
      id,
      [...rows].sort((a, b) => a - b),
    );
  const mapped: MappedRows[] = [];
  for (const pin of pins) {
    const rows = rowsOf.get(`pin:${pin.id}`);
    if (rows) mapped.push({ decider: 'pin', rule: null, pin, section: pin.section, rows: Int32Array.from(rows) });
  }
  for (const rule of ordered) {
    const rows = rowsOf.get(rule.id);
    if (rows)
      mapped.push({
        decider: rule.forType ? 'type' : 'order',
        rule,
        pin: null,
        section: rule.section ?? null,
        rows: Int32Array.from(rows),
      });
  }
  const caught = new Map(rules.map((r) => [r.id, evaluateScope(r.scope, table).reduce((n, hit) => n + hit, 0)]));
  return { mapped, covered, caught };
}

import {
  type CaughtCounts,
  caughtBy,
  checkShiftedRules,
  type ElementTable,
  type Finding,
  type Plan,
  type PricingRule,
} from '@tally/core';
import type { CountingTable } from './plan-messages.ts';
import { readTableFile } from './table-files.ts';

/** The table of the last revision cannot be read any more. The plan does not stand on it: then there is nothing to compare with. */
class NothingBefore extends Error {}

/** Counts that are remembered at most: a rule that is typed is another at every change. */
const MOST_COUNTS = 5000;

/** Compares how many elements rules catch with the last revision; tables of that are read only while something of them is not counted yet. */
export class RuleShifts {
  private readonly counts = new Map<string, number>();

  /**
   * @param layerText tells apart what the project adds to its elements
   * @param see lays that over a table
   */
  check(
    plan: Plan,
    rules: readonly PricingRule[],
    tables: readonly CountingTable[],
    layerText: string,
    see: (table: ElementTable) => ElementTable,
  ): Finding[] {
    const compared = tables.filter((t) => t.before !== null);
    if (compared.length === 0) return [];
    try {
      return this.compare(plan, rules, compared, layerText, see);
    } catch (error) {
      if (error instanceof NothingBefore) return [];
      throw error;
    }
  }

  private compare(
    plan: Plan,
    rules: readonly PricingRule[],
    compared: readonly CountingTable[],
    layerText: string,
    see: (table: ElementTable) => ElementTable,
  ): Finding[] {
    const now = { caught: new Map<string, number>(), elements: 0 };
    const before = { caught: new Map<string, number>(), elements: 0 };
    const add = (counts: { caught: Map<string, number> }, id: string, n: number) => counts.caught.set(id, (counts.caught.get(id) ?? 0) + n); // biome-ignore format: one line
    for (const { sourceId, before: last } of compared) {
      const part = plan.parts.find((p) => p.sourceId === sourceId);
      if (!part) continue;
      now.elements += part.table.count;
      for (const rule of rules) add(now, rule.id, part.mapping.caught.get(rule.id) ?? 0);
      let table: ElementTable | null = null;
      const open = () => {
        try {
          table ??= see(readTableFile(last!.path));
          return table;
        } catch {
          throw new NothingBefore();
        }
      };
      const read = (name: string, count: (table: ElementTable) => number): number => {
        const key = `${last!.path}\n${layerText}\n${name}`;
        const known = this.counts.get(key) ?? count(open());
        if (this.counts.size >= MOST_COUNTS) this.counts.delete(this.counts.keys().next().value!);
        this.counts.set(key, known);
        return known;
      };
      before.elements += read('', (t) => t.count);
      for (const { id, scope, about } of rules)
        add(before, id, read(JSON.stringify([scope, about]), (t) => caughtBy({ scope, about }, t).reduce((n, hit) => n + hit, 0))); // biome-ignore format: one step
    }
    return checkShiftedRules(rules, now satisfies CaughtCounts, before satisfies CaughtCounts);
  }
}

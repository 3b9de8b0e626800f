import type { ElementTable } from '../elements/element-table.ts';
import type { QuantityChoice } from '../elements/model-element.ts';
import type { Condition } from './condition.ts';
import { evaluateScope } from './evaluate-scope.ts';

/** Which figure of a quantity is used for the elements that a scope catches. */
export interface QuantityOverride {
  readonly quantity: string;
  readonly choice: QuantityChoice;
  readonly scope: Condition;
}

/** A table that uses the figures as told; the first override that catches an element counts for it. */
export function applyQuantityOverrides(table: ElementTable, overrides: readonly QuantityOverride[]): ElementTable {
  if (overrides.length === 0) return table;
  const byName: Record<string, (QuantityChoice | undefined)[]> = {};
  for (const { quantity, choice, scope } of overrides) {
    const name = quantity.toLowerCase();
    byName[name] ??= new Array(table.count).fill(undefined);
    const rows = byName[name];
    evaluateScope(scope, table).forEach((hit, row) => {
      if (hit) rows[row] ??= choice;
    });
  }
  return { ...table, rowChoices: byName };
}

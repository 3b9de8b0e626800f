import type { CostItem } from '../book/cost-item.ts';
import { readText } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { OwnDecision } from '../mapping/pricing-rule.ts';
import { findPropertyColumns } from '../scopes/evaluate-scope.ts';
import { ByCode } from '../units/code-key.ts';
import { parseUnit } from '../units/unit.ts';
import type { PercentBase } from './allowance.ts';
import { LIST_SET } from './list-elements.ts';
import { quantityName } from './read-list.ts';

/** Things that price themselves: what each is priced with while no pin and no rule says otherwise, and the items that are only theirs. */
export interface PricedByThemselves {
  readonly decisions: readonly OwnDecision[];
  readonly items: readonly CostItem[];
  /** Items that are a per cent of other costs, by the code of their item. */
  readonly percents?: ReadonlyMap<string, PercentOf>;
}

/** A per cent of other costs: the code of its allowance and what it is of. */
export interface PercentOf extends PercentBase {
  readonly code: string;
}

/** Work section of lines of lists that price themselves. */
export const LIST_SECTION = { id: 'from-lists', name: 'From lists' } as const;

interface Coded {
  readonly code: string;
  readonly unit: string;
}

/**
 * What the lines of a list are priced with: by their own prices where these count, else by the item or assembly that their code names.
 * A line that has neither is left to rules and pins.
 */
export function priceListed(
  table: ElementTable,
  book: { readonly items: readonly CostItem[]; readonly assemblies: readonly Coded[] },
): PricedByThemselves {
  const items = new ByCode(book.items);
  const assemblies = new ByCode(book.assemblies);
  const read = (name: string) => {
    const values = new Map<number, string>();
    for (const { rows, values: own } of findPropertyColumns(table, `${LIST_SET}.${name}`))
      rows.forEach((row, i) => void values.set(row, String(own[i])));
    return values;
  };
  const [codes, units, prices] = [read('Code'), read('Unit'), read('Price')];
  const decisions: OwnDecision[] = [];
  const own = new Map<string, CostItem>();
  const taken = new Set<string>();
  for (let row = 0; row < table.count; row++) {
    const unit = units.get(row) ?? 'each';
    const [code, price] = [codes.get(row), table.origin?.pricesCount ? prices.get(row) : undefined];
    const parsed = parseUnit(unit);
    const driver = parsed.ok ? quantityName(parsed.value) : null;
    if (driver === null) continue;
    const decide = (withWhat: { item: string } | { assembly: string }) =>
      decisions.push({ element: table.keys[row]!, section: LIST_SECTION.id, driver, ...withWhat });
    if (price !== undefined) {
      const name = readText(table.name, row) ?? '';
      const id = JSON.stringify([code, code === undefined ? name : '', unit, price]);
      const item = own.get(id) ?? makeItem(code ?? name, name, unit, price, items, taken);
      own.set(id, item);
      taken.add(item.code);
      decide({ item: item.code });
    } else if (code !== undefined) {
      const item = items.get(code);
      const assembly = item ? undefined : assemblies.get(code);
      if (item) decide({ item: item.code });
      else if (assembly) decide({ assembly: assembly.code });
    }
  }
  return { decisions, items: [...own.values()] };
}

/** An item of the list's own, under a code that nothing else has. */
function makeItem(
  wanted: string,
  description: string,
  unit: string,
  rate: string,
  items: ByCode<CostItem>,
  taken: ReadonlySet<string>,
): CostItem {
  let code = items.get(wanted) ? `${wanted} (list)` : wanted;
  for (let n = 2; taken.has(code) || items.get(code); n++) code = `${wanted} (list ${n})`;
  return { code, description, kind: 'material', unit, rate, source: 'Price of the list' };
}

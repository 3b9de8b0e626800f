import { type Assembly, type CodeTarget, type Condition, type CostItem, codeKey, type ElementTable, joinQuantities, type KindQuantity, matchCodes, type PricingRule, sortFields, sumQuantities } from '@tally/core'; // biome-ignore format: one module
import { isOfUnit, optionId } from './decide-kind.ts';
import { addRules, newRuleId, type RuleChange, type RuleState } from './rule-changes.ts';

/** A code that elements of the models carry, with what of the book it means. */
export interface CodeRow {
  readonly code: string;
  readonly keys: readonly number[];
  readonly quantities: readonly KindQuantity[];
  readonly targets: readonly CodeTarget[];
  readonly nearest: readonly CodeTarget[];
  /** The rule that prices by this very code; null if none does. */
  readonly rule: PricingRule | null;
}

type Book = { readonly items: readonly CostItem[]; readonly assemblies: readonly Assembly[] };

/** What catches the elements that carry a code. @param property the property that holds the codes; null for the references to classifications */
export const scopeOfCode = (code: string, property: string | null): Condition =>
  property === null
    ? { field: 'code', op: 'is', value: code }
    : { field: 'property', of: property, op: 'is', value: code };

/** The same text for the same scope, in whatever order its fields were kept. */
const nameScope = (scope: Condition): string => JSON.stringify(sortFields(scope));

/** The codes of all models, those of most elements first. */
export function listCodeRows(
  tables: readonly ElementTable[],
  book: Book,
  property: string | null,
  rules: readonly PricingRule[],
): CodeRow[] {
  const byScope = new Map(rules.map((r) => [nameScope(r.scope), r]));
  const rows = new Map<string, CodeRow>();
  for (const table of tables) {
    if (table.origin) continue;
    for (const { code, rows: own, targets, nearest } of matchCodes(table, book, property)) {
      const keys = own.map((row) => table.keys[row]!);
      const quantities = sumQuantities(table, own);
      const before = rows.get(codeKey(code));
      const rule = byScope.get(nameScope(scopeOfCode(code, property))) ?? null;
      rows.set(codeKey(code), before ? { ...before, keys: [...before.keys, ...keys], quantities: joinQuantities(before.quantities, quantities) } : { code, keys, quantities, targets, nearest, rule }); // biome-ignore format: one step
    }
  }
  return [...rows.values()].sort((a, b) => b.keys.length - a.keys.length || (a.code < b.code ? -1 : 1));
}

/** The quantity that all elements of a code have and that drives something of a unit, else the one that most have; null if none does. */
export const driverOf = ({ quantities }: Pick<CodeRow, 'quantities'>, unit: string): string | null =>
  quantities.filter((q) => isOfUnit(q, unit)).sort((a, b) => b.known - a.known)[0]?.name ?? null;

/**
 * Rules for all codes that the book knows and that no rule prices by yet, in one change: after all others, so that what is decided stays as it is; each
 * with the chosen meaning or the first of its meanings. A code without a quantity of the needed unit is passed over, and so is one without open elements.
 * @param chosen `item:CODE` or `assembly:CODE` by the code of the model
 * @param section for what no rule prices with yet
 * @param isOpen whether any element of a code is not wholly priced
 */
export function mapCodes(
  state: RuleState,
  rows: readonly CodeRow[],
  property: string | null,
  chosen: ReadonlyMap<string, string>,
  section: string,
  isOpen: (code: string) => boolean = () => true,
): { readonly rules: readonly PricingRule[]; readonly change: RuleChange | null } {
  const sectionOf = new Map(state.rules.flatMap((r) => (r.section ? [[codeKey(r.item ?? r.assembly ?? ''), r.section] as const] : []))); // biome-ignore format: one step
  const rules = rows.flatMap(({ code, rule, targets, quantities }): PricingRule[] => {
    const target = targets.find((t) => optionId(t) === chosen.get(code)) ?? targets[0];
    const driver = target && driverOf({ quantities }, target.unit);
    if (rule || !target || !driver || !isOpen(code)) return [];
    return [
      {
        id: newRuleId(),
        name: `Code ${code}`,
        scope: scopeOfCode(code, property),
        section: sectionOf.get(codeKey(target.code)) ?? section,
        [target.kind]: target.code,
        driver,
      },
    ];
  });
  if (rules.length === 0) return { rules, change: null };
  return { rules, change: addRules(state, rules, `${rules.length} ${rules.length === 1 ? 'code' : 'codes'} of the designers mapped`) }; // biome-ignore format: one step
}

/** The codes of the book as they go out to the designers, row by row under their headings. */
export function listBookCodes({ items, assemblies }: Book): string[][] {
  const row = (what: string, { code, description, unit, classes }: CostItem | Assembly) => [code, description, unit, what, Object.values(classes ?? {}).join(' ')]; // biome-ignore format: one step
  return [
    ['Code', 'Description', 'Unit', 'Kind', 'Element code'],
    ...assemblies.map((a) => row('Assembly', a)),
    ...items.map((i) => row('Cost item', i)),
  ];
}

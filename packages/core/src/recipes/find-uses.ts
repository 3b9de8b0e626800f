import type { PricingRule } from '../mapping/pricing-rule.ts';
import { codeKey, nameKey } from '../units/code-key.ts';
import { foldText } from '../units/fold-text.ts';
import type { BookContents } from './recipe.ts';

/** A place where something of the book is used. `kind` is that of the entry, `id` its code, name or id. */
export interface Use {
  readonly kind: 'item' | 'assembly' | 'rule' | 'value';
  readonly id: string;
  readonly label: string;
}

/** What uses are looked for in. */
export interface UsesIn extends BookContents {
  readonly rules: readonly PricingRule[];
}

interface Place extends Use {
  readonly formulas: readonly (string | undefined)[];
  readonly items: readonly (string | undefined)[];
}

function listPlaces({ items, assemblies, values = [], rules }: UsesIn): Place[] {
  return [
    ...items.map(
      (i): Place => ({
        kind: 'item',
        id: i.code,
        label: `${i.code} ${i.description}`,
        formulas: [i.rateFormula],
        items: [],
      }),
    ),
    ...assemblies.map(
      (a): Place => ({
        kind: 'assembly',
        id: a.code,
        label: `${a.code} ${a.description}`,
        formulas: [
          ...(a.parameters ?? []).map((p) => p.value),
          ...a.lines.flatMap((l) => [
            l.quantity,
            l.when,
            l.of,
            l.consumption,
            l.piece,
            ...Object.values(l.parameters ?? {}),
          ]),
        ],
        items: a.lines.flatMap((l) => [l.item, l.assembly]),
      }),
    ),
    ...values.map((v): Place => ({ kind: 'value', id: v.name, label: v.name, formulas: [v.value], items: [] })),
    ...rules.map(
      (r): Place => ({
        kind: 'rule',
        id: r.id,
        label: `Rule ${r.name}`,
        formulas: [r.driver, ...Object.values(r.parameters ?? {})],
        items: [r.item, r.assembly],
      }),
    ),
  ];
}

const toUse = ({ kind, id, label }: Place): Use => ({ kind, id, label });

/** Where an item or assembly is used, by its code. */
export function findCodeUses(code: string, contents: UsesIn): Use[] {
  const wanted = codeKey(code);
  return listPlaces(contents)
    .filter((p) => p.items.some((i) => i !== undefined && i !== null && codeKey(i) === wanted))
    .map(toUse);
}

/** Where a named value is used in formulas. Texts in quotation marks do not count. */
export function findValueUses(name: string, contents: UsesIn): Use[] {
  const wanted = nameKey(name);
  const isIn = (text: string | undefined) =>
    (text?.replace(/"[^"]*"/g, '').match(/[\p{L}_][\p{L}\p{M}\p{N}_]*/gu) ?? []).some((w) => nameKey(w) === wanted);
  return listPlaces(contents)
    .filter((p) => p.formulas.some(isIn) && !(p.kind === 'value' && nameKey(p.id) === wanted))
    .map(toUse);
}

/** Where a scale is looked up. */
export function findScaleUses(name: string, contents: UsesIn): Use[] {
  const isIn = (text: string | undefined) =>
    [...(text ?? '').matchAll(/scale\s*\(\s*"([^"]*)"/gi)].some((m) => foldText(m[1]!) === foldText(name));
  return listPlaces(contents)
    .filter((p) => p.formulas.some(isIn))
    .map(toUse);
}

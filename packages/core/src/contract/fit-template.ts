import { applyDiff, diffEntries, type Entry, type EntryDiff } from '../changes/entry-diff.ts';
import { findTooAlike } from '../changes/too-alike.ts';
import { compileRecipe } from '../recipes/compile-recipe.ts';
import { buildBook, listQuantityNames, listRecipeLeaves } from '../recipes/recipe.ts';
import { readContents } from './project-contents.ts';
import type { Template } from './template.ts';

/** Something of a template that would not work in a project as it does where it comes from. */
export interface Misfit {
  readonly kind: 'rule' | 'item' | 'code' | 'currency';
  readonly id: string;
  readonly message: string;
}

/** What taking a template would do to a project. */
export interface TemplateFit {
  readonly name: string;
  /** Entries that come, change and are there already, by kind. */
  readonly counts: Readonly<
    Record<string, { readonly added: number; readonly changed: number; readonly same: number }>
  >;
  /** Codes of items and assemblies that the project has otherwise, and would have as the template says. */
  readonly changed: readonly { readonly kind: string; readonly id: string }[];
  readonly misfits: readonly Misfit[];
}

/** Misfits that are told, at most. */
const MOST_TOLD = 200;

/** What taking a template's entries changes of a project's; what else is there stays. */
export function diffTemplate(present: readonly Entry[], wanted: readonly Entry[]): EntryDiff {
  const names = new Set(wanted.map((e) => `${e.kind}/${e.id}`));
  return diffEntries(
    present.filter((e) => names.has(`${e.kind}/${e.id}`)),
    wanted,
  );
}

/**
 * What of a template fits a project, before anything is taken: what comes, what changes, and what would not work there.
 * @param present the project's entries, those of its book among them
 * @param wanted the entries of the template, with the orders as they would be
 */
export function fitTemplate(
  template: Template,
  present: readonly Entry[],
  wanted: readonly Entry[],
  currency: string,
): TemplateFit {
  const diff = diffTemplate(present, wanted);
  const counts: Record<string, { added: number; changed: number; same: number }> = {};
  const countOf = (kind: string) => (counts[kind] ??= { added: 0, changed: 0, same: 0 });
  for (const e of wanted) if (e.kind !== 'order') countOf(e.kind).same++;
  for (const { kind } of diff.added) if (kind !== 'order') { countOf(kind).added++; countOf(kind).same--; } // biome-ignore format: one step
  for (const { kind } of diff.updated) if (kind !== 'order') { countOf(kind).changed++; countOf(kind).same--; } // biome-ignore format: one step
  const misfits = [
    ...listUnitMisfits(diff),
    ...listCurrencyMisfits(template, present, currency),
    ...listRuleMisfits(template, applyDiff(present, diff), currency),
  ];
  const alike = findTooAlike(present, diff);
  if (alike) misfits.unshift({ kind: 'code', id: alike.added.id, message: `${alike.added.kind} ${alike.added.id} is too much like ${alike.other}, which is there already.` }); // biome-ignore format: one record
  return {
    name: template.name,
    counts,
    changed: diff.updated.filter((u) => u.kind !== 'order').map(({ kind, id }) => ({ kind, id })),
    misfits: misfits.slice(0, MOST_TOLD),
  };
}

/** Items that the project counts in another unit: what it prices with them would be priced otherwise. */
function listUnitMisfits({ updated }: EntryDiff): Misfit[] {
  return updated.flatMap(({ kind, id, from, to }): Misfit[] => {
    const [before, after] = [from, to].map((body) => (body as { unit?: string }).unit);
    return (kind === 'item' || kind === 'assembly') && before !== after
      ? [{ kind: 'item', id, message: `${id} is by the ${before} here, and by the ${after} in the template.` }]
      : [];
  });
}

/** Rates of a currency that the project has no exchange for. */
function listCurrencyMisfits({ items, settings }: Template, present: readonly Entry[], currency: string): Misfit[] {
  const own = readContents(present, currency).settings;
  const known = new Set([own.currency, ...(own.exchange ?? []).map((e) => e.currency)]);
  const counts = new Map<string, number>();
  for (const item of items) {
    const of = item.currency ?? settings.currency;
    if (item.rate !== null && !known.has(of)) counts.set(of, (counts.get(of) ?? 0) + 1);
  }
  return [...counts].map(([of, n]) => ({ kind: 'currency', id: of, message: `${n} ${n === 1 ? 'rate is' : 'rates are'} in ${of}: unknown until the project has an exchange for it.` })); // biome-ignore format: one record
}

/** Rules of the template that could not be worked out in the project. */
function listRuleMisfits({ rules }: Template, after: readonly Entry[], currency: string): Misfit[] {
  const { basis } = readContents(after, currency);
  const book = buildBook(basis);
  const quantities = listQuantityNames();
  const sections = new Set(basis.sections.map((s) => s.id));
  return rules.flatMap((rule): Misfit[] => {
    const say = (message: string): Misfit => ({ kind: 'rule', id: rule.id, message: `${rule.name}: ${message}` });
    const gone = rule.section !== undefined && !sections.has(rule.section) ? [say(`there is no work section ${rule.section}.`)] : []; // biome-ignore format: one step
    if (rule.leaveOut !== undefined) return gone;
    const broken = listRecipeLeaves(compileRecipe(rule, book, quantities)).find((leaf) => leaf.problem !== null);
    return broken ? [...gone, say(broken.problem!.message)] : gone;
  });
}

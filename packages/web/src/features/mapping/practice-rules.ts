import { type Assembly, type CostItem, codeKey, type ElementKind, foldText, type PracticeIndex, type PricingRule, type Suggestion, type WorkSection } from '@tally/core'; // biome-ignore format: one module
import { nameKind, scopeOfKind } from './decide-kind.ts';
import { addRules, newRuleId, type RuleChange, type RuleState } from './rule-changes.ts';

type Book = {
  readonly items: readonly Pick<CostItem, 'code'>[];
  readonly assemblies: readonly Pick<Assembly, 'code'>[];
};

/** What earlier projects priced a kind with, as far as this project's book has it. */
export function suggestForKind(
  kind: Pick<ElementKind, 'ifcClass' | 'typeName' | 'stem'>,
  materials: readonly string[],
  index: PracticeIndex,
  { items, assemblies }: Book,
): Suggestion[] {
  const known = {
    item: new Set(items.map((i) => codeKey(i.code))),
    assembly: new Set(assemblies.map((a) => codeKey(a.code))),
  };
  return index
    .suggest({ ifcClass: kind.ifcClass, type: kind.typeName ?? kind.stem ?? '', materials })
    .filter((s) => known[s.kind].has(codeKey(s.code)));
}

/** The section of this project that is called like that of a suggestion; null if there is none. */
export const sectionOf = ({ section }: Suggestion, sections: readonly WorkSection[]): string | null =>
  sections.find((s) => foldText(s.name) === foldText(section))?.id ?? null;

/**
 * Rules for all open kinds whose very type earlier projects priced, in one change, after all others; in each section what was done for most elements.
 * A suggestion is taken only where this project has its item or assembly and its section.
 */
export function mapByPractice(
  state: RuleState,
  kinds: readonly ElementKind[],
  index: PracticeIndex,
  book: Book,
): { readonly kinds: number; readonly change: RuleChange | null } {
  const rules: PricingRule[] = [];
  const told = new Set<string>();
  for (const kind of kinds) {
    if (kind.counts.unpriced < kind.keys.length) continue;
    const taken = new Set<string>();
    for (const suggestion of suggestForKind(kind, [], index, book)) {
      const section = sectionOf(suggestion, state.sections);
      if (suggestion.by !== 'type' || section === null || taken.has(section)) continue;
      taken.add(section);
      told.add(kind.id);
      rules.push({
        id: newRuleId(),
        name: nameKind(kind),
        scope: scopeOfKind(kind),
        section,
        [suggestion.kind]: suggestion.code,
        driver: suggestion.driver,
      });
    }
  }
  const cause = `${told.size} ${told.size === 1 ? 'kind' : 'kinds'} mapped as in earlier projects`;
  return { kinds: told.size, change: rules.length > 0 ? addRules(state, rules, cause) : null };
}

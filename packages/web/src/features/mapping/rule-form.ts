import { ALSO_FOR, type AlsoFor, type Assembly, type CostItem, conditionSchema, DECIDED_PARTS, type DecidedPart, type FormulaNames, PART_NAMES, type PricingRule } from '@tally/core'; // biome-ignore format: one module
import { z } from 'zod';
import { checkFormula } from '../../ui/formula-field.tsx';

/** How a rule decides: it prices with an assembly or with one item, or leaves out. */
export type RuleKind = 'assembly' | 'item' | 'leaveOut';

/** A pricing rule as it is typed: what it does not price with now is kept beside, for going back to it. */
export interface RuleForm {
  name: string;
  scope: PricingRule['scope'];
  /** Empty for the elements themselves. */
  about: DecidedPart | '';
  also: AlsoFor[];
  kind: RuleKind;
  item: string;
  assembly: string;
  leaveOut: string;
  section: string;
  driver: string;
  parameters: Record<string, string>;
  isOff: boolean;
}

export const fillRuleForm = (rule: PricingRule): RuleForm => ({
  name: rule.name,
  scope: rule.scope,
  about: rule.about ?? '',
  also: [...(rule.also ?? [])],
  kind: rule.leaveOut !== undefined ? 'leaveOut' : rule.item !== undefined ? 'item' : 'assembly',
  item: rule.item ?? '',
  assembly: rule.assembly ?? '',
  leaveOut: rule.leaveOut ?? '',
  section: rule.section ?? '',
  driver: rule.driver ?? '',
  parameters: { ...rule.parameters },
  isOff: rule.isOff ?? false,
});

/** The rule that a form gives. Parameters of another assembly, and those left empty, are not kept. */
export function readRuleForm(form: RuleForm, from: PricingRule, assembly: Assembly | undefined): PricingRule {
  const { name, scope, about, also, kind, section, driver, isOff } = form;
  const own = Object.entries(form.parameters).filter(
    ([n, value]) => value.trim() !== '' && assembly?.parameters?.some((p) => p.name === n),
  );
  return {
    id: from.id,
    name,
    scope,
    ...(section !== '' ? { section } : {}),
    ...(about !== '' ? { about } : also.length > 0 ? { also } : {}),
    ...(from.forType ? { forType: true } : {}),
    ...(from.mayBeIdle ? { mayBeIdle: true } : {}),
    ...(isOff ? { isOff } : {}),
    ...(kind === 'leaveOut'
      ? { leaveOut: form.leaveOut }
      : { [kind]: form[kind], ...(driver.trim() !== '' ? { driver } : {}) }),
    ...(kind === 'assembly' && own.length > 0 ? { parameters: Object.fromEntries(own) } : {}),
  } as PricingRule;
}

/** Names that the driver of a decision may use: with the figures of what it is about. */
export const namesFor = (names: FormulaNames, about: DecidedPart | '' | undefined): FormulaNames =>
  about ? names.with(PART_NAMES[about]) : names;

/** What a rule must be to work: it says with what, the driver gives the unit of that, parameters have their units. */
export function ruleFormSchema({
  items,
  assemblies,
  names,
  checkParameter,
}: {
  readonly items: readonly CostItem[];
  readonly assemblies: readonly Assembly[];
  readonly names: FormulaNames;
  readonly checkParameter: (name: string, value: string) => string | null;
}) {
  return z
    .object({
      name: z.string().refine((name) => name.trim() !== '', 'Give it a name.'),
      scope: z.custom<PricingRule['scope']>((scope) => conditionSchema.safeParse(scope).success),
      about: z.enum(['', ...DECIDED_PARTS]),
      also: z.array(z.enum(ALSO_FOR)),
      kind: z.enum(['assembly', 'item', 'leaveOut']),
      item: z.string(),
      assembly: z.string(),
      leaveOut: z.string(),
      section: z.string(),
      driver: z.string(),
      parameters: z.record(z.string(), z.string()),
      isOff: z.boolean(),
    })
    .superRefine((form, context) => {
      const say = (path: keyof RuleForm, message: string) =>
        context.addIssue({ code: 'custom', path: [path], message });
      if (form.kind === 'leaveOut') {
        if (form.leaveOut.trim() === '') say('leaveOut', 'Say why.');
        return;
      }
      const unit =
        form.kind === 'item'
          ? items.find((i) => i.code === form.item)?.unit
          : assemblies.find((a) => a.code === form.assembly)?.unit;
      if (unit === undefined) say(form.kind, 'Choose what it prices with.');
      if (form.section === '') say('section', 'Choose a work section.');
      const problem = unit === undefined ? null : checkFormula(form.driver, unit, namesFor(names, form.about));
      if (problem !== null) say('driver', problem);
      if (form.kind === 'item') return;
      for (const [name, value] of Object.entries(form.parameters)) {
        const wrong = checkParameter(name, value);
        if (wrong !== null) say('parameters', wrong);
      }
    });
}

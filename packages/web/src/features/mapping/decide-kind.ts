import {
  type Condition,
  type DecidedPart,
  type Dimension,
  type ElementKind,
  fitsDimension,
  type KindQuantity,
  type NamedThing,
  type PricingRule,
  parseUnit,
  sayClass,
} from '@tally/core';
import { newRuleId } from './rule-changes.ts';

/** What a kind is called: its class in words, and its type or what its elements are called. */
export const nameKind = ({ ifcClass, typeName, stem }: Pick<ElementKind, 'ifcClass' | 'typeName' | 'stem'>): string =>
  [sayClass(ifcClass), typeName ?? stem].filter((part) => part !== null && part !== '').join(', ');

/** What catches the elements of a kind, and no others. */
export function scopeOfKind({ ifcClass, typeName, stem, within }: ElementKind): Condition {
  const parts: Condition[] = [{ field: 'class', op: 'is', value: ifcClass }];
  if (typeName !== null) parts.push({ field: 'type', op: 'is', value: typeName });
  else {
    parts.push({ field: 'type', op: 'missing' });
    if (stem !== null) parts.push({ field: 'name', op: 'is', value: `${stem}*` });
  }
  if (within?.values.length === 0) parts.push({ field: within.field, op: 'missing' });
  for (const value of within?.values ?? []) parts.push({ field: within!.field, op: 'is', value });
  return { all: parts };
}

/** Something of the book that a kind can be priced with. */
export interface PricedOption {
  readonly kind: 'item' | 'assembly';
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  /** The kind has a quantity of its unit. */
  readonly isFitting: boolean;
}

const dimensions = new Map<string, Dimension | null>();
function dimensionOf(unit: string): Dimension | null {
  let known = dimensions.get(unit);
  if (known === undefined) {
    const parsed = parseUnit(unit);
    known = parsed.ok ? parsed.value.dimension : null;
    dimensions.set(unit, known);
  }
  return known;
}

/** Whether a quantity can drive something of a unit. */
export function isOfUnit(quantity: Pick<KindQuantity, 'unit'>, unit: string): boolean {
  const [given, needed] = [dimensionOf(quantity.unit === 'number' ? 'each' : quantity.unit), dimensionOf(unit)];
  return given !== null && needed !== null && fitsDimension(given, needed);
}

/** Quantities of a kind that can drive something of a unit, those that most elements have first. */
export const listDrivers = ({ quantities }: Pick<ElementKind, 'quantities'>, unit: string): KindQuantity[] =>
  quantities.filter((q) => isOfUnit(q, unit)).sort((a, b) => b.known - a.known);

/** Assemblies and items of the book, those whose unit the kind has a quantity of before the others. */
export function listOptions(
  kind: Pick<ElementKind, 'quantities'>,
  assemblies: readonly NamedThing[],
  items: readonly NamedThing[],
): PricedOption[] {
  const units = new Map<string, boolean>();
  const isFitting = (unit: string) => {
    const known = units.get(unit) ?? listDrivers(kind, unit).length > 0;
    units.set(unit, known);
    return known;
  };
  const offer = (kind: PricedOption['kind'], things: readonly NamedThing[]) =>
    things.map(
      ({ code, description, unit }): PricedOption => ({ kind, code, description, unit, isFitting: isFitting(unit) }),
    );
  const options = [...offer('assembly', assemblies), ...offer('item', items)];
  return [...options.filter((o) => o.isFitting), ...options.filter((o) => !o.isFitting)];
}

/** A decision for a kind as it is made on the desk. */
export interface KindForm {
  scope: Condition;
  /** What of its elements it is about; empty for the elements themselves. */
  about: DecidedPart | '';
  /** `item:CODE` or `assembly:CODE`; empty until something is chosen. */
  pricedWith: string;
  section: string;
  driver: string;
  /** Parameters of the assembly that are not as usual. */
  parameters: Record<string, string>;
  /** Why it is left out; empty where it is priced. */
  leaveOut: string;
}

export const optionId = ({ kind, code }: Pick<PricedOption, 'kind' | 'code'>): string => `${kind}:${code}`;

/**
 * The rule that a decision for a kind makes; null while something of it is missing.
 * @param part what of the kind it is about, in words
 */
export function makeRule(kind: ElementKind, form: KindForm, id = newRuleId(), part = ''): PricingRule | null {
  const { about, scope } = form;
  const base = {
    id,
    name: [nameKind(kind), part].filter((p) => p !== '').join(': '),
    scope,
    ...(about ? { about } : {}),
  };
  if (form.leaveOut.trim() !== '')
    return { ...base, leaveOut: form.leaveOut.trim(), ...(form.section ? { section: form.section } : {}) };
  const [what, ...code] = form.pricedWith.split(':');
  if (form.pricedWith === '' || form.section === '' || form.driver.trim() === '') return null;
  const set = Object.entries(form.parameters).filter(([, value]) => value.trim() !== '');
  return {
    ...base,
    section: form.section,
    driver: form.driver,
    [what as 'item' | 'assembly']: code.join(':'),
    ...(what === 'assembly' && set.length > 0 ? { parameters: Object.fromEntries(set) } : {}),
  };
}

/** The decision that a rule is, for another kind: the same on its own elements. */
export const fillFromRule = (rule: PricingRule): Partial<KindForm> => ({
  pricedWith: rule.assembly !== undefined ? `assembly:${rule.assembly}` : rule.item !== undefined ? `item:${rule.item}` : '',
  section: rule.section ?? '',
  driver: rule.driver ?? '',
  parameters: { ...rule.parameters },
  leaveOut: rule.leaveOut ?? '',
}); // biome-ignore format: one form

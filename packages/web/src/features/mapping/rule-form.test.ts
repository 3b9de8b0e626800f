import { type Assembly, type CostItem, listQuantityNames, type PricingRule } from '@tally/core';
import fc from 'fast-check';
import { fillRuleForm, readRuleForm, ruleFormSchema } from './rule-form.ts';

const SHELF: Assembly = {
  code: 'A-SHELF',
  description: 'Shelf',
  unit: 'm',
  parameters: [{ name: 'Boards', value: '3', unit: 'number' }],
  lines: [],
};
const LOCK: CostItem = { code: 'M-LOCK', description: 'Locker', kind: 'material', unit: 'each', rate: '128.00' };
const RULE: PricingRule = { id: 'r', name: 'Shelves', scope: { field: 'class', op: 'is', value: 'IfcFurniture' }, section: 'fit', assembly: 'A-SHELF', driver: 'Length' }; // biome-ignore format: one rule

const check = (change: Partial<ReturnType<typeof fillRuleForm>>, checkParameter = () => null as string | null) => {
  const schema = ruleFormSchema({ items: [LOCK], assemblies: [SHELF], names: listQuantityNames(), checkParameter });
  const read = schema.safeParse({ ...fillRuleForm(RULE), ...change });
  return read.success ? {} : Object.fromEntries(read.error.issues.map((i) => [i.path[0], i.message]));
};

describe('a rule as it is typed', () => {
  it('comes back as it was, whatever it says', () => {
    const optional = <T>(of: fc.Arbitrary<T>) => fc.option(of, { nil: undefined });
    const rules = fc
      .record({
        about: optional(fc.constantFrom('layer' as const, 'face' as const)),
        isOff: optional(fc.constant(true)),
        forType: optional(fc.constant(true)),
        mayBeIdle: optional(fc.constant(true)),
        driver: optional(fc.constantFrom('Length', 'Count * 2')),
        parameters: optional(fc.constant({ Boards: '4' })),
        by: fc.constantFrom('item', 'assembly', 'leaveOut'),
      })
      .map(({ by, about, isOff, forType, mayBeIdle, driver, parameters }): PricingRule => ({
        id: 'r', name: 'Some', scope: RULE.scope, section: 'fit',
        ...(about ? { about } : {}), ...(isOff ? { isOff } : {}), ...(forType ? { forType } : {}), ...(mayBeIdle ? { mayBeIdle } : {}),
        ...(by === 'leaveOut' ? { leaveOut: 'By the client' } : by === 'item' ? { item: 'M-LOCK' } : { assembly: 'A-SHELF' }),
        ...(by !== 'leaveOut' && driver ? { driver } : {}), ...(by === 'assembly' && parameters ? { parameters } : {}),
      })); // biome-ignore format: one rule
    fc.assert(
      fc.property(rules, (rule) => expect(readRuleForm(fillRuleForm(rule), rule, SHELF)).toEqual(rule)),
      { numRuns: 200 },
    );
  });
  it('keeps of parameters only those of its assembly that say something', () => {
    const form = { ...fillRuleForm(RULE), parameters: { Boards: ' ', Other: '5' } };
    expect(readRuleForm(form, RULE, SHELF).parameters).toBeUndefined();
    expect(readRuleForm({ ...form, parameters: { Boards: '4' } }, RULE, SHELF).parameters).toEqual({ Boards: '4' });
  });
  it('that prices an element with an item forgets the assembly, not the other way round', () => {
    const form = { ...fillRuleForm(RULE), kind: 'item' as const, item: 'M-LOCK' };
    const made = readRuleForm(form, RULE, undefined);
    expect([made.item, made.assembly]).toEqual(['M-LOCK', undefined]);
    expect(form.assembly).toBe('A-SHELF');
  });
  it('is refused by the field that is wrong, with the reason', () => {
    expect(check({})).toEqual({});
    expect(check({ name: ' ' })).toEqual({ name: 'Give it a name.' });
    expect(check({ section: '' })).toEqual({ section: 'Choose a work section.' });
    expect(check({ assembly: 'GONE' })).toEqual({ assembly: 'Choose what it prices with.' });
    expect(check({ kind: 'leaveOut', leaveOut: '  ' })).toEqual({ leaveOut: 'Say why.' });
    // Shelves are priced by the metre.
    expect(check({ driver: 'NetVolume' }).driver).toMatch(/m3|m³/);
    expect(check({ driver: 'Lenght' }).driver).toMatch(/Lenght/);
    expect(check({ parameters: { Boards: 'x' } }, () => 'No such name.')).toEqual({ parameters: 'No such name.' });
  });
});

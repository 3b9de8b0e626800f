import { conditionSchema } from '../contract/template.ts';
import type { Condition } from './condition.ts';
import { findExcess, MOST_CONDITIONS, MOST_NESTED } from './scope-size.ts';

const test = { field: 'name', op: 'contains', value: '*a*' } as const;
const nest = (times: number): Condition => {
  let scope: Condition = test;
  for (let n = 0; n < times; n++) scope = { not: scope };
  return scope;
};
const wide = (count: number): Condition => ({ any: Array.from({ length: count }, () => test) });

describe('a scope that came from outside', () => {
  it('is taken up to its bounds', () => {
    expect(findExcess(nest(MOST_NESTED - 1))).toBeNull();
    expect(findExcess(wide(MOST_CONDITIONS - 1))).toBeNull();
    expect(conditionSchema.safeParse(wide(1000)).success).toBe(true);
  });
  it.each([
    ['nested', nest(20_000), /nested more than 20/],
    ['wide', wide(10_000), /more than 2000 conditions/],
  ])('%s beyond them is refused with the reason, whatever its size', (_, scope, reason) => {
    expect(findExcess(scope)).toMatch(reason);
    const read = conditionSchema.safeParse(scope);
    expect(read.error!.issues.map((i) => i.message).join()).toMatch(reason);
  });
  it('that is no scope at all is left to what reads it', () => {
    expect([null, 4, 'x', [], { all: 3 }].map(findExcess)).toEqual([null, null, null, null, null]);
    expect(conditionSchema.safeParse({ all: 3 }).success).toBe(false);
  });
});

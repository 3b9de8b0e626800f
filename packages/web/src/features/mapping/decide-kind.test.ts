import { buildElementTable, type ElementKind, evaluateScope, listElementKinds } from '@tally/core';
import { sampleElement } from '../../testing/sample-table.ts';
import { fillFromRule, isOfUnit, listDrivers, listOptions, makeRule, nameKind, scopeOfKind } from './decide-kind.ts';

const wall = (globalId: string, name: string, typeName: string | null) =>
  sampleElement(globalId, name, 'IfcWall', 'Ground floor', {
    typeName,
    quantities: [{ name: 'NetSideArea', basis: 'measured', unit: 'm2', value: 12, method: 'swept' }],
  });
const table = buildElementTable(
  [wall('a', 'Gable 1', null), wall('b', 'Gable 2', null), wall('c', 'North', 'Outer 300'), wall('d', 'Gabled porch', null)],
  Int32Array.of(1, 2, 3, 4),
); // biome-ignore format: one table
const kinds = listElementKinds([table], () => undefined);
const kindOf = (name: string): ElementKind => kinds.find((k) => nameKind(k) === name)!;
const caughtBy = (kind: ElementKind) =>
  [...table.keys].filter((_, row) => evaluateScope(scopeOfKind(kind), table)[row]);
const FORM = {
  scope: scopeOfKind(kindOf('Wall, Gable')),
  about: '' as const,
  pricedWith: '',
  section: 's',
  driver: 'NetSideArea',
  parameters: {},
  leaveOut: '',
};

describe('the scope of a kind', () => {
  it('catches the elements of a type', () => expect(caughtBy(kindOf('Wall, Outer 300'))).toEqual([3]));
  it('catches those without a type that are called alike; what it catches beside them is seen on the desk', () =>
    expect(caughtBy(kindOf('Wall, Gable'))).toEqual([1, 2, 4]));
});

describe('what a kind can be priced with', () => {
  const item = (code: string, unit: string) => ({
    code,
    description: code,
    kind: 'material' as const,
    unit,
    rate: '1.00',
  });
  const assembly = (code: string, unit: string) => ({ code, description: code, unit, lines: [] });
  it('has what is of a unit that it has a quantity of first, assemblies before items', () =>
    expect(
      listOptions(kindOf('Wall, Gable'), [assembly('A-M3', 'm3'), assembly('A-M2', 'm2')], [item('M2', 'm2'), item('KG', 'kg'), item('EA', 'each')]).map((o) => [o.code, o.isFitting]),
    ).toEqual([['A-M2', true], ['M2', true], ['EA', true], ['A-M3', false], ['KG', false]])); // biome-ignore format: one list
  it('is driven by its quantities of that unit', () =>
    expect([listDrivers(kindOf('Wall, Gable'), 'm2'), listDrivers(kindOf('Wall, Gable'), 'each')].map((l) => l.map((q) => [q.name, q.value, q.known]))).toEqual([[['NetSideArea', 24, 2]], [['Count', 2, 2]]])); // biome-ignore format: one line
  it.each([
    ['m2', 'm2', true],
    ['m2', 'ft2', true],
    ['m3', 'm2', false],
    ['each', 'bag', false],
    ['kg', 't', true],
  ])('%s drives %s: %s', (unit, of, fits) => expect(isOfUnit({ unit }, of)).toBe(fits));
});

describe('a decision', () => {
  const kind = kindOf('Wall, Gable');
  it('is a rule when all of it is said', () =>
    expect(makeRule(kind, { ...FORM, pricedWith: 'assembly:A-1:b' })).toMatchObject({
      name: 'Wall, Gable',
      section: 's',
      assembly: 'A-1:b',
      driver: 'NetSideArea',
      scope: FORM.scope,
    }));
  it.each([{ pricedWith: '' }, { section: '' }, { driver: ' ' }])('is none yet with %j', (part) =>
    expect(makeRule(kind, { ...FORM, pricedWith: 'item:X', ...part })).toBeNull(),
  );
  it('leaves out with a reason, whatever else is said', () => {
    const rule = makeRule(kind, { ...FORM, pricedWith: 'item:X', leaveOut: ' By others ' });
    expect([rule?.leaveOut, rule?.item, rule?.driver]).toEqual(['By others', undefined, undefined]);
  });
  it('is used again for another kind', () => {
    const rule = makeRule(kind, { ...FORM, pricedWith: 'item:X' })!;
    expect(makeRule(kindOf('Wall, Outer 300'), { ...FORM, ...fillFromRule(rule), scope: scopeOfKind(kindOf('Wall, Outer 300')) })).toMatchObject({ item: 'X', driver: 'NetSideArea', name: 'Wall, Outer 300' }); // biome-ignore format: one line
  });
});

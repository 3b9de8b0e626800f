import fc from 'fast-check';
import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { explainDecisions } from './explain-decisions.ts';
import { mapElements } from './map-elements.ts';
import type { Pin, PricingRule } from './pricing-rule.ts';

const table = {
  ...buildElementTable([
    sampleElement({ globalId: 'stair', ifcClass: 'IfcStair' }),
    sampleElement({ globalId: 'flight', ifcClass: 'IfcStairFlight', parent: 'stair' }),
    sampleElement({ globalId: 'wall', ifcClass: 'IfcWall', typeName: 'Outer' }),
    sampleElement({ globalId: 'slab', ifcClass: 'IfcSlab' }),
  ]),
  keys: Int32Array.of(1, 2, 3, 4),
};
const rule = (id: string, ifcClass: string, more: Partial<PricingRule> = {}): PricingRule => ({
  id,
  name: `Rule ${id}`,
  scope: { field: 'class', op: 'is', value: ifcClass },
  section: 'structure',
  item: 'X',
  driver: 'Count',
  ...more,
});
const explain = (row: number, rules: PricingRule[], pins: Pin[] = [], of = table) =>
  explainDecisions(of, row, rules, pins, mapElements(of, rules, pins));

describe('what decides about an element', () => {
  const rules = [
    rule('a', 'IfcWall'),
    rule('b', 'IfcWall'),
    rule('off', 'IfcWall', { isOff: true }),
    rule('t', 'IfcWall', { forType: true }),
    rule('paint', 'IfcWall', { section: 'painting' }),
  ];
  it('is the rule for its type before the order of rules; the others say why they lost', () => {
    const [structure, painting] = explain(2, rules);
    expect([structure!.winner?.id, structure!.winner?.rank, painting!.winner?.id]).toEqual(['t', 2, 'paint']);
    expect(structure!.others.map((o) => [o.id, o.rank, o.lost])).toEqual([
      ['a', 3, 'It is decided for the type.'],
      ['b', 3, 'It is decided for the type.'],
    ]);
  });
  it('is a pin before all; of two rules the first', () => {
    const pin: Pin = { id: 'p', element: 3, section: 'structure', item: 'Y', driver: 'Count' };
    expect(explain(2, rules, [pin])[0]!.winner).toMatchObject({ id: 'p', kind: 'pin', rank: 1 });
    expect(explain(2, [rules[0]!, rules[1]!])[0]!.others).toMatchObject([{ id: 'b', lost: 'Rule a comes before it.' }]);
  });
  it('is nothing where nothing catches it, and it says so', () =>
    expect(explain(3, rules).map((s) => [s.section, s.winner, s.whyNot?.code])).toEqual([
      ['structure', null, 'nothing-catches'],
      ['painting', null, 'nothing-catches'],
    ]));
  it('leaves out with its reason, in every section where it names none', () => {
    const [only] = explain(3, [rule('o', 'IfcSlab', { section: undefined, item: undefined, leaveOut: 'By others' })]);
    expect([only!.winner?.id, only!.whyNot]).toEqual(['o', { code: 'left-out', reason: 'By others' }]);
  });
  it('is covered where its whole is priced, and by which elements', () => {
    const [section] = explain(1, [rule('whole', 'IfcStair'), rule('flights', 'IfcStairFlight')]);
    expect(section).toMatchObject({ winner: null, whyNot: { code: 'covered', rows: [0] } });
    expect(section!.others).toMatchObject([{ id: 'flights', lost: 'It is priced with its whole, or by its parts.' }]);
  });
  it('is nothing for what the project leaves out', () => {
    const without = { ...table, excluded: Uint8Array.of(0, 0, 1, 0) };
    expect(explain(2, rules, [], without)[0]).toMatchObject({ winner: null, whyNot: { code: 'excluded' } });
  });
  it('is what the mapping gives, over random rules and pins', () => {
    const classes = fc.constantFrom('IfcStair', 'IfcStairFlight', 'IfcWall', 'IfcSlab');
    const someRules = fc.array(fc.record({ of: classes, section: fc.constantFrom('structure', 'painting'), forType: fc.boolean(), isOff: fc.boolean(), out: fc.boolean() }), { maxLength: 8 }); // biome-ignore format: one record
    const somePins = fc.array(fc.record({ element: fc.integer({ min: 1, max: 4 }), section: fc.constantFrom('structure', 'painting') }), { maxLength: 3 }); // biome-ignore format: one record
    fc.assert(
      fc.property(someRules, somePins, (made, pinned) => {
        const all = made.map(({ of, out, ...more }, i) =>
          rule(`r${i}`, of, { ...more, ...(out ? { item: undefined, leaveOut: 'no' } : {}) }),
        );
        const pins = pinned.map((p, i): Pin => ({ id: `p${i}`, item: `P${i}`, driver: 'Count', ...p }));
        const mapping = mapElements(table, all, pins);
        for (let row = 0; row < table.count; row++)
          for (const { section, winner } of explainDecisions(table, row, all, pins, mapping)) {
            const mapped = mapping.mapped.find((m) => m.section === section && m.rows.includes(row));
            const id = mapped?.decider === 'pin' ? (mapped.decision as Pin).id : mapped?.id;
            expect(winner?.id).toBe(id);
          }
      }),
      { seed: 11, numRuns: 300 },
    );
  });
});

import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { mapElements } from './map-elements.ts';
import type { Pin, PricingRule } from './pricing-rule.ts';

const table = {
  ...buildElementTable([
    sampleElement({ globalId: 'stair', ifcClass: 'IfcStair' }),
    sampleElement({ globalId: 'flight', ifcClass: 'IfcStairFlight', parent: 'stair' }),
    sampleElement({ globalId: 'step', ifcClass: 'IfcMember', parent: 'flight' }),
    sampleElement({ globalId: 'wall', ifcClass: 'IfcWall' }),
  ]),
  keys: Int32Array.of(1, 2, 3, 4),
};
const rule = (id: string, ifcClass: string, more: Partial<PricingRule> = {}): PricingRule => ({
  id,
  name: id,
  scope: { field: 'class', op: 'is', value: ifcClass },
  section: 'structure',
  item: 'X',
  driver: 'Count',
  ...more,
});
const rowsOf = (rules: PricingRule[], pins: Parameters<typeof mapElements>[2] = []) => {
  const mapping = mapElements(table, rules, pins);
  return {
    rows: Object.fromEntries(mapping.mapped.map((m) => [m.rule?.id ?? (m.decision as Pin).id, [...m.rows]])),
    covered: [...mapping.covered],
  };
};

describe('whole and parts are never both priced in one section', () => {
  it('the first rule stands, its parts are covered at any depth', () =>
    expect(rowsOf([rule('whole', 'IfcStair'), rule('flights', 'IfcStairFlight'), rule('steps', 'IfcMember')])).toEqual({
      rows: { whole: [0] },
      covered: [0, 1, 1, 0],
    }));
  it('parts that come first cover the whole', () =>
    expect(rowsOf([rule('flights', 'IfcStairFlight'), rule('whole', 'IfcStair')])).toEqual({
      rows: { flights: [1] },
      covered: [1, 0, 0, 0],
    }));
  it('another section prices them for itself', () =>
    expect(rowsOf([rule('whole', 'IfcStair'), rule('paint', 'IfcStairFlight', { section: 'painting' })]).rows).toEqual({
      whole: [0],
      paint: [1],
    }));
  it('a pin on a part beats the rule for the whole', () =>
    expect(
      rowsOf([rule('whole', 'IfcStair')], [{ id: 'p', element: 2, section: 'structure', item: 'Y', driver: 'Count' }]),
    ).toEqual({ rows: { p: [1] }, covered: [1, 0, 0, 0] }));
  it('of pins on both the first stands, the other is covered by it', () =>
    expect(
      rowsOf(
        [],
        [
          { id: 'w', element: 1, section: 'structure', item: 'X', driver: 'Count' },
          { id: 'p', element: 3, section: 'structure', item: 'Y', driver: 'Count' },
        ],
      ),
    ).toEqual({ rows: { w: [0] }, covered: [0, 0, 1, 0] }));
  it('a pin does not price what is left out', () => {
    const without = { ...table, excluded: Uint8Array.of(0, 0, 0, 1) };
    const pin = { id: 'p', element: 4, section: 'structure', item: 'X', driver: 'Count' };
    expect(mapElements(without, [], [pin]).mapped).toEqual([]);
  });
  it('what is left out covers nothing', () =>
    expect(
      rowsOf([rule('out', 'IfcStair', { item: undefined, leaveOut: 'by others' }), rule('flights', 'IfcStairFlight')])
        .covered,
    ).toEqual([0, 0, 0, 0]));
  it('a leave-out rule without a section speaks even where there is no section', () =>
    expect(rowsOf([rule('out', 'IfcWall', { section: undefined, item: undefined, leaveOut: 'later' })]).rows).toEqual({
      out: [3],
    }));
});

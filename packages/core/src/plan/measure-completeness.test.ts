import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { measureCompleteness, sharePriced } from './measure-completeness.ts';
import type { CompletenessState } from './plan.ts';

const table = buildElementTable(
  [
    sampleElement({ globalId: 'a', storey: 'Upper', quantities: { NetVolume: 2, NetSideArea: 10 } }),
    sampleElement({ globalId: 'b', storey: 'Ground', quantities: { GrossVolume: 3, NetVolume: 1, NetSideArea: 5 } }),
    sampleElement({ globalId: 'c', storey: 'Ground', ifcClass: 'IfcDoor', quantities: { Count: 1 } }),
    sampleElement({ globalId: 'd', storey: null, ifcClass: 'IfcBeam', quantities: { GrossVolume: 4 } }),
  ],
  Int32Array.of(1, 2, 3, 4),
);
const states: Record<number, CompletenessState> = { 1: 'priced', 2: 'unpriced', 3: 'leftOut' };
const stateOf = (key: number) => (states[key] ? { state: states[key]!, amount: 0 } : undefined);
const NONE = { priced: 0, partly: 0, unpriced: 0, leftOut: 0 };

describe('how complete a plan is', () => {
  it('by class, in elements, volume and side area; what the plan does not know is unpriced', () =>
    expect(measureCompleteness([table], stateOf, 'class')).toEqual([
      { group: 'IfcBeam', counts: { ...NONE, unpriced: 1 }, volumes: { ...NONE, unpriced: 4 }, sideAreas: NONE },
      { group: 'IfcDoor', counts: { ...NONE, leftOut: 1 }, volumes: NONE, sideAreas: NONE },
      {
        group: 'IfcWall',
        counts: { ...NONE, priced: 1, unpriced: 1 },
        volumes: { ...NONE, priced: 2, unpriced: 1 },
        sideAreas: { ...NONE, priced: 10, unpriced: 5 },
      },
    ]));
  it('classes of one name are one group', () =>
    expect(
      measureCompleteness([table], stateOf, 'class', () => 'Thing').map((r) => [r.group, r.volumes.unpriced]),
    ).toEqual([['Thing', 5]]));
  it('by storey, those without one last', () =>
    expect(measureCompleteness([table], stateOf, 'storey').map((r) => [r.group, r.counts.unpriced])).toEqual([
      ['Ground', 1],
      ['Upper', 0],
      [null, 1],
    ]));
  it('its share leaves out what is left out, and is none of nothing', () => {
    expect(sharePriced({ ...NONE, priced: 3, partly: 1, leftOut: 9 })).toBe(0.75);
    expect(sharePriced({ ...NONE, leftOut: 9 })).toBeNull();
  });
  it('of lists and allowances says nothing', () =>
    expect(measureCompleteness([{ ...table, origin: { kind: 'list' } }], stateOf, 'class')).toEqual([]));
});

import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { planToTable } from '../reports/plan-table.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { groupPlan } from './group-plan.ts';
import { findShortfall, nameTotal } from './shortfall.ts';

const table = buildElementTable(
  [
    sampleElement({ globalId: 'w1', quantities: { NetSideArea: 10 } }),
    sampleElement({ globalId: 'w2', quantities: { NetSideArea: 4 } }),
    // Its area could not be measured.
    sampleElement({ globalId: 'w3' }),
    sampleElement({ globalId: 'd', ifcClass: 'IfcDoor' }),
    sampleElement({ globalId: 'c', ifcClass: 'IfcColumn' }),
  ],
  Int32Array.of(1, 2, 3, 4, 5),
);
const basis = sampleBasis(
  [sampleItem('X', 'm2', '2.00'), sampleItem('Y', 'm2', null)],
  [{ item: 'X', quantity: 'Driver' }],
);
const wallsOnly = { field: 'class', op: 'is', value: 'IfcWall' } as const;
const plan = (b: PricingBasis) => runPipeline(b, [{ sourceId: 'm', table }]);
const priced = { ...basis, rules: [{ ...basis.rules[0]!, scope: wallsOnly }] };

describe('a total says what it is of', () => {
  it('counts what is not priced, by kind; what is left out is not missing', () => {
    const out = {
      id: 'o',
      name: 'Out',
      scope: { field: 'class', op: 'is', value: 'IfcColumn' } as const,
      leaveOut: 'later',
    };
    const made = plan({ ...priced, rules: [...priced.rules, out] });
    // 14 m2 at 2.00; a wall and the door are open, the column is left out.
    expect(made.total).toBe(28e6);
    expect(findShortfall(made)).toEqual({
      open: 2,
      of: 4,
      kinds: [
        { ifcClass: 'IfcWall', count: 1 },
        { ifcClass: 'IfcDoor', count: 1 },
      ],
      unknown: 1,
      isTooLarge: false,
    });
    const { rows } = planToTable(groupPlan(made, ['section'], basis), ['Section'], 2);
    expect(rows.at(-1)![0]).toBe('Total so far: 2 of 4 elements are not fully priced (1 Wall, 1 Door)');
  });
  it('counts elements that are priced in part', () => {
    const half = {
      ...priced,
      assemblies: [
        {
          ...basis.assemblies[0]!,
          lines: [
            { item: 'X', quantity: 'Driver' },
            { item: 'Y', quantity: 'Driver' },
          ],
        },
      ],
    };
    expect(findShortfall(plan(half))).toMatchObject({ open: 5, of: 5, unknown: 4 });
  });
  it('says that it is not exact where many amounts come to more than is counted: 10 x 9e8 x 1.5', () => {
    const many = buildElementTable(
      Array.from({ length: 10 }, (_, i) => sampleElement({ globalId: `m${i}`, quantities: { NetSideArea: 9e8 } })),
      Int32Array.from({ length: 10 }, (_, i) => i + 1),
    );
    const dear = { ...priced, items: [sampleItem('X', 'm2', '1.50')] };
    const made = runPipeline(dear, [{ sourceId: 'm', table: many }]);
    expect(made.unknownLines).toBe(0);
    expect(groupPlan(made, [], basis).label).toMatch(/^Total not exact/);
  });
  it('is a total and no more where nothing is missing', () => {
    const few = buildElementTable(
      [sampleElement({ globalId: 'w', quantities: { NetSideArea: 10 } })],
      Int32Array.of(1),
    );
    const made = runPipeline(priced, [{ sourceId: 'm', table: few }]);
    expect(nameTotal(findShortfall(made))).toBe('Total');
    expect(groupPlan(made, [], basis).label).toBe('Total');
  });
});

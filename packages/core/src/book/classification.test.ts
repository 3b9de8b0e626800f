import { buildElementTable } from '../elements/element-table.ts';
import { runPipeline } from '../pipeline.ts';
import { groupPlan, listGroupElements } from '../plan/group-plan.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import {
  chooseClassification,
  findClass,
  findClassification,
  listClassPath,
  readClassCode,
  readClasses,
} from './classification.ts';
import type { Classification } from './cost-class.ts';
import { UNIFORMAT } from './uniformat.ts';

const OWN: Classification = {
  name: 'Yard codes',
  classes: [
    { code: '21', title: 'Walls' },
    { code: '21.10', title: 'Outer walls' },
    { code: '21.1', title: 'All outer' },
    { code: '3', title: 'Finishes' },
  ],
};

describe('UNIFORMAT II', () => {
  it('comes whole: 7 major groups, every class below another but those', () => {
    const { classes } = UNIFORMAT;
    expect(classes.filter((c) => c.code.length === 1).map((c) => c.code)).toEqual([...'ABCDEFG']);
    expect(new Set(classes.map((c) => c.code)).size).toBe(classes.length);
    for (const { code } of classes)
      expect(listClassPath(UNIFORMAT, code)).toHaveLength({ 1: 1, 3: 2, 5: 3 }[code.length]!);
    expect(classes.every((c) => c.title !== '')).toBe(true);
  });
  it('knows a class in any case, with those above it', () =>
    expect(listClassPath(UNIFORMAT, findClass(UNIFORMAT, 'b2010')!.code).map((c) => c.title)).toEqual([
      'Shell',
      'Exterior enclosure',
      'Exterior walls',
    ]));
});

describe('classifications', () => {
  it('are found by name; the one in use is UNIFORMAT II while none is chosen', () => {
    expect(findClassification('yard CODES', [OWN])).toBe(OWN);
    expect(findClassification('none', [OWN])).toBeNull();
    expect(chooseClassification(undefined, [OWN])).toBe(UNIFORMAT);
    expect(chooseClassification('Yard codes', [OWN])).toBe(OWN);
  });
  it('order codes by how they begin, signs between parts aside', () => {
    expect(listClassPath(OWN, '21.10').map((c) => c.code)).toEqual(['21', '21.1', '21.10']);
    expect(listClassPath(OWN, '99')).toEqual([{ code: '99', title: '' }]);
  });
  it('give items a code each', () =>
    expect(readClassCode({ 'yard codes': '21' }, OWN) ?? readClassCode({ Other: '1' }, OWN)).toBe('21'));
});

describe('reading a classification from a list', () => {
  it('finds columns by their headings, else takes the first two, and tells what it leaves', () => {
    const read = readClasses([
      ['Level', 'Title', 'Code'],
      [1, 'Walls', '21'],
      [null, null, null],
      [2, 'Outer walls', 21.1],
      [2, 'Again', '21'],
      [2, 'No code', ''],
    ]);
    expect(read).toMatchObject({
      ok: true,
      value: {
        classes: [
          { code: '21', title: 'Walls' },
          { code: '21.1', title: 'Outer walls' },
        ],
        skipped: [
          { row: 5, reason: 'The code stands in row 2 already.' },
          { row: 6, reason: 'It has no code.' },
        ],
      },
    });
    expect(readClasses([['A', 'Ground']])).toMatchObject({ value: { classes: [{ code: 'A', title: 'Ground' }] } });
  });
  it('refuses an empty one', () =>
    expect(readClasses([['Code', 'Title']])).toMatchObject({ problem: { code: 'classification-empty' } }));
});

describe('a plan by class', () => {
  const items = [
    sampleItem('BRICK', 'm2', '2.00'),
    sampleItem('PAINT', 'm2', '3.00', { classes: { 'UNIFORMAT II': 'C3010', 'Yard codes': '3' } }),
    sampleItem('CRANE', 'm2', '5.00'),
  ];
  const lines = [
    { item: 'BRICK', quantity: 'Driver' },
    { item: 'PAINT', quantity: 'Driver' },
    { assembly: 'LIFT', quantity: 'Driver' },
  ];
  const base = sampleBasis(items, lines);
  const basis = {
    ...base,
    assemblies: [
      { ...base.assemblies[0]!, classes: { 'UNIFORMAT II': 'B2010' } },
      { code: 'LIFT', description: '', unit: 'm2', lines: [{ item: 'CRANE', quantity: 'Driver' }] },
    ],
  };
  const table = buildElementTable(
    [sampleElement({ globalId: 'w', quantities: { NetSideArea: 10 } })],
    Int32Array.of(1),
  );
  const plan = runPipeline(basis, [{ sourceId: 'm', table }]);
  const amounts = (by: Parameters<typeof groupPlan>[1], names = basis) =>
    groupPlan(plan, by, names).groups.map((g) => [g.label, g.minor]);
  it('takes the class of the item, else that of the assembly around it', () => {
    expect(amounts(['itemClass3'])).toEqual([
      ['B2010 Exterior walls', 7000],
      ['C3010 Wall finishes', 3000],
    ]);
    expect(amounts(['itemClass1'])).toEqual([
      ['B Shell', 7000],
      ['C Interiors', 3000],
    ]);
    expect(listGroupElements(plan, ['itemClass1'], basis, '/B%20Shell')).toEqual([1]);
  });
  it('follows the classification in use; a class without a level below stands for it', () =>
    expect(amounts(['itemClass1', 'itemClass2'], { ...basis, classification: OWN } as typeof basis)).toEqual([
      ['3 Finishes', 3000],
      ['Without a class', 7000],
    ]));
  it('sorts what whole packs leave over by the class and the tax class of its item', () => {
    const packed = [
      sampleItem('BAG', 'm2', '2.00', {
        soldAs: { pack: 8 },
        classes: { 'UNIFORMAT II': 'C3010' },
        taxClass: 'reduced',
      }),
      sampleItem('BOX', 'm2', '1.00', { soldAs: { pack: 4 } }),
    ];
    const b = sampleBasis(packed, [
      { item: 'BAG', quantity: 'Driver' },
      { item: 'BOX', quantity: 'Driver' },
    ]);
    const priced = runPipeline(b, [{ sourceId: 'm', table }]);
    const groups = (by: Parameters<typeof groupPlan>[1]) =>
      groupPlan(priced, by, b).groups.map((g) => [g.label, g.minor]);
    // 10 m2 in two packs of 8 at 2.00, and in three of 4 at 1.00: 6 and 2 are left over.
    expect(groups(['itemClass1'])).toEqual([
      ['C Interiors', 3200],
      ['Packs and rounding', 200],
      ['Without a class', 1000],
    ]);
    expect(groups(['taxClass'])).toEqual([
      ['No tax class', 1200],
      ['reduced', 3200],
    ]);
  });
  it('takes the code of the element, if the classification has it, where the price says nothing', () => {
    const plain = sampleBasis([sampleItem('BRICK', 'm2', '2.00')], [{ item: 'BRICK', quantity: 'Driver' }]);
    const walls = buildElementTable(
      [['X9', 'B2010'], ['X9']].map((codes, i) =>
        sampleElement({ globalId: `w${i}`, codes, quantities: { NetSideArea: 10 } }),
      ),
      Int32Array.of(1, 2),
    );
    const coded = runPipeline(plain, [{ sourceId: 'm', table: walls }]);
    expect(groupPlan(coded, ['itemClass2'], plain).groups.map((g) => [g.label, g.minor])).toEqual([
      ['B20 Exterior enclosure', 2000],
      ['Without a class', 2000],
    ]);
  });
  it('takes the class of the nearest assembly', () => {
    const nearer = {
      ...basis,
      assemblies: [basis.assemblies[0]!, { ...basis.assemblies[1]!, classes: { 'UNIFORMAT II': 'F1010' } }],
    };
    const near = runPipeline(nearer, [{ sourceId: 'm', table }]);
    expect(groupPlan(near, ['itemClass1'], nearer).groups.map((g) => [g.label, g.minor])).toEqual([
      ['B Shell', 2000],
      ['C Interiors', 3000],
      ['F Special construction and demolition', 5000],
    ]);
  });
});

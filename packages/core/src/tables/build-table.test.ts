import fc from 'fast-check';
import { buildTable, type TableSpec, visitRowsBehind } from './build-table.ts';
import { type CellValue, compareCells, type TableField } from './table-field.ts';

interface Delivery {
  readonly storey: string | null;
  readonly what: string;
  readonly supplier: string | null;
  readonly price: number | null;
  readonly length: number | null;
}
const delivery = (
  storey: string | null,
  what: string,
  supplier: string | null,
  price: number | null,
  length: number | null,
): Delivery => ({ storey, what, supplier, price, length });
const field = (
  id: keyof Delivery,
  aggregate: TableField<Delivery>['aggregate'],
  read: (row: Delivery) => CellValue = (row) => row[id],
): TableField<Delivery> => ({ id, heading: id, unit: id === 'length' ? 'm' : null, aggregate, read });

const COLUMNS = [
  field('what', 'only'),
  field('price', 'only'),
  field('supplier', 'first'),
  { ...field('price', 'distinct'), id: 'prices' },
  field('length', 'sum'),
];
const DELIVERIES = [
  delivery('Level 10', 'Joist', null, 4, 3.2),
  delivery('Level 2', 'Joist', 'Quay timber', 4, 2.4),
  delivery('Level 2', 'Joist', 'Ferry timber', 5, 1.6),
  delivery('Level 2', 'Batten', 'Quay timber', 1, null),
  delivery(null, 'Batten', null, 1, 7),
];
const build = (rows: readonly Delivery[], spec: Partial<TableSpec<Delivery>> = {}) =>
  buildTable<Delivery>((see) => rows.forEach(see), {
    columns: COLUMNS,
    groups: [{ field: field('storey', 'only'), none: 'No storey' }],
    bundle: (row) => row.what,
    sort: { field: 'what', isDescending: false },
    ...spec,
  });

describe('tables', () => {
  it('bundle by identity: sums, what is common, the first known, how many there are', () => {
    const t = build(DELIVERIES);
    expect(t.lines.map((l) => [l.id, l.level, ...l.cells])).toEqual([
      ['/Level%202', 0, null, null, null, null, 4],
      ['/Level%202#Batten', 1, 'Batten', 1, 'Quay timber', 1, null],
      ['/Level%202#Joist', 1, 'Joist', null, 'Quay timber', 2, 4],
      ['/Level%2010', 0, null, null, null, null, 3.2],
      ['/Level%2010#Joist', 1, 'Joist', 4, null, 1, 3.2],
      ['/No%20storey', 0, null, null, null, null, 7],
      ['/No%20storey#Batten', 1, 'Batten', 1, null, 1, 7],
    ]);
    expect(t.totals).toEqual([null, null, null, null, 14.2]);
    expect(t.count).toBe(5);
  });
  it('know a line by what it stands for, not by what it costs', () => {
    const dearer = DELIVERIES.map((d) => ({ ...d, price: 2 * d.price! }));
    expect(build(dearer).lines.map((l) => l.id)).toEqual(build(DELIVERIES).lines.map((l) => l.id));
  });
  it('order groups as they are told, the others as people read them', () => {
    const labels = (order?: string[]) =>
      build(DELIVERIES, {
        groups: [{ field: field('storey', 'only'), none: 'No storey', ...(order ? { order } : {}) }],
      })
        .lines.filter((l) => l.kind === 'group')
        .map((l) => l.label);
    expect(labels()).toEqual(['Level 2', 'Level 10', 'No storey']);
    expect(labels(['No storey', 'Level 10'])).toEqual(['No storey', 'Level 10', 'Level 2']);
  });
  it('find the rows behind a line or a group by its id', () => {
    const behind = (id: string) => {
      const found: Delivery[] = [];
      const groups = [{ field: field('storey', 'only'), none: 'No storey' }];
      visitRowsBehind<Delivery>(
        (see) => DELIVERIES.forEach(see),
        { groups, bundle: (row) => row.what },
        id,
        (row) => found.push(row),
      );
      return found.map((d) => DELIVERIES.indexOf(d));
    };
    expect(behind('/Level%202#Joist')).toEqual([1, 2]);
    expect(behind('/Level%202')).toEqual([1, 2, 3]);
    expect(behind('/No%20storey#Batten')).toEqual([4]);
    expect(behind('#Joist')).toEqual([0, 1, 2]);
    expect(behind('')).toEqual([0, 1, 2, 3, 4]);
    expect(behind('/Level%202/Deeper')).toEqual([]);
    expect(behind('/%E0%A')).toEqual([]);
  });
  it('tell labels apart that hold the signs of an id', () => {
    const odd = ['A/B', 'A', 'A#B', '100 %'].map((storey, i) => delivery(storey, 'B', null, 1, i + 1));
    const t = build(odd);
    expect(new Set(t.lines.map((l) => l.id)).size).toBe(8);
  });
  it('put what is unknown last when sorted, numbers in texts by size', () => {
    expect(['A10', null, 'A9', 'a'].sort(compareCells)).toEqual(['a', 'A9', 'A10', null]);
    const t = build(DELIVERIES, { groups: [], sort: { field: 'length', isDescending: true }, bundle: (r) => `${DELIVERIES.indexOf(r)}` }); // biome-ignore format: one call
    expect(t.lines.map((l) => l.cells[4])).toEqual([null, 7, 3.2, 2.4, 1.6]);
  });
  it('print columns that add up, negative ones too, and sum the same in whatever order the rows come', () =>
    fc.assert(
      fc.property(
        fc
          .array(
            fc.record({
              storey: fc.constantFrom('a', 'b', null),
              what: fc.constantFrom('x', 'y', 'z'),
              supplier: fc.constantFrom('p', 'q'),
              price: fc.constantFrom(1, 2),
              length: fc.double({ min: -100, max: 1e4, noNaN: true }),
            }),
            { minLength: 1, maxLength: 40 },
          )
          .chain((list) => fc.tuple(fc.constant(list), fc.shuffledSubarray(list, { minLength: list.length }))),
        ([rows, shuffled]) => {
          const spec: Partial<TableSpec<Delivery>> = {
            groups: [
              { field: field('storey', 'only'), none: 'none' },
              { field: field('supplier', 'only'), none: 'none' },
            ],
          };
          const sums = (list: readonly Delivery[]) => build(list, spec).lines.map((l) => [l.id, l.cells[4]]);
          expect(sums(shuffled)).toEqual(sums(rows));
          const printed = build(rows, { ...spec, stepOf: (f) => (f.id === 'length' ? 0.01 : null) });
          const cents = (v: CellValue) => Math.round(Number(v) * 100);
          const total = cents(printed.totals[4]!);
          for (const level of [0, 1, 2]) {
            const own = printed.lines.filter((l) => l.level === level);
            expect(own.reduce((sum, l) => sum + cents(l.cells[4]!), 0)).toBe(total);
          }
        },
      ),
      { seed: 53, numRuns: 200 },
    ));
});

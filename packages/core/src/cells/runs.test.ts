import fc from 'fast-check';
import { buildElementTable } from '../elements/element-table.ts';
import type { SiteData } from '../elements/site-data.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { PipelineMemory } from '../pipeline-memory.ts';
import { explainElement } from '../plan/explain-element.ts';
import { tryAssembly } from '../pricing/try-assembly.ts';
import { checkAssembly } from '../recipes/check-assembly.ts';
import { listQuantityNames } from '../recipes/recipe.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { LineState } from './cell-line.ts';

type Lines = PricingBasis['assemblies'][number]['lines'];
type Table = ReturnType<typeof buildElementTable>;

const ITEMS = [
  sampleItem('LORRY', 'each', '100.00', { kind: 'plant' }),
  sampleItem('SETUP', 'h', '40.00', { kind: 'labour' }),
  sampleItem('STUD', 'm', '3.00'),
  sampleItem('BOARD', 'm2', '5.00'),
];
const wall = (globalId: string, NetSideArea: number, more: object = {}) =>
  sampleElement({ globalId, quantities: { NetSideArea, Height: 2.5 }, ...more });
const table = (elements: Parameters<typeof buildElementTable>[0], site: SiteData = {}, firstKey = 1) =>
  buildElementTable(elements, Int32Array.from(elements.map((_, i) => i + firstKey)), site);
const plan = (lines: Lines, tables: readonly Table[], more: Partial<PricingBasis> = {}, memory?: PipelineMemory) =>
  runPipeline(
    sampleBasis(ITEMS, lines, more),
    tables.map((t, i) => ({ sourceId: `s${i}`, table: t })),
    memory,
  );
/** Net quantities of the first line by element, in the order of the sources; problems by their code. */
const nets = (made: ReturnType<typeof plan>) =>
  made.parts.flatMap((p) =>
    p.blocks.flatMap(({ lines: [line] }) =>
      [...line!.net].map((net, at) =>
        line!.state[at] === LineState.known
          ? net
          : line!.state[at] === LineState.skipped
            ? 'skipped'
            : line!.problems.get(at)!.code,
      ),
    ),
  );

const THREE = () => table([wall('a', 10), wall('b', 4), wall('c', 6)]);
const LORRIES: Lines = [{ item: 'LORRY', per: 'project', quantity: 'ceil(Driver / 8 m2 * 1 each)' }];

describe('lines that run once for the project', () => {
  it('take the sums of all elements and share out by the driver: 20 m2 / 8 m2 is 3 loads, 1.5 + 0.6 + 0.9', () => {
    const made = plan(LORRIES, [THREE()]);
    expect(nets(made)).toEqual([1.5, expect.closeTo(0.6, 12), expect.closeTo(0.9, 12)]);
    expect(made.total).toBe(300e6);
  });
  it('run over all sources together', () => {
    const made = plan(LORRIES, [table([wall('a', 10)]), table([wall('b', 4), wall('c', 6)], {}, 2)]);
    expect(nets(made)).toEqual([1.5, expect.closeTo(0.6, 12), expect.closeTo(0.9, 12)]);
  });
  it('run over all rules that use their assembly, not once for each', () => {
    const base = sampleBasis(ITEMS, LORRIES);
    const [rule] = base.rules;
    const rules = ['a', 'b', 'c'].map((name) => ({
      ...rule!,
      id: name,
      scope: { field: 'name' as const, op: 'is' as const, value: name },
    }));
    const named = table([wall('a', 10, { name: 'a' }), wall('b', 4, { name: 'b' }), wall('c', 6, { name: 'c' })]);
    expect(plan(LORRIES, [named], { rules }).total).toBe(300e6);
  });
  it('are another run under another constant parameter', () => {
    const lines: Lines = [{ item: 'LORRY', per: 'project', quantity: 'ceil(Driver / perLoad * 1 each)' }];
    const assemblies = [
      { code: 'A', description: 'A', unit: 'm2', lines, parameters: [{ name: 'perLoad', unit: 'm2', value: '8 m2' }] },
    ];
    const [rule] = sampleBasis(ITEMS, lines).rules;
    const rules = [
      { ...rule!, scope: { field: 'name' as const, op: 'is' as const, value: 'a' }, parameters: { perLoad: '4 m2' } },
      { ...rule!, id: 'r2' },
    ];
    const named = table([wall('a', 10, { name: 'a' }), wall('b', 4), wall('c', 6)]);
    // 10 / 4 = 2.5: 3 loads of the one; (4 + 6) / 8: 2 loads of the others.
    expect(nets(plan(lines, [named], { assemblies, rules }))).toEqual([
      3,
      expect.closeTo(0.8, 12),
      expect.closeTo(1.2, 12),
    ]);
  });
  it('add up what other lines give', () => {
    const lines: Lines = [
      { item: 'SETUP', per: 'project', quantity: 'ceil(Boards / 15 m2) * 2 h' },
      { item: 'BOARD', name: 'Boards', quantity: '2 * Driver' },
    ];
    // 2 x 20 m2 = 40 m2: 3 times 2 h.
    expect(plan(lines, [THREE()]).parts[0]!.blocks[0]!.lines[0]!.net.reduce((a, b) => a + b)).toBeCloseTo(6, 12);
  });
  it('are shared equally where the driver says nothing', () => {
    const lines: Lines = [{ item: 'SETUP', per: 'project', quantity: '3 h' }];
    expect(nets(plan(lines, [table([wall('a', 0), wall('b', 0)])]))).toEqual([1.5, 1.5]);
  });
  it('hold only where their condition does, for all together', () => {
    const lines = (when: string): Lines => [{ ...LORRIES[0]!, when }];
    expect(nets(plan(lines('Driver > 20 m2'), [THREE()]))).toEqual(['skipped', 'skipped', 'skipped']);
    expect(nets(plan(lines('Driver >= 20 m2'), [THREE()]))[0]).toBe(1.5);
  });
  it('leave out what has no figure, which says why', () => {
    const lines: Lines = [{ item: 'LORRY', per: 'project', quantity: 'ceil(NetVolume / 5 m3 * 1 each)' }];
    const full = sampleElement({ globalId: 'v', quantities: { NetSideArea: 5, NetVolume: 6 } });
    const made = plan(lines, [table([full, wall('b', 5)])]);
    expect(nets(made)).toEqual([2, 'formula-quantity-missing']);
    expect(made.unknownLines).toBe(1);
  });
  it('are bought in lengths like others', () => {
    const items = [...ITEMS, sampleItem('RAIL', 'm', '2.00', { soldAs: { lengths: [3, 4] } })];
    const made = plan([{ item: 'RAIL', per: 'project', quantity: 'Driver / 2 m' }], [THREE()], { items });
    // 10 m cut anywhere: two of 4 m, and 3 m covers the rest of 2 m.
    expect(made.purchases[0]).toMatchObject({
      packs: 3,
      toBuy: 11,
      lengths: [
        { length: 3, pieces: 1 },
        { length: 4, pieces: 2 },
      ],
    });
  });
  it('explain the run and the share', () => {
    const { steps } = explainElement(plan(LORRIES, [THREE()]), 2)!.lines[0]!;
    expect(steps.slice(-2)).toEqual([
      {
        lead: 'Once for the project',
        formula: 'ceil(Driver / 8 m2 * 1 each)',
        figures: 'ceil(20 m2 / 8 m2 * 1 each)',
        result: 3,
        unit: 'each',
      },
      {
        lead: 'Its share by the driver',
        formula: 'share',
        figures: '20 %',
        result: expect.closeTo(0.6, 12),
        unit: 'each',
      },
    ]);
  });
  it('are tried on the element at hand alone', () => {
    const draft = { code: 'A', description: 'A', unit: 'm2', lines: LORRIES };
    expect(tryAssembly(draft, { driver: 'NetSideArea' }, sampleBasis(ITEMS, LORRIES), THREE(), 0)[0]).toMatchObject({
      net: 2,
      isShared: true,
    });
  });
  it('follow a change of one element for all, as from scratch', () => {
    const memory = new PipelineMemory();
    const first = THREE();
    expect(plan(LORRIES, [first], {}, memory).total).toBe(300e6);
    const priced = memory.pricedCells;
    // The same again prices nothing anew.
    plan(LORRIES, [first], {}, memory);
    expect(memory.pricedCells).toBe(priced);
    const next = table([wall('a', 30), wall('b', 4), wall('c', 6)]);
    // 40 / 8 = 5 loads.
    expect(plan(LORRIES, [next], {}, memory).total).toBe(500e6);
    expect(nets(plan(LORRIES, [next], {}, memory))).toEqual(nets(plan(LORRIES, [next])));
  });
  it('give the same whatever the order of elements and their split into sources', () => {
    const areas = fc.array(fc.integer({ min: 1, max: 5000 }), { minLength: 2, maxLength: 20 });
    fc.assert(
      fc.property(areas, fc.nat(), (list, cut) => {
        const walls = list.map((a, i) => wall(`w${i}`, a / 10));
        const at = 1 + (cut % (list.length - 1));
        const sum = (tables: readonly Table[]) =>
          nets(plan(LORRIES, tables)).reduce((s: number, n) => s + Number(n), 0);
        const expected = Math.ceil(list.reduce((a, b) => a + b) / 80 - 1e-9);
        expect(sum([table(walls)])).toBeCloseTo(expected, 9);
        expect(sum([table([...walls].reverse())])).toBeCloseTo(expected, 9);
        expect(sum([table(walls.slice(at)), table(walls.slice(0, at), {}, 100)])).toBeCloseTo(expected, 9);
      }),
      { seed: 7, numRuns: 60 },
    );
  });
});

describe('lines that run once per room', () => {
  const room = (globalId: string) =>
    sampleElement({
      globalId,
      ifcClass: 'IfcSpace',
      quantities: { NetSideArea: 10 },
      finishes: { floor: null, wall: null, ceiling: null, skirting: null },
    });
  const lines: Lines = [{ item: 'SETUP', per: 'room', quantity: 'max(1 h, Driver * 0.1 h/m2)' }];
  it('add up what lies in each room: 15 m2 x 0.1 h, and at least an hour', () => {
    const made = plan(lines, [
      table([wall('a', 5, { space: 'R1' }), wall('b', 10, { space: 'R1' }), wall('c', 2, { space: 'R2' })]),
    ]);
    expect(nets(made)).toEqual([expect.closeTo(0.5, 12), expect.closeTo(1, 12), 1]);
  });
  it('take a room for itself, and say so where there is none', () =>
    expect(nets(plan(lines, [table([room('R1'), room('R2'), wall('w', 3)])]))).toEqual([1, 1, 'room-unknown']));
});

describe('what such lines may read', () => {
  const check = (line: Lines[number], parameter = '8 m2') => {
    const assembly = {
      code: 'A',
      description: 'A',
      unit: 'm2',
      parameters: [{ name: 'perLoad', unit: 'm2', value: parameter }],
      lines: [line, { item: 'BOARD', quantity: 'Driver' }],
    };
    return checkAssembly(assembly, sampleBasis(ITEMS, []), listQuantityNames()).lines[0]!;
  };
  const once = (quantity: string, more: object = {}) => ({ item: 'LORRY', per: 'project' as const, quantity, ...more });
  it.each([
    ['a figure without a sum', once('Height / 1 m * 1 each'), undefined],
    ['a property', once('ceil(Driver / 8 m2) * if(yes("Set.Wet"), 1 each, 2 each)'), undefined],
    ['a parameter that differs', once('ceil(Driver / perLoad * 1 each)'), 'NetSideArea'],
  ])('not %s', (_, line, parameter) =>
    expect(check(line, parameter).quantity).toMatchObject({ code: 'formula-shared' }),
  );
  it('but sums, constant parameters and named values', () =>
    expect(check(once('ceil((Driver + NetArea) / perLoad * 1 each)')).quantity).toBeNull());
  it('no length of one piece, and no assembly of its own', () => {
    expect(check({ item: 'STUD', per: 'room', quantity: 'Driver / 1 m', piece: '2 m' }).run).toMatchObject({
      code: 'line-run',
    });
    expect(check({ assembly: 'B', per: 'room', quantity: 'Driver' }).run).toMatchObject({ code: 'line-run' });
    expect(check(once('1 each')).run).toBeNull();
  });
  it('and other lines cannot use their results', () => {
    const lines: Lines = [
      { item: 'BOARD', quantity: 'Loads * 1 m2/each' },
      { ...LORRIES[0]!, name: 'Loads' },
    ];
    expect(nets(plan(lines, [THREE()]))[0]).toBe('line-shared');
  });
});

describe('lines that run per junction', () => {
  const axis = (row: number, points: number[], topM: number) => ({
    row,
    isFirstLeft: true,
    points,
    widthM: 0.1,
    bottomM: 0,
    topM,
  });
  const site: SiteData = {
    wallAxes: [axis(0, [0, 0, 4, 0], 2.5), axis(1, [4, 0, 4, 3], 2.4), axis(2, [2, 0, 2, 3], 2.7)],
    junctions: [
      { kind: 'tee', at: [2, 0], owner: 2, walls: [0, 2] },
      { kind: 'corner', at: [4, 0], owner: 0, walls: [0, 1] },
      { kind: 'free end', at: [0, 0], owner: 0, walls: [0] },
    ],
  };
  const three = table([wall('a', 10), wall('b', 7), wall('c', 8)], site);
  it('run over those counted with the wall, at the height that its walls share: 2.4 + 2.5 m', () =>
    expect(nets(plan([{ item: 'STUD', per: 'junction', quantity: 'JunctionHeight' }], [three]))).toEqual([
      4.9,
      'skipped',
      2.5,
    ]));
  it('choose by what they are and by how many walls meet', () => {
    const lines = (when: string): Lines => [{ item: 'STUD', per: 'junction', quantity: '2 * JunctionHeight', when }];
    expect(nets(plan(lines('junctionKind() = "corner"'), [three]))).toEqual([4.8, 'skipped', 'skipped']);
    expect(nets(plan(lines('JunctionWalls >= 2 each'), [three]))).toEqual([4.8, 'skipped', 5]);
  });
  it('are nothing to ask for elsewhere', () =>
    expect(nets(plan([{ item: 'STUD', quantity: 'Driver / 1 m', when: 'junctionKind() = "tee"' }], [three]))[0]).toBe(
      'formula-arguments',
    ));
});

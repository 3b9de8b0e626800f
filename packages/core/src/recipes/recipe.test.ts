import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { PipelineMemory } from '../pipeline-memory.ts';
import { explainElement } from '../plan/explain-element.ts';
import { groupPlan } from '../plan/group-plan.ts';
import { tryAssembly } from '../pricing/try-assembly.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { checkAssembly } from './check-assembly.ts';
import { findCodeUses, findScaleUses, findValueUses } from './find-uses.ts';
import { listQuantityNames } from './recipe.ts';

const opening = (width: number, height: number) => ({
  globalId: `o${width}`,
  width,
  height,
  area: width * height,
  perimeter: 2 * (width + height),
  sill: 0,
  filledBy: null,
});
const layer = (material: string, thickness: number, area: number) => ({
  material,
  thickness,
  position: 0,
  area,
  volume: area * thickness,
  weight: null,
});
const wall = sampleElement({
  globalId: 'w',
  quantities: { NetSideArea: 10, Length: 4.9, Height: 2.5, Depth: 1.4 },
  openings: [opening(0.9, 2.1), opening(1.8, 1.2)],
  layers: [layer('Lining board', 0.0125, 10), layer('Mineral quilt', 0.05, 10), layer('Mineral board', 0.1, 10)],
  properties: { Offer: { UnitPrice: 7.25, Grade: 'Oiled' } },
});
const plain = sampleElement({ globalId: 'p', quantities: { NetSideArea: 4, Length: 2, Height: 2, Depth: 2.5 } });

const item = sampleItem;
const ITEMS = [
  item('STUD', 'm', '3.00'),
  item('BRACKET', 'each', '0.50'),
  item('LINTEL', 'm', '20.00'),
  item('QUILT', 'm2', '4.00'),
  item('FITTER', 'h', '40.00', { kind: 'labour' }),
];
const table = (...elements: Parameters<typeof buildElementTable>[0]) =>
  buildElementTable(elements, Int32Array.from(elements.map((_, i) => i + 1)));

type Lines = PricingBasis['assemblies'][number]['lines'];
const basisOf = (lines: Lines, more: Partial<PricingBasis> = {}) => sampleBasis(ITEMS, lines, more);
/** Net quantities of the lines of the first element, problems by their code. */
function nets(lines: Lines, element = wall, more: Partial<PricingBasis> = {}) {
  const plan = runPipeline(basisOf(lines, more), [{ sourceId: 'm', table: table(element) }]);
  const { blocks } = plan.parts[0]!;
  return blocks[0]!.lines.map((l) =>
    l.state[0] === 0 ? l.net[0] : l.state[0] === 1 ? 'skipped' : l.problems.get(0)!.code,
  );
}

describe('lines of an assembly', () => {
  it('are said as people say them: 10 m2 x 0.4 h by a crew of 2 = 8 h', () =>
    expect(nets([{ item: 'FITTER', consumption: '0.4 h per m2', crew: 2 }])).toEqual([8]));
  it('go by something else than the driver: 2 a metre of 2 x 4.9 m = 19.6', () =>
    expect(nets([{ item: 'BRACKET', consumption: '2 each per m', of: '2 * Length' }])[0]).toBeCloseTo(19.6, 9));
  it('refuse a crew where there are no hours', () =>
    expect(nets([{ item: 'STUD', quantity: 'Length', crew: 2 }])).toEqual(['formula-dimension']));
  it('use each other’s results whatever their order; what others need goes with it', () => {
    const lines = (when?: string): Lines => [
      { item: 'BRACKET', quantity: 'ceil(Studs / 1.5 m)' },
      { item: 'STUD', name: 'Studs', quantity: 'atCentres(Length, 0.6 m) * Height', when },
    ];
    // 4.9 / 0.6 = 8.17: 9 spaces, 10 studs of 2.5 m = 25 m; 25 / 1.5 = 16.67: 17 brackets.
    expect(nets(lines())).toEqual([17, 25]);
    expect(nets(lines('Length > 10 m'))).toEqual([0, 'skipped']);
    // The fault of the one is the reason of the other.
    expect(nets([lines()[0]!, { item: 'STUD', name: 'Studs', quantity: 'NetSideArea' }])).toEqual([
      'formula-dimension',
      'formula-dimension',
    ]);
  });
  it('that need each other are refused with the circle', () => {
    const plan = runPipeline(
      basisOf([
        { item: 'STUD', name: 'Studs', quantity: 'Brackets * 1 m/each' },
        { item: 'BRACKET', name: 'Brackets', quantity: 'Studs * 1 each/m' },
      ]),
      [{ sourceId: 'm', table: table(wall) }],
    );
    expect(plan.parts[0]!.blocks[0]!.lines[0]!.problems.get(0)).toMatchObject({
      code: 'formula-cycle',
      message: 'Lines of A need each other: Studs > Brackets > Studs.',
    });
  });
  it('may not have one name', () =>
    expect(
      nets([
        { item: 'STUD', name: 'X', quantity: 'Length' },
        { item: 'STUD', name: 'x', quantity: 'Length' },
      ]),
    ).toEqual(['line-name-twice']));
  it('may not have the name of a parameter, whatever its case, or of the driver', () => {
    const named = (name: string) => {
      const lines: Lines = [{ item: 'STUD', name, quantity: 'Length' }];
      const assembly = {
        code: 'A',
        description: 'A',
        unit: 'm2',
        parameters: [{ name: 'spacing', unit: 'm', value: '1 m' }],
        lines,
      };
      return checkAssembly(assembly, basisOf(lines), listQuantityNames()).problem?.code;
    };
    expect([named('Spacing'), named('DRIVER'), named('Studs')]).toEqual([
      'line-name-twice',
      'line-name-twice',
      undefined,
    ]);
  });
  it('run once per opening: lintels 0.15 m longer at each end, (0.9 + 0.3) + (1.8 + 0.3) = 3.3 m', () => {
    const lintels: Lines = [{ item: 'LINTEL', per: 'opening', quantity: 'OpeningWidth + 2 * 0.15 m' }];
    expect(nets(lintels)[0]).toBeCloseTo(3.3, 9);
    expect(nets([{ ...lintels[0]!, when: 'OpeningWidth > 1 m' }])[0]).toBeCloseTo(2.1, 9);
    expect(nets(lintels, plain)).toEqual(['skipped']);
    expect(nets([{ item: 'LINTEL', quantity: 'OpeningWidth' }])).toEqual(['formula-name-unknown']);
  });
  it('run once per layer and choose it by its material', () => {
    expect(
      nets([{ item: 'QUILT', per: 'layer', quantity: 'LayerArea', when: 'like(layerMaterial(), "mineral*")' }]),
    ).toEqual([20]);
    expect(nets([{ item: 'QUILT', quantity: 'Driver', when: 'like(layerMaterial(), "x")' }])).toEqual([
      'formula-arguments',
    ]);
  });
  it('name the layer’s figure that is missing', () =>
    expect(nets([{ item: 'FITTER', per: 'layer', quantity: 'LayerWeight * 1 h/kg' }])).toEqual([
      'formula-quantity-missing',
    ]));
});

describe('an assembly inside another that runs over parts', () => {
  const inner = (lines: Lines, more = {}) => ({ code: 'B', description: 'B', unit: 'm', lines, ...more });
  const run = (outer: Lines[number], inside: Lines, more: Lines = []) => {
    const base = basisOf([outer, ...more]);
    const basis = { ...base, assemblies: [...base.assemblies, inner(inside)] };
    return runPipeline(basis, [{ sourceId: 'm', table: table(wall, plain) }]).parts[0]!.blocks[0]!.lines;
  };
  const perOpening = { assembly: 'B', per: 'opening' as const, quantity: 'OpeningWidth' };
  it('adds up what each of its lines gives: lintels of 0.9 + 1.8 m with 0.3 m each, whole brackets each', () => {
    const [lintel, bracket] = run(perOpening, [
      { item: 'LINTEL', quantity: 'Driver + 0.3 m' },
      { item: 'BRACKET', quantity: 'ceil(Driver / 0.5 m)', when: 'Driver > 1 m' },
    ]);
    expect(lintel!.net[0]).toBeCloseTo(3.3, 9);
    // Only the wide one has brackets: 1.8 / 0.5, up.
    expect(bracket!.net[0]).toBe(4);
    // The other wall has no openings.
    expect([lintel!.state[1], bracket!.state[1]]).toEqual([1, 1]);
  });
  it('holds where its condition does, and gives its drivers to other lines', () => {
    const lines = run(
      { ...perOpening, when: 'OpeningHeight > 2 m', name: 'Widths' },
      [{ item: 'LINTEL', quantity: 'Driver' }],
      [{ item: 'STUD', quantity: '2 * Widths' }],
    );
    expect(lines.map((l) => l.net[0])).toEqual([0.9, 1.8]);
  });
  it('is unknown where one part is', () => {
    const lines = run({ ...perOpening, quantity: 'OpeningWidth * (OpeningHeight - 1.5 m) / 1 m' }, [
      { item: 'LINTEL', quantity: 'Driver' },
    ]);
    expect(lines[0]!.problems.get(0)).toMatchObject({ code: 'quantity-negative' });
  });
  it('shows the figures of every part', () => {
    const base = basisOf([perOpening]);
    const basis = {
      ...base,
      assemblies: [...base.assemblies, inner([{ item: 'LINTEL', quantity: 'Driver + 0.3 m' }])],
    };
    const plan = runPipeline(basis, [{ sourceId: 'm', table: table(wall) }]);
    const figures = explainElement(plan, 1)!.lines[0]!.steps.map((s) => s.figures);
    expect(figures).toEqual(expect.arrayContaining(['0.9 m + 0.3 m', '1.8 m + 0.3 m']));
  });
  it('cannot hold lines that run once for the project', () => {
    const inside: Lines = [{ item: 'LINTEL', per: 'project', quantity: 'Driver' }];
    expect(run(perOpening, inside)[0]!.problems.get(0)).toMatchObject({ code: 'line-run' });
    const assembly = { code: 'A', description: 'A', unit: 'm2', lines: [perOpening] };
    const contents = { ...basisOf([]), assemblies: [inner(inside)] };
    expect(checkAssembly(assembly, contents, listQuantityNames()).problem).toMatchObject({ code: 'line-run' });
  });
});

describe('rates', () => {
  const rated = (rateFormula: string, unit = 'm2', more: Partial<PricingBasis> = {}) =>
    basisOf([{ item: 'X', quantity: unit === 'm2' ? 'Driver' : 'Driver * 1 l/m2' }], {
      items: [item('X', unit, null, { rateFormula })],
      ...more,
    });
  const total = (basis: PricingBasis, ...elements: (typeof wall)[]) =>
    runPipeline(basis, [{ sourceId: 'm', table: table(...elements) }]).total / 1e6;
  const values = (value: string) => [{ name: 'Board price', unit: 'EUR/m2', value }];

  it('follow a named value: 10 m2 x 6.40 x 1.5', () =>
    expect(total(rated('BoardPrice * 1.5', 'm2', { values: values('6.40') }), wall)).toBe(96));
  it('are brought to the unit of the item: 28 EUR/m3 is 0.028 a litre', () =>
    expect(total(rated('28 EUR/m3', 'l'), wall)).toBeCloseTo(0.28, 6));
  it('must be money per unit', () =>
    expect(explainFirst(rated('28 EUR/m3')).problem).toMatchObject({ code: 'formula-dimension', path: 'rate of X' }));
  it('come from a property of the element, asked once for its unit', () => {
    const basis = rated('number("Offer.UnitPrice", 1 EUR/m2)');
    expect(total(basis, wall)).toBe(72.5);
    expect(explainFirst(basis, plain)).toMatchObject({ amount: null, problem: { code: 'formula-property-missing' } });
  });
  it('come from a scale, each element its own; the plan bundles them, says how many there are, and adds up', () => {
    const scales = [
      {
        name: 'Depths',
        unit: 'EUR/m2',
        keys: [{ name: 'Depth', unit: 'm' }],
        rows: [
          { at: [{ to: 2 }], value: 5 },
          { at: [{ from: 2 }], value: 8 },
        ],
      },
    ];
    const basis = rated('scale("Depths", Depth)', 'm2', { scales });
    const plan = runPipeline(basis, [{ sourceId: 'm', table: table(wall, plain) }]);
    // 10 m2 x 5 + 4 m2 x 8 = 82
    expect(plan.total).toBe(82e6);
    const { lines } = groupPlan(plan, [], basis);
    expect(lines.map((l) => [l.rate, l.rates, l.net, l.minor])).toEqual([[null, 2, 14, 8200]]);
    expect(explainElement(plan, 2)!.lines[0]).toMatchObject({
      rate: 8,
      rateSteps: [{ formula: 'scale("Depths", Depth)', figures: 'scale("Depths", 2.5 m)', result: 8 }],
    });
    const broken = [{ ...scales[0]!, rows: scales[0]!.rows.slice(0, 1) }];
    const short = runPipeline({ ...basis, scales: broken }, [{ sourceId: 'm', table: table(wall, plain) }]);
    expect(short.unknownLines).toBe(1);
    expect(explainElement(short, 2)!.lines[0]!.problem).toMatchObject({ code: 'scale-outside' });
  });
  it('of a named value change without measuring anything again; a value in a quantity measures its own lines only', () => {
    const memory = new PipelineMemory();
    const sources = [{ sourceId: 'm', table: table(wall, plain) }];
    const run = (price: string, share: string) => {
      const basis = rated('BoardPrice', 'm2', {
        values: [...values(price), { name: 'Share', unit: 'number', value: share }],
      });
      const twoRules = {
        ...basis,
        items: [...basis.items, item('Y', 'm2', '1.00')],
        sections: [...basis.sections, { id: 't', name: 'T' }],
        rules: [
          ...basis.rules,
          { ...basis.rules[0]!, id: 'r2', section: 't', assembly: undefined, item: 'Y', driver: 'NetSideArea * Share' },
        ],
      };
      const before = [memory.evaluatedCells, memory.pricedCells] as const;
      const { total: sum } = runPipeline(twoRules, sources, memory);
      return [sum / 1e6, memory.evaluatedCells - before[0], memory.pricedCells - before[1]];
    };
    // 14 m2 x 6 + 14 x 0.5 x 1 = 91
    expect(run('6', '0.5')).toEqual([91, 4, 4]);
    expect(run('7', '0.5')).toEqual([105, 0, 2]);
    expect(run('7', '1')).toEqual([112, 2, 2]);
  });

  function explainFirst(basis: PricingBasis, element = wall) {
    const plan = runPipeline(basis, [{ sourceId: 'm', table: table(element) }]);
    return explainElement(plan, 1)!.lines[0]!;
  }
});

describe('the density of an item', () => {
  const steel = (more = {}) => [
    item('STEEL', 'kg', '2.00', more),
    item('BY-VOLUME', 'm3', null, { ...more, rateFormula: '2 EUR/kg * ItemDensity' }),
  ];
  const priced = (items: PricingBasis['items'], line: Lines[number]) => {
    const plan = runPipeline(basisOf([line], { items }), [{ sourceId: 'm', table: table(wall) }]);
    return explainElement(plan, 1)!.lines[0]!;
  };
  const line = { item: 'STEEL', quantity: 'Driver * 0.01 m * ItemDensity' };
  it('leads from a volume to a weight: 10 m2 x 0.01 m x 7850 = 785 kg', () =>
    expect(priced(steel({ densityKgM3: 7850 }), line)).toMatchObject({ net: 785, amount: 1570e6 }));
  it('leads from a price of a weight to that of a volume: 15,700 a m3', () =>
    expect(priced(steel({ densityKgM3: 7850 }), { item: 'BY-VOLUME', quantity: 'Driver * 0.01 m' })).toMatchObject({
      rate: 15700,
      amount: 1570e6,
    }));
  it('is asked for where it is missing', () =>
    expect(priced(steel(), line)).toMatchObject({ amount: null, problem: { code: 'density-missing' } }));
});

describe('trying an assembly', () => {
  it('works a draft out on one element: net, waste, to buy, rate, amount', () => {
    const draft = {
      code: 'A',
      description: 'Draft',
      unit: 'm2',
      lines: [
        { item: 'QUILT', quantity: 'Driver', wastePercent: 10 },
        { item: 'STUD', quantity: 'Length', when: 'Height > 9 m' },
        { item: 'NONE', quantity: 'Driver' },
      ],
    };
    const tried = tryAssembly(draft, { driver: '12 m2' }, basisOf([]), table(wall), 0);
    // 12 m2 + 10 % = 13.2 m2 at 4.00 = 52.80
    expect(tried[0]).toMatchObject({ net: 12, toBuy: 13.200000000000001, rate: 4, amount: 52_800_000, isPart: true });
    expect(tried[0]!.steps.at(-1)).toMatchObject({ formula: 'Driver', figures: '12 m2', result: 12, unit: 'm2' });
    const thin = { ...draft, parameters: [{ name: 'share', unit: 'number', value: '1' }], lines: [{ item: 'QUILT', quantity: 'Driver * share' }] }; // biome-ignore format: a draft in short
    const by = { driver: '12 m2', parameters: { share: '0.5' } };
    expect(tryAssembly(thin, by, basisOf([]), table(wall), 0)[0]).toMatchObject({ net: 6 });
    expect(tried[1]).toMatchObject({ isPart: false, amount: null, steps: [] });
    expect(tried[2]).toMatchObject({ code: 'NONE', amount: null, problem: { code: 'item-unknown' } });
  });
});

describe('where things are used', () => {
  const contents = {
    ...basisOf(
      [{ item: 'STUD', quantity: 'Length * share + 0 m * has("Spare share")', when: 'scale("Depths", Depth) > 1 m' }],
      {
        values: [
          { name: 'Share', unit: 'number', value: '2' },
          { name: 'Half share', unit: 'number', value: 'Share / 2' },
        ],
      },
    ),
  };
  it('names assemblies, values and rules, found in any case', () => {
    expect(findValueUses('Share', contents).map((u) => u.id)).toEqual(['A', 'Half share']);
    expect(findValueUses('Spare', contents)).toEqual([]);
    expect(findScaleUses('depths', contents).map((u) => u.id)).toEqual(['A']);
    expect(findCodeUses('stud', contents).map((u) => u.id)).toEqual(['A']);
    expect(findCodeUses('a', contents)).toEqual([{ kind: 'rule', id: 'r', label: 'Rule R' }]);
  });
});

describe('checking an assembly while it is typed', () => {
  const check = (lines: Lines, more: Partial<PricingBasis> = {}) =>
    checkAssembly({ code: 'A', description: 'A', unit: 'm2', lines }, basisOf(lines, more), listQuantityNames());
  it('shows each fault where it stands and what a consumption means', () => {
    const { lines, problem } = check([
      { item: 'FITTER', consumption: '5 m2 per hour' },
      { item: 'STUD', quantity: 'Driver' },
      { item: 'NONE', quantity: 'Driver' },
      { item: 'QUILT', quantity: 'Driver', when: 'Length' },
      { item: 'LINTEL', per: 'opening', quantity: 'OpeningWidth' },
    ]);
    expect(problem).toBeNull();
    expect(lines.map((l) => [l.quantity?.code, l.when?.code, l.meaning])).toEqual([
      [undefined, undefined, 'Driver / 5 m2/h'],
      ['formula-dimension', undefined, null],
      ['item-unknown', undefined, null],
      [undefined, 'formula-dimension', null],
      [undefined, undefined, null],
    ]);
  });
  it('shows circles through lines and through other assemblies', () => {
    expect(check([{ item: 'STUD', name: 'X', quantity: 'X' }]).problem).toMatchObject({ code: 'formula-cycle' });
    const through = { code: 'B', description: 'B', unit: 'm2', lines: [{ assembly: 'A', quantity: 'Driver' }] };
    expect(check([{ assembly: 'B', quantity: 'Driver' }], { assemblies: [through] }).problem).toMatchObject({
      code: 'assembly-cycle',
      message: 'Assemblies go in a circle: A > B > A.',
    });
  });
});

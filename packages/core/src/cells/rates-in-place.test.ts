import type { Assembly } from '../book/assembly.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { PipelineMemory } from '../pipeline-memory.ts';
import { explainElement } from '../plan/explain-element.ts';
import { checkAssembly } from '../recipes/check-assembly.ts';
import { listQuantityNames } from '../recipes/recipe.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { type Sample, sampleElement } from '../testing/sample-element.ts';

type Lines = Assembly['lines'];

const opening = (globalId: string, width: number, height = 2.1) => ({
  globalId,
  width,
  height,
  area: width * height,
  perimeter: 2 * (width + height),
  sill: 0,
  filledBy: null,
});
const wall = (globalId: string, more: Partial<Sample> = {}) =>
  sampleElement({ globalId, quantities: { NetSideArea: 10, Height: 2.5, Length: 4 }, ...more });
const table = (elements: ReturnType<typeof wall>[], firstKey = 1) =>
  buildElementTable(elements, Int32Array.from(elements.map((_, i) => i + firstKey)), {});
const run = (basis: PricingBasis, ...tables: ReturnType<typeof table>[]) =>
  runPipeline(
    basis,
    tables.map((t, i) => ({ sourceId: `s${i}`, table: t })),
  );
const problemOf = (made: ReturnType<typeof run>, key = 1) => explainElement(made, key)!.lines[0]!.problem?.code;

describe('a rate that reads the opening its line runs over', () => {
  const lintel = sampleItem('LINTEL', 'each', null, { rateFormula: 'scale("Lintels", OpeningWidth)' });
  const scales = [
    {
      name: 'Lintels',
      unit: 'EUR/each',
      keys: [{ name: 'Width', unit: 'm' }],
      rows: [
        { at: [{ to: 1.2 }], value: 38 },
        { at: [{ from: 1.2, to: 2.4 }], value: 74 },
      ],
    },
  ];
  const lines: Lines = [{ item: 'LINTEL', per: 'opening', quantity: '1' }];
  const basis = sampleBasis([lintel], lines, { scales });

  it('is that of each: a door of 0.9 m at 38.00, two windows of 1.8 m at 74.00 are 186.00', () => {
    const made = run(
      basis,
      table([wall('a', { openings: [opening('d', 0.9), opening('w', 1.8), opening('v', 1.8)] })]),
    );
    expect(made.total).toBe(186e6);
    const [line] = explainElement(made, 1)!.lines;
    expect(line!.net).toBe(3);
    expect(line!.rate).toBe(62); // 186 / 3
    expect(line!.rateSteps.map((s) => [s.figures, s.result])).toEqual([
      ['scale("Lintels", 0.9 m)', 38],
      ['scale("Lintels", 1.8 m)', 74],
    ]);
  });
  it('is that of each inside an assembly that runs per opening and is handed its width', () => {
    const nested: Assembly = {
      code: 'N',
      description: 'N',
      unit: 'each',
      parameters: [{ name: 'span', unit: 'm', value: '1 m' }],
      lines: [{ item: 'LINTEL', quantity: 'Driver' }],
    };
    const outer: Assembly = {
      code: 'A',
      description: 'A',
      unit: 'm2',
      lines: [{ assembly: 'N', per: 'opening', quantity: '1', parameters: { span: 'OpeningWidth + 0.3 m' } }],
    };
    const made = run(
      {
        ...basis,
        items: [{ ...lintel, rateFormula: 'scale("Lintels", span)' }],
        assemblies: [outer, nested],
      },
      table([wall('a', { openings: [opening('d', 0.8), opening('w', 0.95)] })]),
    );
    // Spans of 1.1 and 1.25 m.
    expect(made.total).toBe(112e6);
  });
  it('is unknown where the scale says nothing for one of them, and where the line does not run over openings', () => {
    expect(problemOf(run(basis, table([wall('a', { openings: [opening('g', 3), opening('d', 0.9)] })])))).toBe(
      'scale-outside',
    );
    const perElement = sampleBasis([lintel], [{ item: 'LINTEL', quantity: '1' }], { scales });
    expect(problemOf(run(perElement, table([wall('a')])))).toBe('formula-name-unknown');
  });
});

describe('parameters handed from one assembly to another', () => {
  const coat = sampleItem('COAT', 'l', null, { rateFormula: 'scale("Coats", finish)' });
  const scales = [
    {
      name: 'Coats',
      unit: 'EUR/l',
      keys: [{ name: 'Finish' }],
      rows: [
        { at: ['Oil*'], value: 17.6 },
        { at: ['Paint'], value: 8.9 },
      ],
    },
  ];
  const coats: Assembly = {
    code: 'COATS',
    description: 'Coats',
    unit: 'm2',
    parameters: [
      { name: 'coats', unit: 'number', value: '1' },
      { name: 'finish', unit: 'text', value: '"Paint"' },
    ],
    lines: [{ item: 'COAT', quantity: 'Driver * coats * 0.1 l/m2' }],
  };
  const skirt = (parameters?: Record<string, string>): Assembly => ({
    code: 'A',
    description: 'A',
    unit: 'm2',
    parameters: [
      { name: 'times', unit: 'number', value: '2' },
      { name: 'look', unit: 'text', value: '"Oil, clear"' },
    ],
    lines: [{ assembly: 'COATS', quantity: 'Driver', ...(parameters && { parameters }) }],
  });
  const basisOf = (parameters?: Record<string, string>, ofRule?: Record<string, string>): PricingBasis => {
    const base = sampleBasis([coat], [], { scales, assemblies: [skirt(parameters), coats] });
    return ofRule ? { ...base, rules: [{ ...base.rules[0]!, parameters: ofRule }] } : base;
  };
  const total = (basis: PricingBasis) => run(basis, table([wall('a')])).total / 1e6;

  it('keep their own values where nothing is handed: 10 m2 x 1 x 0.1 l x 8.90', () =>
    expect(total(basisOf())).toBe(8.9));
  it('take figures and texts of the assembly outside: 10 m2 x 2 x 0.1 l x 17.60', () =>
    expect(total(basisOf({ coats: 'times', Finish: 'look' }))).toBe(35.2));
  it('follow what the rule sets of the assembly outside: 10 m2 x 3 x 0.1 l x 8.90', () =>
    expect(total(basisOf({ coats: 'times', finish: 'look' }, { times: '3', look: '"Paint"' }))).toBe(26.7));
  it('may be worked out: 10 m2 x (2 + 1) x 0.1 l x 8.90', () =>
    expect(total(basisOf({ coats: 'times + 1' }))).toBe(26.7));
  it.each([
    [{ coat: '2' }, 'parameter-unknown'],
    [{ coats: '2 m' }, 'formula-dimension'],
    [{ finish: 'Paint' }, 'formula-dimension'],
    [{ finish: 'coats' }, 'formula-dimension'],
    [{ coats: '2', Coats: '3' }, 'parameter-twice'],
  ])('are refused where they do not fit: %j', (handed, code) => {
    const made = run(basisOf(handed), table([wall('a')]));
    expect([made.total, problemOf(made)]).toEqual([0, code]);
  });
  it('are refused beside an item', () => {
    const made = run(
      sampleBasis([sampleItem('X', 'm2', '1.00')], [{ item: 'X', quantity: 'Driver', parameters: { coats: '2' } }]),
      table([wall('a')]),
    );
    expect(problemOf(made)).toBe('parameter-unknown');
  });
  it('measure anew when what was said of its own is handed from outside', () => {
    // Inside, Driver is 5 m2 of the line; outside it is 10 m2 of the wall.
    const inner: Assembly = {
      code: 'COATS',
      description: 'C',
      unit: 'm2',
      parameters: [{ name: 'area', unit: 'm2', value: 'Driver' }],
      lines: [{ item: 'X', quantity: 'area' }],
    };
    const outer = (parameters?: Record<string, string>): Assembly => ({
      code: 'A',
      description: 'A',
      unit: 'm2',
      lines: [{ assembly: 'COATS', quantity: 'Driver / 2', ...(parameters && { parameters }) }],
    });
    const memory = new PipelineMemory();
    const price = (parameters?: Record<string, string>) =>
      runPipeline(
        sampleBasis([sampleItem('X', 'm2', '1.00')], [], { assemblies: [outer(parameters), inner] }),
        [{ sourceId: 's', table: walls }],
        memory,
      ).total / 1e6;
    const walls = table([wall('a')]);
    expect([price(), price({ area: 'Driver' }), price()]).toEqual([5, 10, 5]);
  });
  it('show a fault at the line while it is typed', () => {
    const basis = basisOf();
    const { lines } = checkAssembly(skirt({ coats: 'tims', finish: '"Oil, clear"' }), basis, listQuantityNames());
    expect(Object.entries(lines[0]!.parameters).map(([name, { code }]) => [name, code])).toEqual([
      ['coats', 'formula-name-unknown'],
    ]);
  });
  it('tell runs for the whole project apart by their texts', () => {
    const perProject = {
      ...coats,
      lines: [{ item: 'COAT', per: 'project' as const, quantity: 'ceil(Driver * coats * 0.1 l/m2, 1 l)' }],
    };
    const base = basisOf({ coats: '1', finish: 'look' });
    const rules = ['a', 'b'].map((name, i) => ({
      ...base.rules[0]!,
      id: name,
      scope: { field: 'name' as const, op: 'is' as const, value: name },
      parameters: { look: i === 0 ? '"Oil, clear"' : '"Paint"' },
    }));
    const made = run(
      { ...base, assemblies: [skirt({ coats: '1', finish: 'look' }), perProject], rules },
      table([
        wall('a', { name: 'a', quantities: { NetSideArea: 11 } }),
        wall('b', { name: 'b', quantities: { NetSideArea: 12 } }),
      ]),
    );
    // The text is not read by the quantity: one run, ceil(1.1 + 1.2) = 3 l, shared out 11 to 12; each at its own rate.
    expect(made.total / 1e6).toBeCloseTo((3 * 11 * 17.6) / 23 + (3 * 12 * 8.9) / 23, 3);
  });
});

describe('a rate that goes by what the project takes', () => {
  const steps = (isSliced: boolean) => [
    {
      name: 'Concrete',
      unit: 'EUR/m3',
      isSliced,
      keys: [{ name: 'Taken', unit: 'm3' }],
      rows: [
        { at: [{ to: 100 }], value: 140 },
        { at: [{ from: 100 }], value: 128 },
      ],
    },
  ];
  const concrete = sampleItem('CONC', 'm3', null, { rateFormula: 'scale("Concrete", ItemTotal)', wastePercent: 5 });
  const basisOf = (isSliced = false) =>
    sampleBasis([concrete], [{ item: 'CONC', quantity: 'NetVolume' }], { scales: steps(isSliced) });
  const poured = (key: string, NetVolume: number) => wall(key, { quantities: { NetSideArea: 1, NetVolume } });

  it('is one for all sources: 60 and 40 m3 with 5 % waste are 105 m3, at 128.00', () => {
    const made = run(basisOf(), table([poured('a', 60)]), table([poured('b', 40)], 2));
    expect(made.total).toBe(13_440e6); // 105 x 128
    expect(explainElement(made, 1)!.lines[0]).toMatchObject({
      rate: 128,
      amount: 8064e6, // 63 x 128
      rateSteps: [{ figures: 'scale("Concrete", 105 m3)', result: 128 }],
    });
  });
  it('lies in the lower range below the limit: 60 and 35 m3 are 99.75 m3, at 140.00', () =>
    expect(run(basisOf(), table([poured('a', 60), poured('b', 35)])).total).toBe(13_965e6));
  it('is the average of the slices: 100 m3 at 140 and 5 m3 at 128', () =>
    expect(run(basisOf(true), table([poured('a', 60), poured('b', 40)])).total / 1e6).toBeCloseTo(14_640, 3));
  it('is not known while a quantity is not', () => {
    const made = run(basisOf(), table([poured('a', 60), wall('b')]));
    expect([made.total, problemOf(made, 1), problemOf(made, 2)]).toEqual([
      0,
      'item-total-unknown',
      'formula-quantity-missing',
    ]);
  });
  it('cannot read a single element too', () => {
    const both = { ...concrete, rateFormula: 'scale("Concrete", ItemTotal) * Height / 1 m' };
    expect(problemOf(run({ ...basisOf(), items: [both] }, table([poured('a', 60)])))).toBe('rate-total-alone');
  });
  it('moves all amounts when one element is added, without measuring the others again', () => {
    const memory = new PipelineMemory();
    const [first, second] = [table([poured('a', 60)]), table([poured('b', 40)], 2)];
    const price = (...tables: ReturnType<typeof table>[]) =>
      runPipeline(basisOf(), tables.map((t, i) => ({ sourceId: `s${i}`, table: t })), memory); // biome-ignore format: short
    expect(price(first).total).toBe(8820e6); // 63 x 140
    expect(price(first, second).total).toBe(13_440e6);
    expect(memory.evaluatedCells).toBe(2);
    expect(price(first).total).toBe(8820e6);
  });
});

describe('lines of the whole project that use each other', () => {
  const items = [
    sampleItem('LORRY', 'each', '100.00', { kind: 'plant' }),
    sampleItem('SWEEP', 'h', '40.00', { kind: 'labour' }),
  ];
  const lines: Lines = [
    { item: 'LORRY', name: 'Loads', per: 'project', quantity: 'ceil(Driver / 8 m2 * 1 each)' },
    { item: 'SWEEP', per: 'project', quantity: 'Loads * 0.5 h' },
  ];
  it('take the result of the whole: 20 m2 are 3 loads, 1.5 hours', () => {
    const made = run(
      sampleBasis(items, lines),
      table([wall('a'), wall('b', { quantities: { NetSideArea: 4 } }), wall('c', { quantities: { NetSideArea: 6 } })]),
    );
    expect(made.total).toBe(360e6); // 3 x 100 + 1.5 x 40
    const [, sweep] = explainElement(made, 1)!.lines;
    expect(sweep!.net).toBe(0.75); // half of it
    expect(sweep!.steps.filter((s) => s.lead === 'Once for the project').map((s) => s.figures)).toEqual([
      'ceil(20 m2 / 8 m2 * 1 each)',
      '3 each * 0.5 h',
    ]);
  });
  it('give nothing where the line they use is left out', () => {
    const [loads, sweep] = lines;
    const made = run(sampleBasis(items, [{ ...loads!, when: 'Driver > 50 m2' }, sweep!]), table([wall('a')]));
    expect([made.total, made.unknownLines]).toEqual([0, 0]);
  });
  it('measure anew when two of them change their names', () => {
    const memory = new PipelineMemory();
    const walls = table([wall('a')]);
    const price = (first: string, second: string) =>
      runPipeline(
        sampleBasis(items, [
          { item: 'LORRY', name: first, per: 'project', quantity: 'ceil(Driver / 8 m2 * 1 each)' },
          { item: 'LORRY', name: second, per: 'project', quantity: 'ceil(Driver / 2 m2 * 1 each)' },
          { item: 'SWEEP', per: 'project', quantity: 'Loads * 0.5 h' },
        ]),
        [{ sourceId: 's', table: walls }],
        memory,
      ).total / 1e6;
    // 10 m2: 2 loads or 5; 7 x 100 + 40 x 0.5 x either.
    expect([price('Loads', 'Trips'), price('Trips', 'Loads')]).toEqual([740, 800]);
  });
  it('are refused in a circle, and for lines of single elements', () => {
    const circle: Lines = [
      { ...lines[0]!, quantity: 'Sweeping * 2 / 1 h' },
      { ...lines[1]!, name: 'Sweeping' },
    ];
    expect(problemOf(run(sampleBasis(items, circle), table([wall('a')])))).toBe('formula-cycle');
    const single: Lines = [lines[0]!, { item: 'SWEEP', quantity: 'Loads * 0.5 h' }];
    const made = run(sampleBasis(items, single), table([wall('a')]));
    expect(explainElement(made, 1)!.lines[1]!.problem).toMatchObject({ code: 'line-shared' });
  });
});

describe('parameters read from the name of a type', () => {
  const board = sampleItem('BOARD', 'm2', '5.00');
  const assembly: Assembly = {
    code: 'A',
    description: 'A',
    unit: 'm2',
    parameters: [
      { name: 'layers', unit: 'number', value: 'numberIn(typeName(), "#x", 1)' },
      { name: 'thickness', unit: 'm', value: 'numberIn(typeName(), "x#") * 1 mm' },
    ],
    lines: [{ item: 'BOARD', quantity: '2 * layers * Driver', when: 'thickness >= 12.5 mm' }],
  };
  const basis = sampleBasis([board], [], { assemblies: [assembly] });
  it('"Partition EI60 2x12.5" has two layers on each side: 10 m2 x 4 x 5.00', () =>
    expect(run(basis, table([wall('a', { typeName: 'Partition EI60 2x12.5 MW' })])).total).toBe(200e6));
  it('a name without them is unknown, not 0', () => {
    const made = run(basis, table([wall('a', { typeName: 'Partition' })]));
    expect([made.total, made.unknownLines, problemOf(made)]).toEqual([0, 1, 'formula-figure-missing']);
    expect(problemOf(run(basis, table([wall('a', { typeName: null })])))).toBe('formula-text-missing');
  });
});

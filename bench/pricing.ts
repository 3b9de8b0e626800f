import {
  assignElementKeys,
  buildElementTable,
  groupPlan,
  listEffectiveQuantities,
  type ModelElement,
  mapElements,
  PipelineMemory,
  type PricingBasis,
  type PricingRule,
  runPipeline,
} from '@tally/core';

const ELEMENTS = 20_000;
const RULES = 100;
const KINDS = ['IfcWall', 'IfcSlab', 'IfcBeam', 'IfcColumn'];

/** Elements of a few kinds and types with three quantities each. */
export function makeElements(): ModelElement[] {
  return Array.from({ length: ELEMENTS }, (_, i) => {
    const quantity = (name: string, value: number, unit: 'm' | 'm2' | 'm3') =>
      ({ name, value, unit, basis: 'measured', method: 'swept' }) as const;
    return {
      globalId: `e${i}`,
      ifcClass: KINDS[i % KINDS.length]!,
      name: `Element ${i}`,
      typeName: `Type ${i % RULES}`,
      tag: null,
      storey: `Storey ${i % 5}`,
      space: null,
      parent: null,
      host: null,
      zones: [],
      materials: [`Material ${i % 17}`],
      codes: [],
      quantities: [
        quantity('Length', 3 + (i % 40) / 10, 'm'),
        quantity('NetSideArea', 9 + (i % 70) / 7, 'm2'),
        quantity('NetVolume', 2 + (i % 30) / 11, 'm3'),
      ],
      layers: [],
      openings: [],
      faces: [],
      properties: { Pset_Common: { Rating: i % 3 } },
      finishes: null,
      box: null,
    };
  });
}

function makeBasis(): PricingBasis {
  const items = Array.from({ length: 60 }, (_, i) => ({
    code: `I${i}`,
    description: `Item ${i}`,
    kind: 'material' as const,
    unit: ['m', 'm2', 'm3'][i % 3]!,
    rate: String(1 + i * 1.37),
    wastePercent: i % 8,
  }));
  const assemblies = Array.from({ length: 20 }, (_, i) => ({
    code: `A${i}`,
    description: `Assembly ${i}`,
    unit: 'm2',
    parameters: [{ name: 'Spacing', unit: 'm', value: '0.6 m' }],
    lines: [
      { item: `I${(i * 3) % 60}`, quantity: 'Driver / Spacing' },
      { item: `I${(i * 3 + 1) % 60}`, quantity: 'Driver * 1.05' },
      { item: `I${(i * 3 + 2) % 60}`, quantity: 'Driver * 0.02 m', when: 'number("Rating") > 0' },
    ],
  }));
  const rules = Array.from(
    { length: RULES },
    (_, i): PricingRule => ({
      id: `r${i}`,
      name: `Rule ${i}`,
      scope: { all: [{ field: 'type', op: 'is', value: `Type ${i}` }] },
      section: `s${i % 10}`,
      assembly: `A${i % 20}`,
      driver: 'NetSideArea',
    }),
  );
  const sections = Array.from({ length: 10 }, (_, i) => ({ id: `s${i}`, name: `Section ${i}` }));
  return { currency: 'EUR', items, assemblies, sections, rules, pins: [] };
}

/** Pricing of 20,000 elements by 100 rules, stage by stage. Baseline: building the element table of the same elements. */
export async function benchPricing(): Promise<void> {
  const elements = makeElements();
  const basis = makeBasis();
  const time = <T>(task: () => T): [T, number] => {
    const start = performance.now();
    const value = task();
    return [value, performance.now() - start];
  };
  // One round to warm up, the second counts.
  const table = () => {
    const plain = buildElementTable(elements);
    return { ...plain, keys: assignElementKeys(null, plain, 1).keys };
  };
  const round = () => {
    const [made, build] = time(table);
    const [, quantities] = time(() => listEffectiveQuantities(made));
    const [, mapping] = time(() => mapElements(made, basis.rules, basis.pins));
    const memory = new PipelineMemory();
    const sources = [{ sourceId: 's', table: made }];
    const [plan, full] = time(() => runPipeline(basis, sources, memory));
    const cells = memory.evaluatedCells;
    const [, grouping] = time(() => groupPlan(plan, ['section', 'storey'], basis));
    const dearer = { ...basis, items: basis.items.map((item, i) => (i === 0 ? { ...item, rate: '99' } : item)) };
    const [, again] = time(() => runPipeline(dearer, sources, memory));
    return { build, quantities, mapping, full, grouping, again, cells, fresh: memory.evaluatedCells - cells };
  };
  round();
  const r = round();
  const ratio = (ms: number) => `${(ms / r.build).toFixed(2)} x`;
  console.log(`baseline: element table of ${ELEMENTS} elements`);
  console.log(`quantities ${ratio(r.quantities)}`);
  console.log(`mapping by ${RULES} rules ${ratio(r.mapping)}`);
  console.log(`full pricing, ${r.cells} element x line cells ${ratio(r.full)}`);
  console.log(`grouping by section and storey ${ratio(r.grouping)}`);
  console.log(`one rate changed ${ratio(r.again)}; quantities evaluated again: ${r.fresh} of ${r.cells} cells`);
}

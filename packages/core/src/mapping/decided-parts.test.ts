import { buildElementTable } from '../elements/element-table.ts';
import type { Layer } from '../elements/model-element.ts';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { explainElement } from '../plan/explain-element.ts';
import { COMPLETENESS_STATES } from '../plan/plan.ts';
import { amountToMinor } from '../pricing/money.ts';
import { sampleItem } from '../testing/sample-basis.ts';
import { type Sample, sampleElement } from '../testing/sample-element.ts';
import { explainDecisions } from './explain-decisions.ts';
import type { Pin, PricingRule } from './pricing-rule.ts';

const layer = (material: string, thickness: number, use?: string): Layer => ({
  material,
  ...(use ? { function: use } : {}),
  thickness,
  position: null,
  weight: null,
  area: 10,
  volume: 10 * thickness,
});
/** A wall of 10 m2: board, wool between studs, board, board. */
const WALL: Sample = {
  globalId: 'wall',
  materials: ['Plasterboard', 'Mineral wool'],
  layers: [
    layer('Plasterboard', 0.0125, 'Lining'),
    layer('Mineral wool', 0.1, 'Insulation'),
    layer('Plasterboard', 0.0125, 'Lining'),
    layer('Gypsum fibre', 0.015, 'Lining'),
  ],
  quantities: { NetSideArea: 10, Count: 1 },
};
const items = [
  sampleItem('BOARD', 'm2', '8'),
  sampleItem('WOOL', 'm3', '90'),
  sampleItem('WALL', 'm2', '120'),
  sampleItem('PAINT', 'm2', '6'),
  sampleItem('SKIRT', 'm', '11'),
  sampleItem('STEEL', 'each', '400'),
];
const rule = (id: string, more: Partial<PricingRule>): PricingRule => ({
  id,
  name: id,
  scope: { all: [] },
  section: 'linings',
  ...more,
});
const BOARDS = rule('boards', { about: 'layer', scope: { field: 'material', op: 'is', value: 'plasterboard' }, item: 'BOARD', driver: 'LayerArea' }); // biome-ignore format: one rule
const WOOL = rule('wool', { about: 'layer', scope: { field: 'layer', of: 'function', op: 'is', value: 'insulation' }, item: 'WOOL', driver: 'LayerVolume' }); // biome-ignore format: one rule
const WHOLE = rule('whole', { item: 'WALL', driver: 'NetSideArea' });

function price(samples: readonly Sample[], rules: PricingRule[], pins: Pin[] = [], assemblies: PricingBasis['assemblies'] = []) {
  const table = buildElementTable(samples.map((s) => sampleElement(s)), Int32Array.from(samples, (_, i) => i + 1)); // biome-ignore format: one call
  const basis: PricingBasis = { currency: 'EUR', items, assemblies, sections: [{ id: 'linings', name: 'Linings' }], rules, pins }; // biome-ignore format: one call
  const plan = runPipeline(basis, [{ sourceId: 's', table }]);
  const part = plan.parts[0]!;
  return {
    plan,
    table,
    total: amountToMinor(plan.total),
    states: [...part.completeness].map((s) => COMPLETENESS_STATES[s]),
    explain: (row: number) => explainDecisions(table, row, rules, pins, part.mapping),
    lines: (key: number) => explainElement(plan, key)!.lines,
  };
} // biome-ignore format: one head

describe('decisions about layers', () => {
  it('two rules about two materials of one wall both count in one section', () => {
    // Two boards of 10 m2 at 8.00 and 1 m3 of wool at 90.00.
    const { total, lines } = price([WALL], [BOARDS, WOOL]);
    expect(total).toBe(160_00 + 90_00);
    expect(lines(1).map((l) => [l.part, l.code, l.net])).toEqual([
      ['layer Plasterboard', 'BOARD', 10],
      ['layer Plasterboard 2', 'BOARD', 10],
      ['layer Mineral wool', 'WOOL', 1],
    ]);
  });
  it('what of the wall nothing is decided about makes it partly priced, and is named', () => {
    const { states, plan } = price([WALL], [BOARDS, WOOL]);
    expect(states).toEqual(['partly']);
    expect(explainElement(plan, 1)!.openParts).toEqual(['layer Gypsum fibre']);
    expect(price([WALL], [{ ...BOARDS, scope: { all: [] } }]).states).toEqual(['priced']);
    const left = rule('rest', { about: 'layer', scope: { field: 'layer', op: 'contains', value: 'gypsum' }, leaveOut: 'By the client' }); // biome-ignore format: one rule
    expect(price([WALL], [BOARDS, WOOL, left]).states).toEqual(['priced']);
  });
  it('a wall and its layers are never both priced in one section, whichever comes first', () => {
    expect(price([WALL], [WHOLE, BOARDS, WOOL])).toMatchObject({ total: 1200_00, states: ['priced'] });
    expect(price([WALL], [BOARDS, WHOLE])).toMatchObject({ total: 160_00 });
    // In another section they add up, and nothing of the wall is open.
    expect(price([WALL], [WHOLE, { ...BOARDS, section: 'paint' }])).toMatchObject({
      total: 1360_00,
      states: ['priced'],
    });
  });
  it('the first rule in order has a layer that two catch', () => {
    const dear = { ...BOARDS, id: 'dear', name: 'Dear', item: 'PAINT' };
    expect(price([WALL], [dear, BOARDS]).total).toBe(120_00);
    const [section] = price([WALL], [dear, BOARDS]).explain(0);
    expect(section).toMatchObject({ winner: null, whyNot: null });
    expect(section!.parts.map((p) => [p.part, p.winner?.id, p.others.map((o) => o.lost)])).toEqual([
      ['layer Plasterboard', 'dear', ['Dear comes before it.']],
      ['layer Plasterboard 2', 'dear', ['Dear comes before it.']],
    ]);
  });
  it('a pin on the layers of a wall beats rules, for that wall only', () => {
    const pin: Pin = { id: 'p', element: 1, section: 'linings', about: 'layer', of: 'PLASTERBOARD', item: 'PAINT', driver: 'LayerArea' }; // biome-ignore format: one pin
    expect(price([WALL, { ...WALL, globalId: 'other' }], [BOARDS], [pin]).total).toBe(120_00 + 160_00);
  });
  it('an assembly is handed the layer, and its lines per layer run over that one only', () => {
    const lined = [{ code: 'LINED', description: 'Lined', unit: 'm2', lines: [{ item: 'BOARD', quantity: 'Driver * 2' }, { item: 'PAINT', per: 'layer' as const, quantity: 'LayerArea', when: 'like(layerMaterial(), "plaster*")' }] }]; // biome-ignore format: one list
    // Two layers: 20 m2 of board at 8.00 and 10 m2 of paint at 6.00 each.
    const made = { ...BOARDS, item: undefined, assembly: 'LINED' };
    expect(price([WALL], [made], [], lined).total).toBe(2 * (160_00 + 60_00));
  });
  it('a figure that a layer lacks is a problem of its line, never 0', () => {
    const bare = { ...WALL, layers: WALL.layers!.map((l) => ({ ...l, volume: null })) };
    const { lines, states } = price([bare], [WOOL]);
    expect(lines(1)[0]!.problem?.message).toMatch(/LayerVolume/);
    expect(states).toEqual(['unpriced']);
  });
});

describe('decisions about face styles and finishes', () => {
  const faced: Sample = {
    globalId: 'wall',
    faces: [
      { style: 'Render', look: 'side', area: 12 },
      { style: 'Plaster', look: 'side', area: 11 },
      { style: 'Render', look: 'end', area: 0.5 },
    ],
  };
  it('a style is priced by the area of all its faces', () => {
    const rules = [rule('render', { about: 'face', scope: { field: 'style', op: 'contains', value: 'render' }, item: 'PAINT', driver: 'FaceArea' })]; // biome-ignore format: one rule
    expect(price([faced], rules)).toMatchObject({ total: 75_00, states: ['partly'] });
  });
  const room: Sample = {
    globalId: 'room',
    ifcClass: 'IfcSpace',
    finishes: { floor: 'Oak', wall: null, ceiling: null, skirting: 'Oak board' },
    quantities: { NetFloorArea: 20, NetPerimeter: 18, Count: 1 },
  };
  it('a finish is priced by its area, a skirting by its length', () => {
    const floor = rule('floor', { about: 'finish', scope: { field: 'finish', of: 'floor', op: 'is', value: 'oak' }, item: 'PAINT', driver: 'FinishArea' }); // biome-ignore format: one rule
    const skirting = rule('skirting', { about: 'finish', scope: { field: 'finish', of: 'skirting', op: 'present' }, item: 'SKIRT', driver: 'FinishLength' }); // biome-ignore format: one rule
    expect(price([room], [floor, skirting])).toMatchObject({ total: 120_00 + 198_00, states: ['priced'] });
    expect(price([room], [floor]).states).toEqual(['partly']);
  });
});

describe('rules that are also for parts, or for what is hosted', () => {
  const truss: Sample[] = [
    { globalId: 'truss', ifcClass: 'IfcElementAssembly' },
    { globalId: 'chord', ifcClass: 'IfcMember', parent: 'truss', quantities: { Count: 1 } },
    { globalId: 'post', ifcClass: 'IfcMember', parent: 'truss', quantities: { Count: 1 } },
    { globalId: 'wall', host: null },
    { globalId: 'door', ifcClass: 'IfcDoor', host: 'wall' },
  ];
  const trusses = rule('trusses', { scope: { field: 'class', op: 'is', value: 'IfcElementAssembly' }, item: 'STEEL', driver: 'Count', also: ['parts'] }); // biome-ignore format: one rule
  it('prices the parts in place of their whole, after what catches the parts themselves', () => {
    expect(price(truss, [trusses])).toMatchObject({
      total: 800_00,
      states: ['leftOut', 'priced', 'priced', 'unpriced', 'unpriced'],
    });
    const own = rule('posts', { scope: { field: 'globalId', op: 'is', value: 'post' }, item: 'BOARD', driver: '1 m2' });
    expect(price(truss, [trusses, own]).total).toBe(408_00);
    expect(price(truss, [trusses, own]).explain(2)[0]).toMatchObject({
      winner: { id: 'posts', kind: 'order' },
      others: [{ id: 'trusses', kind: 'inherited', rank: 4, lost: 'posts catches the element itself.' }],
    });
  });
  it('goes down to the last parts, whatever the order in which they stand', () => {
    const frame: Sample = { globalId: 'frame', ifcClass: 'IfcElementAssembly', parent: 'truss' };
    const post = (id: string): Sample => ({ globalId: id, ifcClass: 'IfcMember', parent: 'frame', quantities: { Count: 1 } }); // biome-ignore format: one line
    const outer = { ...trusses, scope: { field: 'globalId', op: 'is', value: 'truss' } as const };
    for (const order of [
      [truss[0]!, frame, post('a'), post('b')],
      [post('a'), frame, truss[0]!, post('b')],
    ])
      expect(price(order, [outer]).total).toBe(800_00);
  });
  it('leaves out what a left-out wall hosts', () => {
    const out = rule('out', { scope: { field: 'class', op: 'is', value: 'IfcWall' }, section: undefined, leaveOut: 'By others', also: ['hosted'] }); // biome-ignore format: one rule
    expect(price(truss, [out, trusses]).states.slice(3)).toEqual(['leftOut', 'leftOut']);
  });
  it('conditions ask about the whole and the host', () => {
    const ofTruss = rule('of', { scope: { field: 'part', of: 'class', op: 'is', value: 'IfcElementAssembly' }, item: 'STEEL', driver: 'Count' }); // biome-ignore format: one rule
    expect(price(truss, [ofTruss]).total).toBe(800_00);
    const inWall = rule('in', { scope: { all: [{ field: 'host', op: 'present' }, { field: 'host', of: 'class', op: 'is', value: 'IfcWall' }] }, leaveOut: 'x' }); // biome-ignore format: one rule
    expect(price(truss, [inWall]).states).toEqual(['unpriced', 'unpriced', 'unpriced', 'unpriced', 'leftOut']);
  });
});

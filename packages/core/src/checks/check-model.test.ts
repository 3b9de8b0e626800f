import fc from 'fast-check';
import { meshSweptSolid } from '../geometry/mesh-solid.ts';
import { frameToMatrix, type Vector3 } from '../geometry/vector.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { checkModel } from './check-model.ts';
import { measureSharedBodies, type PlacedBody, reportOverlaps } from './check-overlaps.ts';

const storeys = [
  { name: 'Ground floor', elevation: 0, gfa: null, gfaMethod: null },
  { name: 'Upper floor', elevation: 3, gfa: null, gfaMethod: null },
];
const codes = (elements: Parameters<typeof checkModel>[0]) => checkModel(elements, storeys).map((f) => f.code);
const wall = (globalId: string, more: Partial<Parameters<typeof sampleElement>[0]> = {}) =>
  sampleElement({ globalId, quantities: { Length: 4, Height: 2.8, Width: 0.2 }, box: [0, 0, 0, 4, 0.2, 2.8], ...more });

describe('the check of a whole model', () => {
  it('finds nothing in a sound one', () => expect(codes([wall('a'), wall('b')])).toEqual([]));

  it.each([
    [1000, '1000 times too large'],
    [304.8, '304.8 times too large'],
    [1 / 25.4, '25.4 times too small'],
    [0.001, '1000 times too small'],
  ])('sees a slip of the unit by %d', (factor, words) => {
    const quantities = { Length: 4 * factor, Height: 2.8 * factor, Width: 0.2 * factor };
    const [finding] = checkModel([wall('a', { quantities }), wall('b', { quantities })], []);
    expect(finding).toMatchObject({ code: 'absurd-size', message: expect.stringContaining(words) });
  });

  it('sees an element above the next storey and one far below its own', () => {
    const found = checkModel(
      [
        wall('up', { box: [0, 0, 3, 4, 0.2, 5.8] }),
        wall('down', { box: [0, 0, -4, 4, 0.2, -1.2] }),
        wall('footing', { box: [0, 0, -0.8, 4, 0.2, -0.2] }),
      ],
      storeys,
    );
    expect(found.map((f) => [f.code, f.globalIds])).toEqual([
      ['storey-level-differs', ['up']],
      ['storey-level-differs', ['down']],
    ]);
  });

  it('compares layers with the body, and tells a layer without thickness', () => {
    const layer = (thickness: number) => ({
      material: 'Brick',
      thickness,
      position: 0,
      area: 10,
      volume: 10 * thickness,
      weight: null,
    });
    expect(codes([wall('a', { layers: [layer(0.1), layer(0.1)] })])).toEqual([]);
    expect(codes([wall('a', { layers: [layer(0.1), layer(0.12)] })])).toEqual(['layers-differ-from-width']);
    expect(codes([wall('a', { layers: [layer(0.2), layer(0)] })])).toEqual(['zero-thickness-layer']);
  });

  it('sees one type in several widths and names those that stand out', () => {
    const thick = wall('c', { quantities: { Length: 4, Height: 2.8, Width: 0.3 } });
    const [finding] = checkModel([wall('a'), wall('b'), thick], []);
    expect(finding).toMatchObject({ code: 'type-used-with-different-widths', globalIds: ['c'] });
  });

  it('lists rooms without a floor finish with their area', () => {
    const room = (globalId: string, floor: string | null) =>
      sampleElement({
        globalId,
        name: globalId,
        ifcClass: 'IfcSpace',
        quantities: { NetFloorArea: 12.5, Height: 2.6 },
        finishes: { floor, wall: null, ceiling: null, skirting: null },
      });
    const found = checkModel([room('Hall', 'Oak'), room('Store', null), room('Loft', null)], []);
    expect(found.map((f) => [f.code, f.globalIds])).toEqual([
      ['room-without-finish', ['Store']],
      ['room-without-finish', ['Loft']],
    ]);
    expect(found[0]!.message).toContain('12.5 m2');
  });
});

describe('overlaps', () => {
  let row = 0;
  const box = (
    globalId: string,
    [x, y, z]: Vector3,
    [w, d, h]: Vector3,
    more: Partial<PlacedBody> = {},
  ): PlacedBody => ({
    row: row++,
    globalId,
    ifcClass: 'IfcWall',
    label: globalId,
    group: 'wall',
    spaceKind: null,
    wholes: [],
    min: [x, y, z],
    max: [x + w, y + d, z + h],
    volumeM3: w * d * h,
    widthM: null,
    shape: () => ({
      cuts: [],
      mesh: meshSweptSolid({
        profile: { kind: 'rectangle', x: w, y: d, radius: 0 },
        placement: frameToMatrix([x + w / 2, y + d / 2, z]),
        direction: [0, 0, 1],
        depth: h,
      }),
    }),
    ...more,
  });
  const column: Partial<PlacedBody> = { ifcClass: 'IfcColumn', group: 'linear' };
  const pairs = (bodies: readonly PlacedBody[]) => {
    const byRow = new Map(bodies.map((b) => [b.row, b]));
    return reportOverlaps(measureSharedBodies(bodies), (r) => byRow.get(r)!).map((f) => f.globalIds);
  };

  it('measures what two walls share', () => {
    // They share 2 x 0.2 x 3 = 1.2 m3 of 2.4 and 3.
    const bodies = [
      box('a', [0, 0, 0], [4, 0.2, 3]),
      box('b', [2, 0, 0], [5, 0.2, 3]),
      box('c', [0, 3, 0], [4, 0.2, 3]),
    ];
    expect(measureSharedBodies(bodies)).toEqual([
      { a: bodies[0]!.row, b: bodies[1]!.row, sharedM3: expect.closeTo(1.2, 6), smallerM3: expect.closeTo(2.4, 9) },
    ]);
  });
  it('finds a column in a wall and a beam in a slab, across their classes', () => {
    expect(pairs([box('wall', [0, 0, 0], [4, 0.3, 3]), box('column', [1, 0, 0], [0.3, 0.3, 3], column)])).toEqual([
      ['wall', 'column'],
    ]);
    // A beam of 0.2 x 0.5 with its upper 0.2 in the slab: 40 %.
    const slab = box('slab', [0, 0, 3], [5, 5, 0.2], { ifcClass: 'IfcSlab', group: 'slab' });
    expect(pairs([slab, box('beam', [0, 2, 2.7], [5, 0.2, 0.5], { ...column, ifcClass: 'IfcBeam' })])).toEqual([
      ['slab', 'beam'],
    ]);
  });
  it('lets walls meet at a corner, what is cut out of one hold another, parts lie in their whole, bars in concrete', () => {
    const wall = { widthM: 0.2 };
    expect(pairs([box('a', [0, 0, 0], [0.4, 0.2, 3], wall), box('b', [0.2, 0, 0], [0.2, 4, 3], wall)])).toEqual([]);
    const host = box('wall', [0, 0, 0], [4, 0.3, 3]);
    const opening = box('', [1, -0.1, 1], [1, 0.5, 1]).shape()!.mesh;
    const holed = { ...host, shape: () => ({ mesh: host.shape()!.mesh, cuts: [opening] }) };
    const beam = box('beam', [1.2, 0, 1.2], [0.5, 0.3, 0.5], { ...column, ifcClass: 'IfcBeam' });
    expect(pairs([host, beam])).toEqual([['wall', 'beam']]);
    expect(pairs([holed, beam])).toEqual([]);
    expect(pairs([host, box('part', [0, 0, 0], [4, 0.1, 3], { wholes: ['wall'] })])).toEqual([]);
    expect(
      pairs([host, box('bar', [1, 0.1, 0], [0.02, 0.02, 3], { ...column, ifcClass: 'IfcReinforcingBar' })]),
    ).toEqual([]);
  });
  it('tells rooms of different kinds from rooms that overlap', () => {
    const room = (kind: string): Partial<PlacedBody> => ({ ifcClass: 'IfcSpace', group: 'space', spaceKind: kind });
    const [a, b] = [box('a', [0, 0, 0], [4, 3, 3], room('room')), box('b', [1, 0, 0], [4, 3, 3], room('room'))];
    expect(pairs([a, b])).toEqual([['a', 'b']]);
    expect(pairs([a, { ...b, spaceKind: 'gross-area' }])).toEqual([]);
  });
  it('two bodies of one class in one place count as that', () => {
    const [a, b] = [box('a', [0, 0, 0], [4, 0.2, 3]), box('b', [0, 0, 0.005], [4, 0.2, 3])];
    const found = reportOverlaps(measureSharedBodies([a, b]), (r) => (r === a.row ? a : b));
    expect(found.map((f) => f.code)).toEqual(['coincident']);
  });
  it('finds every pair that a comparison of all with all finds', () => {
    const sizes = fc.tuple(
      fc.integer({ min: 0, max: 20 }),
      fc.integer({ min: 0, max: 20 }),
      fc.integer({ min: 1, max: 6 }),
    );
    fc.assert(
      fc.property(fc.array(sizes, { minLength: 2, maxLength: 25 }), (list) => {
        const bodies = list.map(([x, y, w], i) => box(`b${i}`, [x, y, 0], [w, w, 3], { ifcClass: 'IfcSlab' }));
        const key = (ids: readonly string[]) => [...ids].sort().join();
        const expected = bodies.flatMap((a, i) =>
          bodies.slice(i + 1).flatMap((b) => {
            const w = Math.min(a.max[0], b.max[0]) - Math.max(a.min[0], b.min[0]);
            const d = Math.min(a.max[1], b.max[1]) - Math.max(a.min[1], b.min[1]);
            const isShared = w > 0 && d > 0 && w * d * 3 > 0.2 * Math.min(a.volumeM3, b.volumeM3) + 1e-6;
            return isShared ? [key([a.globalId, b.globalId])] : [];
          }),
        );
        expect(pairs(bodies).map(key).sort()).toEqual(expected.sort());
      }),
    );
  });
});

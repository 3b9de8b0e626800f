import fc from 'fast-check';
import type { Vector2 } from '../geometry/vector.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { checkModel } from './check-model.ts';
import { findOverlaps, type PlacedBody } from './check-overlaps.ts';

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
    expect(found.map((f) => [f.code, f.globalIds])).toEqual([['storey-level-differs', ['up', 'down']]]);
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
    const [finding] = checkModel([room('Hall', 'Oak'), room('Store', null), room('Loft', null)], []);
    expect(finding).toMatchObject({ code: 'room-without-finish', globalIds: ['Store', 'Loft'] });
    expect(finding!.message).toContain('25 m2');
  });
});

describe('overlaps', () => {
  const box = (
    globalId: string,
    x: number,
    y: number,
    w: number,
    d: number,
    more: Partial<PlacedBody> = {},
  ): PlacedBody => {
    const outline: Vector2[] = [[x, y], [x + w, y], [x + w, y + d], [x, y + d]]; // biome-ignore format: one outline
    return {
      globalId,
      label: globalId,
      kind: 'wall',
      min: [x, y, 0],
      max: [x + w, y + d, 3],
      volumeM3: w * d * 3,
      figure: [outline],
      ...more,
    };
  };
  it('measures what two walls share', () => {
    // They share 2 x 0.2 x 3 = 1.2 m3 of 2.4 and 3.
    const found = findOverlaps([box('a', 0, 0, 4, 0.2), box('b', 2, 0, 5, 0.2), box('c', 0, 3, 4, 0.2)]);
    expect(found).toEqual([
      {
        a: expect.objectContaining({ globalId: 'a' }),
        b: expect.objectContaining({ globalId: 'b' }),
        sharedM3: expect.closeTo(1.2, 9),
      },
    ]);
  });
  it('lets walls meet at a corner, and bodies of different kinds', () => {
    expect(findOverlaps([box('a', 0, 0, 4, 0.2), box('b', 3.8, 0, 0.2, 4)])).toEqual([]);
    expect(findOverlaps([box('a', 0, 0, 1, 1), box('b', 0, 0, 1, 1, { kind: 'linear' })])).toEqual([]);
  });
  it('finds every pair that a comparison of all with all finds', () => {
    const sizes = fc.tuple(
      fc.integer({ min: 0, max: 20 }),
      fc.integer({ min: 0, max: 20 }),
      fc.integer({ min: 1, max: 6 }),
    );
    fc.assert(
      fc.property(fc.array(sizes, { minLength: 2, maxLength: 25 }), (list) => {
        const bodies = list.map(([x, y, w], i) => box(`b${i}`, x, y, w, w));
        const key = (a: string, b: string) => [a, b].sort().join();
        const expected = bodies.flatMap((a, i) =>
          bodies.slice(i + 1).flatMap((b) => {
            const w = Math.min(a.max[0], b.max[0]) - Math.max(a.min[0], b.min[0]);
            const d = Math.min(a.max[1], b.max[1]) - Math.max(a.min[1], b.min[1]);
            return w > 0 && d > 0 && w * d * 3 > 0.2 * Math.min(a.volumeM3, b.volumeM3) + 1e-9
              ? [key(a.globalId, b.globalId)]
              : [];
          }),
        );
        expect(
          findOverlaps(bodies)
            .map(({ a, b }) => key(a.globalId, b.globalId))
            .sort(),
        ).toEqual(expected.sort());
      }),
    );
  });
});

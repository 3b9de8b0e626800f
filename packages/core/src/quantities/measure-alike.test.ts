import fc from 'fast-check';
import type { SweptSolid } from '../geometry/swept-solid.ts';
import { frameToMatrix, type Matrix } from '../geometry/vector.ts';
import type { ElementBody } from './element-body.ts';
import { AlikeMeasurer } from './measure-alike.ts';
import { type MeasureInput, measureElement } from './measure-element.ts';

const solid = (x: number, y: number, depth: number): SweptSolid => ({
  profile: { kind: 'rectangle', x, y, radius: 0 },
  placement: frameToMatrix([0, 0, 0]),
  direction: [0, 0, 1],
  depth,
});
const body = (solids: SweptSolid[]): ElementBody => ({ solids, isClipped: false, hasOther: false, openings: [] });
const at = (x: number, y: number, z: number, angle = 0): Matrix =>
  frameToMatrix([x, y, z], [0, 0, 1], [Math.cos(angle), Math.sin(angle), 0]);
const window = (shown: ElementBody, placement: Matrix, more: Partial<MeasureInput> = {}): MeasureInput => ({
  group: 'other',
  body: shown,
  meshes: null,
  layersM: null,
  overall: null,
  up: [0, 0, 1],
  placement,
  ...more,
});

describe('elements that show one body', () => {
  it('share their figures, and stand each where they stand', () => {
    const shown = body([solid(1.2, 0.1, 1.4)]);
    const alike = new AlikeMeasurer();
    const first = alike.measure(window(shown, at(0, 0, 0)));
    const second = alike.measure(window(shown, at(10, 5, 3)));
    expect(second.quantities).toBe(first.quantities);
    // 1.2 x 0.1 x 1.4 m about (10, 5), from 3 m on.
    expect(second.worldExtents?.min).toEqual([10 - 0.6, 5 - 0.05, 3]);
    expect(second.worldExtents?.max).toEqual([10 + 0.6, 5 + 0.05, 3 + 1.4]);
    expect(first.worldExtents?.max[2]).toBeCloseTo(1.4, 12);
  });

  it('one that is drawn out of all range is lost alone, whichever comes first', () => {
    for (const places of [
      [at(0, 0, 0), at(1e12, 0, 0)],
      [at(1e12, 0, 0), at(0, 0, 0)],
    ]) {
      const shown = body([solid(1, 1, 1)]);
      const alike = new AlikeMeasurer();
      const problems = places.map((place) => alike.measure(window(shown, place)).problem);
      expect(problems).toEqual(places.map((place) => (place[3] > 1e8 ? 'size-out-of-range' : null)));
    }
  });

  it('have the figures of each measured for itself, whatever else tells them apart', () => {
    const bodies = [
      body([solid(1.2, 0.1, 1.4)]),
      body([solid(4, 0.3, 3)]),
      // A frame with a pane that touches it, and two boxes apart.
      body([solid(1.2, 0.1, 1.4), { ...solid(0.2, 0.1, 1.4), placement: frameToMatrix([2, 0, 0]) }]),
    ];
    const element = fc.record({
      body: fc.constantFrom(...bodies),
      group: fc.constantFrom<MeasureInput['group'][]>('wall', 'slab', 'filler', 'footing', 'linear', 'other'),
      layersM: fc.constantFrom(null, 0.3),
      overall: fc.constantFrom(null, { widthM: 1.2, heightM: 1.4 }, { widthM: 1.3, heightM: 1.4 }),
      up: fc.constantFrom<NonNullable<MeasureInput['up']>[]>([0, 0, 1], [0, 1, 0]),
      x: fc.integer({ min: -50, max: 50 }),
      angle: fc.constantFrom(0, 0.3, Math.PI / 2),
    });
    fc.assert(
      fc.property(fc.array(element, { minLength: 1, maxLength: 30 }), (elements) => {
        const alike = new AlikeMeasurer();
        for (const { x, angle, ...rest } of elements) {
          const input: MeasureInput = { ...rest, meshes: null, placement: at(x, 2 * x, 0, angle) };
          expect(alike.measure(input)).toEqual(measureElement(input));
        }
      }),
      { numRuns: 60 },
    );
  });

  it('those with openings are measured each for itself', () => {
    const open: ElementBody = {
      ...body([solid(4, 0.3, 3)]),
      openings: [
        { globalId: 'o', filledBy: null, solid: { ...solid(1, 0.3, 1), placement: frameToMatrix([0, 0, 1]) } },
      ],
    };
    const alike = new AlikeMeasurer();
    const [first, second] = [at(0, 0, 0), at(5, 0, 0)].map((place) =>
      alike.measure(window(open, place, { group: 'wall' })),
    );
    const net = (outcome: typeof first) => outcome?.quantities.find((q) => q.name === 'NetVolume')?.value;
    // 4 x 0.3 x 3 less 1 x 0.3 x 1.
    expect(net(first)).toBeCloseTo(3.3, 9);
    expect(net(second)).toBeCloseTo(3.3, 9);
    expect(second?.quantities).not.toBe(first?.quantities);
  });
});

import fc from 'fast-check';
import type { SweptSolid } from '../geometry/swept-solid.ts';
import { frameToMatrix, IDENTITY, transformPoint } from '../geometry/vector.ts';
import type { ElementBody } from './element-body.ts';
import { measureLayers, weighElement } from './layer-quantities.ts';
import { classToMeasureGroup, measureElement } from './measure-element.ts';
import type { MeasureGroup } from './quantity-names.ts';

const rect = (x: number, y: number, depth: number, placement = IDENTITY): SweptSolid => ({
  profile: { kind: 'rectangle', x, y, radius: 0 },
  placement,
  direction: [0, 0, 1],
  depth,
});
const body = (solids: SweptSolid[], openings: SweptSolid[] = [], more: Partial<ElementBody> = {}): ElementBody => ({
  solids,
  isClipped: false,
  hasOther: false,
  openings: openings.map((solid, i) => ({ globalId: `o${i}`, filledBy: null, solid })),
  ...more,
});
const measure = (
  group: MeasureGroup,
  b: ElementBody | null,
  meshes: Parameters<typeof measureElement>[0]['meshes'] = null,
  layersM: number | null = null,
) => {
  const outcome = measureElement({ group, body: b, meshes, layersM, overall: null });
  return {
    ...outcome,
    figures: Object.fromEntries(outcome.quantities.map((q) => [q.name, q.value])),
    methods: Object.fromEntries(outcome.quantities.map((q) => [q.name, q.method])),
  };
};
const near = (value: number) => expect.closeTo(value, 6);
const about = (value: number) => expect.closeTo(value, 5);
const size = fc.double({ min: 0.05, max: 20, noNaN: true });

/** A turn about the upward axis at a place. */
const turned = (angle: number, x = 0, y = 0) =>
  frameToMatrix([x, y, 0], [0, 0, 1], [Math.cos(angle), Math.sin(angle), 0]);

describe('elements drawn askew in their own frame', () => {
  it('a wall at any angle with an opening measures like one along the axes', () => {
    fc.assert(
      fc.property(fc.double({ min: -3.1, max: 3.1, noNaN: true }), (angle) => {
        // 6 x 0.25 x 3 with a 1 x 2 door: side 18 - 2, volume 4.5 - 0.5.
        const wall = rect(6, 0.25, 3, turned(angle, 100, 50));
        const door = rect(1, 0.4, 2, turned(angle, 100 + Math.cos(angle), 50 + Math.sin(angle)));
        const { figures, methods, openings } = measure('wall', body([wall], [door]));
        expect(figures).toMatchObject({
          Length: about(6),
          Width: about(0.25),
          Height: about(3),
          GrossSideArea: about(18),
          NetSideArea: about(16),
          NetVolume: about(4),
        });
        expect(methods.NetSideArea).toBe('swept-openings');
        expect(openings[0]).toMatchObject({ width: about(1), height: about(2), area: about(2) });
      }),
    );
  });
  it('a bent wall without layers: thickness and length from its strip', () => {
    // An L of 4 m and 3 m outside, 0.2 m thick: area 4 x 0.2 + 2.8 x 0.2 = 1.36; length 6.8 along the middle.
    const corners: [number, number][] = [[0, 0], [4, 0], [4, 3], [3.8, 3], [3.8, 0.2], [0, 0.2]]; // biome-ignore format: one outline
    const outer = corners.map(([x, y]) => ({ x, y, sweep: 0 }));
    const { figures } = measure('wall', body([{ ...rect(1, 1, 2.5), profile: { kind: 'outline', outer, holes: [] } }]));
    expect(figures).toMatchObject({
      Width: near(0.2),
      Length: near(6.8),
      GrossSideArea: near(17),
      NetVolume: near(3.4),
    });
  });
  it('a quarter-circle wall of 5 m radius, 0.3 m thick', () => {
    const [a, b, h] = [5.15, 4.85, Math.PI / 2];
    const outer = [
      { x: a, y: 0, sweep: h },
      { x: 0, y: a, sweep: 0 },
      { x: 0, y: b, sweep: -h },
      { x: b, y: 0, sweep: 0 },
    ];
    const { figures } = measure('wall', body([{ ...rect(1, 1, 3), profile: { kind: 'outline', outer, holes: [] } }]));
    expect(figures).toMatchObject({ Width: near(0.3), Length: near(5 * h), NetSideArea: near(15 * h) });
  });
  it('a slab turned in its profile, a round slab', () => {
    const [c, s] = [Math.cos(0.5), Math.sin(0.5)];
    const outer = [[0, 0], [5, 0], [5, 2], [0, 2]].map(([x, y]) => ({ x: x! * c - y! * s, y: x! * s + y! * c, sweep: 0 })); // biome-ignore format: one outline
    const slab = measure('slab', body([{ ...rect(1, 1, 0.2), profile: { kind: 'outline', outer, holes: [] } }]));
    expect(slab.figures).toMatchObject({ Length: near(5), Width: near(2), Depth: near(0.2), GrossArea: near(10) });
    const round = measure('slab', body([{ ...rect(1, 1, 0.2), profile: { kind: 'circle', radius: 1.5 } }]));
    expect(round.figures).toMatchObject({ Length: near(3), Width: near(3), GrossArea: near(Math.PI * 2.25) });
  });
  it('a meshed body askew', () => {
    const mesh = boxMesh([0, 0, 0], [2, 0.5, 1]);
    const m = turned(0.7);
    const positions = Float64Array.from(mesh.positions);
    for (let i = 0; i < positions.length; i += 3)
      positions.set(transformPoint(m, [positions[i]!, positions[i + 1]!, positions[i + 2]!]), i);
    const net = { positions, indices: mesh.indices };
    const { figures } = measure('other', body([], [], { hasOther: true }), { net, gross: null });
    expect(figures).toMatchObject({ Length: near(2), Width: near(0.5), Height: near(1), NetVolume: near(1) });
  });
});

/** A box mesh between two corners. */
function boxMesh([x0, y0, z0]: number[], [x1, y1, z1]: number[]) {
  const positions = [
    x0,
    y0,
    z0,
    x1,
    y0,
    z0,
    x1,
    y1,
    z0,
    x0,
    y1,
    z0,
    x0,
    y0,
    z1,
    x1,
    y0,
    z1,
    x1,
    y1,
    z1,
    x0,
    y1,
    z1,
  ] as number[];
  return {
    positions,
    indices: [
      0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7,
    ],
  };
}

describe('walls', () => {
  it('a wall 4.8 x 0.3 x 3 with a window 1.2 x 1.5', () => {
    const { figures, methods, openings } = measure(
      'wall',
      body([rect(4.8, 0.3, 3, frameToMatrix([2.4, 0, 0]))], [rect(1.2, 0.5, 1.5, frameToMatrix([2.4, 0, 0.9]))]),
    );
    expect(figures).toMatchObject({
      Length: near(4.8),
      Width: near(0.3),
      Height: near(3),
      GrossSideArea: near(14.4),
      NetSideArea: near(12.6),
      GrossFootprintArea: near(1.44),
      GrossVolume: near(4.32),
      NetVolume: near(3.78),
      OuterSurfaceArea: near(30.6),
      Count: 1,
    });
    expect(methods).toMatchObject({ GrossSideArea: 'swept', NetVolume: 'swept-openings' });
    expect(openings[0]).toMatchObject({ width: near(1.2), height: near(1.5), area: near(1.8), perimeter: near(5.4) });
  });
  it('gross less openings is net, for any wall and window inside it', () => {
    fc.assert(
      fc.property(
        size,
        fc.double({ min: 0.05, max: 0.6, noNaN: true }),
        size,
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        (l, w, h, a, b) => {
          fc.pre(l > w);
          const { figures } = measure(
            'wall',
            body([rect(l, w, h)], [rect(l * a, w + 0.2, h * b, frameToMatrix([0, 0, h * 0.05]))]),
          );
          expect(figures.GrossSideArea! - figures.NetSideArea!).toBeCloseTo(l * a * h * b, 6);
          expect(figures.NetVolume!).toBeCloseTo(figures.NetSideArea! * w, 6);
        },
      ),
    );
  });
  it('a gable drawn as an elevation: 10 m wide, 4 m high, 0.3 thick', () => {
    const triangle: SweptSolid = {
      profile: {
        kind: 'outline',
        outer: [
          { x: 0, y: 0, sweep: 0 },
          { x: 10, y: 0, sweep: 0 },
          { x: 5, y: 4, sweep: 0 },
        ],
        holes: [],
      },
      placement: frameToMatrix([0, 0.15, 0], [0, -1, 0], [1, 0, 0]),
      direction: [0, 0, 1],
      depth: 0.3,
    };
    expect(measure('wall', body([triangle])).figures).toMatchObject({
      Length: near(10),
      Height: near(4),
      Width: near(0.3),
      GrossSideArea: near(20),
      NetVolume: near(6),
    });
  });
  it('a curved wall: its length is footprint over thickness', () => {
    // Quarter ring of radii 5 and 4.7.
    const ring: SweptSolid = {
      profile: {
        kind: 'outline',
        outer: [
          { x: 5, y: 0, sweep: Math.PI / 2 },
          { x: 0, y: 5, sweep: 0 },
          { x: 0, y: 4.7, sweep: -Math.PI / 2 },
          { x: 4.7, y: 0, sweep: 0 },
        ],
        holes: [],
      },
      placement: IDENTITY,
      direction: [0, 0, 1],
      depth: 3,
    };
    const { figures } = measure('wall', body([ring]), null, 0.3);
    expect(figures.Length).toBeCloseTo((Math.PI / 2) * 4.85, 6);
    expect(figures.GrossVolume).toBeCloseTo((Math.PI / 4) * (25 - 22.09) * 3, 6);
  });
  it('a clipped wall waits for the mesh, then is exact gross x mesh share', () => {
    const clipped = body([rect(4, 0.2, 3, frameToMatrix([2, 0, 0]))], [], { isClipped: true });
    expect(measure('wall', clipped)).toMatchObject({ needs: { net: true }, figures: { Count: 1 } });
    const { figures, methods } = measure('wall', clipped, { net: boxMesh([0, -0.1, 0], [4, 0.1, 2]), gross: null });
    expect(figures).toMatchObject({ NetVolume: near(1.6), GrossSideArea: near(8), Height: near(2), Length: near(4) });
    expect(methods.NetVolume).toBe('swept-clipped');
  });
});

describe('slabs, beams, footings, doors, rooms', () => {
  it('a slab 6 x 4 x 0.2 with a round hole of 0.6', () => {
    const hole: SweptSolid = {
      profile: { kind: 'circle', radius: 0.3 },
      placement: frameToMatrix([1, 0.5, -0.1]),
      direction: [0, 0, 1],
      depth: 0.5,
    };
    const { figures } = measure('slab', body([rect(6, 4, 0.2)], [hole]));
    expect(figures).toMatchObject({
      Length: near(6),
      Width: near(4),
      Depth: near(0.2),
      Perimeter: near(20),
      GrossArea: near(24),
      NetArea: near(24 - Math.PI * 0.09),
      NetVolume: near(4.8 - Math.PI * 0.018),
    });
  });
  it('a round column is exact, not chorded', () => {
    const { figures } = measure(
      'linear',
      body([{ profile: { kind: 'circle', radius: 0.175 }, placement: IDENTITY, direction: [0, 0, 1], depth: 3.6 }]),
    );
    expect(figures).toMatchObject({
      Length: near(3.6),
      CrossSectionArea: near(Math.PI * 0.030625),
      OuterSurfaceArea: near(Math.PI * 0.35 * 3.6),
      NetVolume: near(Math.PI * 0.030625 * 3.6),
    });
  });
  it('a strip footing drawn along its length of 3.4 m', () => {
    const { figures } = measure('footing', body([rect(0.6, 0.4, 3.4, frameToMatrix([0, 0, 0], [1, 0, 0], [0, 1, 0]))]));
    expect(figures).toMatchObject({
      Length: near(3.4),
      Width: near(0.6),
      Height: near(0.4),
      NetVolume: near(0.816),
      OuterSurfaceArea: near(6.8),
    });
  });
  it('a door takes its overall size, a room its floor', () => {
    const door = measureElement({
      group: 'filler',
      body: null,
      meshes: null,
      layersM: null,
      overall: { widthM: 0.9, heightM: 2.1 },
    });
    expect(Object.fromEntries(door.quantities.map((q) => [q.name, q.value]))).toMatchObject({
      Area: near(1.89),
      Perimeter: near(6),
    });
    expect(measure('space', body([rect(5, 4, 2.7)])).figures).toMatchObject({
      NetFloorArea: near(20),
      GrossPerimeter: near(18),
      Height: near(2.7),
      NetVolume: near(54),
    });
  });
  it('an open body keeps its volume unknown and says so; one whose faces look inward is measured', () => {
    const other = body([], [], { hasOther: true });
    const open = boxMesh([0, 0, 0], [1, 1, 1]);
    const outcome = measure('other', other, { net: { ...open, indices: open.indices.slice(3) }, gross: null });
    expect(outcome.problem).toBe('open-body');
    expect(outcome.figures.NetVolume).toBeUndefined();
    const inverted = measure('other', other, { net: { ...open, indices: [...open.indices].reverse() }, gross: null });
    // Faces that all look inward tell the shape as well.
    expect(inverted).toMatchObject({ problem: null, figures: { NetVolume: near(1) } });
  });
  it('finds the group by the standard\u2019s hierarchy', () => {
    expect(
      ['IfcWallStandardCase', 'IfcCovering', 'IfcRailing', 'IfcSpace', 'IfcFurniture', 'IfcWindowStandardCase'].map(
        classToMeasureGroup,
      ),
    ).toEqual(['wall', 'slab', 'linear', 'space', 'other', 'filler']);
  });
});

describe('layers and weight', () => {
  const quantities = [{ name: 'NetSideArea', value: 10, unit: 'm2', basis: 'measured', method: 'swept' } as const];
  const layers = measureLayers(
    [
      { material: 'Board', thicknessM: 0.0125 },
      { material: 'Quilt', thicknessM: 0.075 },
    ],
    quantities,
  );
  it('gives each layer the net face and its volume', () => {
    expect(layers).toEqual([
      { material: 'Board', thickness: 0.0125, position: 0, area: 10, volume: 0.125, weight: null },
      { material: 'Quilt', thickness: 0.075, position: 0.0125, area: 10, volume: 0.75, weight: null },
    ]);
  });
  it('weighs layer by layer; a missing density leaves the weight unknown', () => {
    expect(
      weighElement(
        ['Board', 'Quilt'],
        layers,
        quantities,
        new Map([
          ['Board', 800],
          ['Quilt', 20],
        ]),
      ),
    ).toMatchObject({ weightKg: 115, missing: [] });
    expect(weighElement(['Board', 'Quilt'], layers, quantities, new Map([['Board', 800]]))).toMatchObject({
      weightKg: null,
      missing: ['Quilt'],
    });
  });
});

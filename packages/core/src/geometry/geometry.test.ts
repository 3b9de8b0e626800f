import fc from 'fast-check';
import { deductOpenings, measureOpeningSize } from './opening-deduction.ts';
import {
  isPolygonInside,
  measurePerimeterM,
  measureSignedAreaM2,
  outlineToPolygon,
  polygonToOutline,
} from './outline.ts';
import { decodePictureChunk, encodePictureChunk } from './picture-chunk.ts';
import { measureProfile, type Profile } from './profile.ts';
import { drawCSection, drawISection, drawLSection, drawTSection, drawUSection, drawZSection } from './sections.ts';
import { asAlignedBox, measureSweptSolid, type SweptSolid } from './swept-solid.ts';
import { measureMesh } from './triangle-mesh.ts';
import { frameToMatrix, IDENTITY, invertRigid, multiplyMatrices, transformPoint, type Vector3 } from './vector.ts';

const swept = (profile: Profile, depth: number, placement = IDENTITY, direction: Vector3 = [0, 0, 1]): SweptSolid => ({
  profile,
  placement,
  direction,
  depth,
});
const rectangle = (x: number, y: number): Profile => ({ kind: 'rectangle', x, y, radius: 0 });
/** A wall 4.8 x 0.3 x 3, from the origin along x, centred on its axis. */
const wall = swept(rectangle(4.8, 0.3), 3, frameToMatrix([2.4, 0, 0]));
const hole = (x: number, z: number, width: number, height: number, thickness = 0.5, y = 0) =>
  swept(rectangle(width, thickness), height, frameToMatrix([x, y, z]));
const ACROSS: Vector3 = [0, 1, 0];

const flange = (width: number, thickness: number, fillet = 0, edge = 0) => ({
  width,
  thickness,
  fillet,
  edge,
  slope: 0,
});

describe('profiles', () => {
  it.each<[string, Profile, number, number]>([
    ['rectangle 0.3 x 0.4', rectangle(0.3, 0.4), 0.12, 1.4],
    ['round 0.2', { kind: 'circle', radius: 0.1 }, Math.PI * 0.01, Math.PI * 0.2],
    [
      'tube 0.2 x 0.01',
      { kind: 'circle-hollow', radius: 0.1, thickness: 0.01 },
      Math.PI * (0.01 - 0.0081),
      Math.PI * 0.2,
    ],
    [
      'sharp I 200 x 200 x 9 x 15',
      drawISection(0.2, 0.009, flange(0.2, 0.015), flange(0.2, 0.015)),
      2 * 0.2 * 0.015 + 0.17 * 0.009,
      0.4 + 0.8 - 0.018,
    ],
    // Four fillets of 18 mm add (4 - pi) r2 = 278.1 mm2 to 7530 mm2.
    [
      'I with fillets',
      drawISection(0.2, 0.009, flange(0.2, 0.015, 0.018), flange(0.2, 0.015, 0.018)),
      0.00753 + (4 - Math.PI) * 0.000324,
      1.182 - 4 * (2 - Math.PI / 2) * 0.018,
    ],
    ['L 100 x 100 x 8', drawLSection(0.1, 0.1, 0.008, 0, 0), 0.008 * 0.192, 0.4],
    [
      'hollow 150 x 150 x 8',
      { kind: 'rectangle-hollow', x: 0.15, y: 0.15, thickness: 0.008, outerRadius: 0, innerRadius: 0 },
      0.0225 - 0.134 ** 2,
      0.6,
    ],
    ['T', drawTSection(0.12, 0.01, flange(0.1, 0.02), 0), 0.1 * 0.02 + 0.1 * 0.01, 0.44],
    ['U', drawUSection(0.2, 0.01, flange(0.08, 0.015)), 2 * 0.08 * 0.015 + 0.17 * 0.01, 0.4 + 0.32 - 0.02],
    // Fillets of 8 mm fill four corners, edges of 4 mm take four away: (4 - pi)(64 - 16) mm2 more than sharp.
    [
      'I with rounded tips',
      drawISection(0.2, 0.006, flange(0.1, 0.01, 0.008, 0.004), flange(0.1, 0.01, 0.008, 0.004)),
      0.00308 + (4 - Math.PI) * 48e-6,
      0.4 + 0.4 - 0.012 - (8 - 2 * Math.PI) * 0.012,
    ],
    // 80 x 12 below, 120 x 8 above, web 180 x 6.
    [
      'I of two flanges',
      drawISection(0.2, 0.006, flange(0.08, 0.012), flange(0.12, 0.008)),
      0.00096 + 0.00096 + 0.18 * 0.006,
      0.4 + 0.16 + 0.24 - 0.012,
    ],
    // A slope moves metal from tip to web: the area stays.
    [
      'U with sloping flanges',
      drawUSection(0.2, 0.01, { ...flange(0.08, 0.015), slope: 0.08 }),
      2 * 0.08 * 0.015 + 0.17 * 0.01,
      0.2 + 0.2 + 0.16 - 2 * Math.tan(0.08) * 0.07 + (2 * 0.07) / Math.cos(0.08),
    ],
    ['Z', drawZSection(0.2, 0.008, flange(0.08, 0.01)), 2 * 0.08 * 0.01 + 0.18 * 0.008, 0.4 + 4 * 0.08 - 0.016],
    // Sharp: 100 + 2 x (50 - 3) + 2 x (20 - 3) mm of 3 mm along the outside.
    ['C', drawCSection(0.1, 0.05, 0.003, 0.02, 0), (0.1 + 0.094 + 0.034) * 0.003, 2 * 0.228 + 0.006],
  ])('%s', (_, profile, area, perimeter) => {
    expect(measureProfile(profile).areaM2).toBeCloseTo(area, 9);
    expect(measureProfile(profile).perimeterM).toBeCloseTo(perimeter, 9);
  });

  it('measures arcs exactly: a half disc of radius 1', () => {
    const half = [
      { x: -1, y: 0, sweep: 0 },
      { x: 1, y: 0, sweep: Math.PI },
    ];
    expect(measureSignedAreaM2(half)).toBeCloseTo(Math.PI / 2, 12);
    expect(measurePerimeterM(half)).toBeCloseTo(2 + Math.PI, 12);
    expect(outlineToPolygon(half).every(([x, y]) => Math.hypot(x, y) <= 1 + 1e-9 && y >= -1e-9)).toBe(true);
  });

  it('takes holes out of an outline', () => {
    const square = (s: number) =>
      polygonToOutline([
        [0, 0],
        [s, 0],
        [s, s],
        [0, s],
      ]);
    expect(measureProfile({ kind: 'outline', outer: square(4), holes: [square(1)] })).toEqual({
      areaM2: 15,
      perimeterM: 16,
    });
  });
});

describe('swept solids', () => {
  it('measures an upright and a slanted prism', () => {
    expect(measureSweptSolid(swept(rectangle(0.3, 0.4), 5))).toMatchObject({
      volumeM3: expect.closeTo(0.6, 9),
      lateralAreaM2: expect.closeTo(7, 9),
    });
    const slanted = measureSweptSolid(swept(rectangle(2, 3), 5, IDENTITY, [0, 0.6, 0.8]));
    // Height 5 x 0.8 = 4; two faces 3 x 4 stretched to 3·4 (edge along the lean) and two 2 x 5.
    expect(slanted.volumeM3).toBeCloseTo(24, 9);
    expect(slanted.lateralAreaM2).toBeCloseTo(2 * 12 + 2 * 10, 9);
  });

  it('knows boxes along the axes from turned ones', () => {
    expect(asAlignedBox(wall)).toMatchObject({
      min: [expect.closeTo(0), expect.closeTo(-0.15), 0],
      max: [expect.closeTo(4.8), expect.closeTo(0.15), 3],
    });
    expect(asAlignedBox(swept(rectangle(1, 1), 1, frameToMatrix([0, 0, 0], [0, 0, 1], [1, 1, 0])))).toBeNull();
  });
});

describe('opening deduction', () => {
  it('deducts one window: 1.2 x 1.2 from a wall 0.3 thick', () => {
    expect(deductOpenings(wall, [hole(2.4, 0.9, 1.2, 1.2)], ACROSS)).toEqual({
      areaM2: expect.closeTo(1.44, 9),
      volumeM3: expect.closeTo(0.432, 9),
    });
  });
  it('counts overlapping openings once: 1 x 1 and 1 x 1 half over each other is 1.5', () => {
    expect(deductOpenings(wall, [hole(1, 0, 1, 1), hole(1.5, 0, 1, 1)], ACROSS)).toMatchObject({
      areaM2: expect.closeTo(1.5, 9),
    });
  });
  it('deducts only what lies in the wall: a door that reaches 0.5 m below it', () => {
    expect(deductOpenings(wall, [hole(2, -0.5, 1, 2.5)], ACROSS)).toMatchObject({ areaM2: expect.closeTo(2, 9) });
  });
  it('takes volume but no face for a recess 0.1 m deep', () => {
    expect(deductOpenings(wall, [hole(2, 1, 1, 1, 0.2, 0.15)], ACROSS)).toEqual({
      areaM2: 0,
      volumeM3: expect.closeTo(0.1, 9),
    });
  });
  it('deducts a round opening inside, and asks for the mesh where it touches the edge', () => {
    const round = (z: number) =>
      swept({ kind: 'circle', radius: 0.3 }, 1, frameToMatrix([2, 0.5, z], [0, -1, 0], [1, 0, 0]));
    expect(deductOpenings(wall, [round(1.5)], ACROSS)).toMatchObject({
      areaM2: expect.closeTo(Math.PI * 0.09, 9),
      volumeM3: expect.closeTo(Math.PI * 0.09 * 0.3, 9),
    });
    expect(deductOpenings(wall, [round(0.1)], ACROSS)).toBeNull();
  });
  it('never deducts more than the wall, for any openings', () => {
    const opening = fc.tuple(
      fc.double({ min: -1, max: 6, noNaN: true }),
      fc.double({ min: -1, max: 4, noNaN: true }),
      fc.double({ min: 0.1, max: 3, noNaN: true }),
      fc.double({ min: 0.1, max: 3, noNaN: true }),
    );
    fc.assert(
      fc.property(fc.array(opening, { maxLength: 4 }), (list) => {
        const deduction = deductOpenings(
          wall,
          list.map(([x, z, w, h]) => hole(x, z, w, h)),
          ACROSS,
        )!;
        const sum = list.reduce((n, [, , w, h]) => n + w * h, 0);
        expect(deduction.areaM2).toBeLessThanOrEqual(Math.min(4.8 * 3, sum) + 1e-9);
        expect(deduction.volumeM3).toBeCloseTo(deduction.areaM2 * 0.3, 9);
      }),
    );
  });
  it('sizes an opening as seen from the side', () => {
    expect(measureOpeningSize(hole(2, 1, 1.2, 1.5), ACROSS)).toEqual({
      widthM: expect.closeTo(1.2),
      heightM: expect.closeTo(1.5),
      areaM2: expect.closeTo(1.8),
      bottomM: expect.closeTo(1),
      perimeterM: expect.closeTo(5.4),
    });
  });
  it('tells inside from touching', () => {
    const outer = [
      [0, 0],
      [4, 0],
      [4, 4],
      [0, 4],
    ] as const;
    expect(
      isPolygonInside(
        [
          [1, 1],
          [2, 1],
          [2, 2],
        ],
        outer,
      ),
    ).toBe(true);
    expect(
      isPolygonInside(
        [
          [0, 1],
          [2, 1],
          [2, 2],
        ],
        outer,
      ),
    ).toBe(false);
  });
});

const BOX = {
  positions: [0, 0, 0, 2, 0, 0, 2, 3, 0, 0, 3, 0, 0, 0, 4, 2, 0, 4, 2, 3, 4, 0, 3, 4],
  indices: [0, 2, 1, 0, 3, 2, 4, 5, 6, 4, 6, 7, 0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7],
};

describe('meshes', () => {
  it('measures a closed box of 2 x 3 x 4', () => {
    expect(measureMesh(BOX)).toMatchObject({
      volumeM3: expect.closeTo(24, 9),
      areaM2: expect.closeTo(52, 9),
      isClosed: true,
      max: [2, 3, 4],
    });
  });
  it('sees a missing face, and faces that look inward', () => {
    expect(measureMesh({ ...BOX, indices: BOX.indices.slice(3) })?.isClosed).toBe(false);
    const turned = Array.from({ length: BOX.indices.length }, (_, i) => BOX.indices[i - (i % 3) + (2 - (i % 3))]!);
    expect(measureMesh({ ...BOX, indices: turned })?.volumeM3).toBeCloseTo(-24, 9);
    expect(measureMesh({ positions: [], indices: [] })).toBeNull();
  });
  it('packs a picture and unpacks it the same', () => {
    const chunk = {
      origin: [1, 2, 3] as const,
      elements: [{ row: 7, firstVertex: 0, vertexCount: 8, firstIndex: 0, indexCount: 36 }],
      positions: Float32Array.from(BOX.positions),
      colours: new Uint8Array(32).fill(9),
      indices: Uint32Array.from(BOX.indices),
    };
    expect(decodePictureChunk(encodePictureChunk(chunk))).toEqual({ ok: true, value: chunk });
    expect(decodePictureChunk(new Uint8Array(20)).ok).toBe(false);
  });
});

describe('frames', () => {
  it('inverts any placement', () => {
    const coordinate = fc.double({ min: -100, max: 100, noNaN: true });
    const vector = fc.tuple(coordinate, coordinate, coordinate);
    fc.assert(
      fc.property(vector, vector, vector, vector, (at, axis, ref, p) => {
        fc.pre(
          Math.hypot(...axis) > 0.1 &&
            Math.hypot(
              axis[1] * ref[2] - axis[2] * ref[1],
              axis[2] * ref[0] - axis[0] * ref[2],
              axis[0] * ref[1] - axis[1] * ref[0],
            ) > 0.1,
        );
        const m = frameToMatrix(at, axis, ref);
        const back = transformPoint(multiplyMatrices(invertRigid(m), m), p);
        for (const k of [0, 1, 2] as const) expect(back[k]).toBeCloseTo(p[k], 6);
      }),
    );
  });
});

import type { Point, Point2 } from '../ifc-builder.ts';
import { Enum, Int, type Ref, Typed } from '../step-writer.ts';
import type { Site } from './site.ts';

const STOREY = 'Ground floor';

/** What stands around the house: porch, paving, railings, river wall, mooring pier and the boat shelter. */
export function buildGrounds(site: Site): void {
  buildPorch(site);
  buildPaving(site);
  buildRiverWall(site);
  buildPier(site);
  buildShelter(site);
}

/** A flat roof over the entrance, with upstands along its three free edges. */
function buildPorch({ b, m, bay }: Site): void {
  const [x, length, depth, top] = [5 * bay, bay, 2400, 3150];
  const slab = b.element('IfcSlab', {
    name: 'Porch roof',
    key: 'porch/roof',
    at: [x, -150 - depth, top - 250],
    shape: b.shape([b.colour(b.extrude(b.rectangle(length, depth, [length / 2, depth / 2]), 250), [0.4, 0.42, 0.44])]),
    type: b.type('IfcSlabType', 'Flat roof 250', { predefined: 'ROOF' }),
    storey: STOREY,
    rest: [new Enum('ROOF')],
  });
  b.assign(m.flatRoof, [slab.ref]);
  b.classify('B3010', [slab.ref]);
  const type = b.type('IfcMemberType', 'Upstand 120 x 200', { predefined: 'MEMBER' });
  const edge = depth - 120;
  const upstands = (
    [
      [[x, -150 - depth + 60, top], [1, 0, 0], length],
      [[x + 60, -150 - edge, top], [0, 1, 0], edge],
      [[x + length - 60, -150 - edge, top], [0, 1, 0], edge],
    ] as const
  ).map(([at, along, run], i) => {
    const solid = b.extrude(b.rectangle(120, 200, [0, 100]), run, [0, 0, 0], [1, 0, 0], [0, 1, 0]);
    return b.element('IfcMember', {
      name: `Upstand ${i + 1}`,
      key: `porch/upstand/${i}`,
      at,
      along,
      shape: b.shape([b.colour(solid, [0.4, 0.42, 0.44])]),
      type,
      storey: STOREY,
      rest: [new Enum('MEMBER')],
    }).ref;
  });
  b.assign(m.sawn, upstands);
}

/** The slipway before the boat bays and the railings beside it. */
function buildPaving({ b, m, bay }: Site): void {
  const width = 3 * bay;
  const slab = b.element('IfcSlab', {
    name: 'Slipway paving',
    key: 'slipway',
    at: [0, -6150, -80],
    shape: b.shape([b.colour(b.extrude(b.rectangle(width, 6000, [width / 2, 3000]), 80), [0.66, 0.65, 0.62])]),
    type: b.type('IfcSlabType', 'Paving 80', {}),
    storey: STOREY,
    rest: [new Enum('NOTDEFINED')],
  });
  b.assign(m.paving, [slab.ref]);
  b.classify('G2030', [slab.ref]);
  b.properties('Pset_SlabCommon', { IsExternal: true, LoadBearing: false }, [slab.ref]);
  const type = b.type('IfcRailingType', 'Railing tube 48', { predefined: 'GUARDRAIL' });
  const railings = [-40, width + 40].map((x, i) => {
    const tube = b.extrude(b.profile('IfcCircleHollowProfileDef', 24.15, 3.2), 6000, [0, 0, 0], [1, 0, 0], [0, 1, 0]);
    return b.element('IfcRailing', {
      name: `Slipway railing ${i + 1}`,
      key: `railing/${i}`,
      at: [x, -6150, 1000],
      along: [0, 1, 0],
      shape: b.shape([b.colour(tube, [0.5, 0.54, 0.56])]),
      type,
      storey: STOREY,
      rest: [new Enum('GUARDRAIL')],
    }).ref;
  });
  b.assign(m.steel, railings);
}

/** A quarter circle of 6 m radius, 0.3 m thick, 1.2 m high, drawn with true arcs. */
function buildRiverWall({ b, m, bay, p }: Site): void {
  const radius = 6000;
  const half = Math.SQRT1_2;
  const s = b.step;
  const arc = (points: readonly Point2[], indices: readonly (readonly [string, readonly number[]])[]): Ref => {
    const list = s.add(
      'IfcCartesianPointList2D',
      points.map((q) => [...q]),
    );
    const segments = indices.map(
      ([type, at]) =>
        new Typed(
          type,
          at.map((i) => new Int(i)),
        ),
    );
    return s.add('IfcIndexedPolyCurve', list, segments, null);
  };
  const at = (r: number): [Point2, Point2, Point2] => [
    [r, 0],
    [r * half, r * half],
    [0, r],
  ];
  const [outer, inner] = [at(radius + 150), at(radius - 150)];
  const outline = arc(
    [...outer, inner[2], inner[1], inner[0]],
    [
      ['IFCARCINDEX', [1, 2, 3]],
      ['IFCLINEINDEX', [3, 4]],
      ['IFCARCINDEX', [4, 5, 6]],
      ['IFCLINEINDEX', [6, 1]],
    ],
  );
  const profile = s.add('IfcArbitraryClosedProfileDef', new Enum('AREA'), null, outline);
  const solid = b.colour(b.extrude(profile, 1200), [0.72, 0.71, 0.68]);
  const wall = b.element('IfcWall', {
    name: 'River wall',
    key: 'river-wall',
    at: [p.bays * bay + 3000, -9000, -200],
    shape: b.shapeWithAxis(solid, arc(at(radius), [['IFCARCINDEX', [1, 2, 3]]])),
    type: b.type('IfcWallType', 'River wall 300', { predefined: 'SOLIDWALL' }),
    storey: STOREY,
    rest: [new Enum('SOLIDWALL')],
  });
  b.assign(m.concrete, [wall.ref]);
  b.classify('G2040', [wall.ref]);
}

/** A pier that tapers from 1.6 to 0.8 m over 3 m, drawn by its faces, its top coated. */
function buildPier({ b, m, bay }: Site): void {
  const ring = (half: number, z: number): Point[] => [
    [-half, -half, z],
    [half, -half, z],
    [half, half, z],
    [-half, half, z],
  ];
  const [low, high] = [ring(800, 0), ring(400, 3000)];
  const faces: Point[][] = [[...low].reverse(), high];
  for (let i = 0; i < 4; i++) faces.push([low[i]!, low[(i + 1) % 4]!, high[(i + 1) % 4]!, high[i]!]);
  const pier = b.element('IfcBuildingElementProxy', {
    name: 'Mooring pier',
    key: 'pier',
    at: [1.5 * bay, -9000, -1000],
    shape: b.shape([b.colour(b.facetedBody(faces, { face: 1, rgb: [0.92, 0.66, 0] }), [0.7, 0.7, 0.68])], 'Brep'),
    storey: STOREY,
    rest: [new Enum('ELEMENT')],
  });
  b.assign(m.concrete, [pier.ref]);
}

/** A hipped slate roof of 6 x 4 m at 45° on four posts. */
function buildShelter({ b, m }: Site): void {
  const [x0, y0, eaves] = [-11_000, -2000, 2600];
  const c = Math.SQRT1_2;
  const run = 2000 / c;
  const type = b.type('IfcSlabType', 'Shelter roof 100', { predefined: 'ROOF' });
  const long: Point2[] = [[0, 0], [6000, 0], [4000, run], [2000, run]]; // biome-ignore format: one outline
  const short: Point2[] = [[0, 0], [4000, 0], [2000, run]]; // biome-ignore format: one outline
  const slabs = (
    [
      ['south', [x0, y0, eaves], [1, 0, 0], [0, -c, c], long],
      ['north', [x0 + 6000, y0 + 4000, eaves], [-1, 0, 0], [0, c, c], long],
      ['east', [x0 + 6000, y0, eaves], [0, 1, 0], [c, 0, c], short],
      ['west', [x0, y0 + 4000, eaves], [0, -1, 0], [-c, 0, c], short],
    ] as const
  ).map(
    ([side, at, along, up, outline]) =>
      b.element('IfcSlab', {
        name: `Shelter roof ${side}`,
        key: `shelter/${side}`,
        at,
        along,
        up,
        shape: b.shape([b.colour(b.extrude(b.polygon(outline), 100), [0.33, 0.37, 0.42])]),
        type,
        storey: STOREY,
        rest: [new Enum('ROOF')],
      }).ref,
  );
  b.assign(m.shelterRoof, slabs);
  const roof = b.element('IfcRoof', {
    name: 'Shelter roof',
    key: 'shelter',
    at: [x0, y0, eaves],
    storey: STOREY,
    rest: [new Enum('HIP_ROOF')],
  });
  b.aggregate('shelter', roof.ref, slabs);
  const postType = b.type('IfcColumnType', 'Post 150', { predefined: 'COLUMN' });
  const posts = [[400, 400], [5600, 400], [5600, 3600], [400, 3600]].map(([dx, dy], i) =>
    b.element('IfcColumn', {
      name: `Shelter post ${i + 1}`,
      key: `shelter/post/${i}`,
      at: [x0 + dx!, y0 + dy!, 0],
      shape: b.shape([b.colour(b.extrude(b.rectangle(150, 150), eaves), [0.8, 0.65, 0.42])]),
      type: postType,
      storey: STOREY,
      rest: [new Enum('COLUMN')],
    }).ref,
  ); // biome-ignore format: posts
  b.assign(m.sawn, posts);
}

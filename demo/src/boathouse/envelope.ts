import type { Point } from '../ifc-builder.ts';
import { Enum, type Ref } from '../step-writer.ts';
import { OUTER_WALL_THICKNESS } from './materials.ts';
import { buildWall, type Fillings, type Hole, type Site } from './site.ts';

const CLAD = [0.72, 0.56, 0.4] as const;
const RENDER = [0.9, 0.88, 0.82] as const;

/** Height of the eaves above the upper floor, rise of the roof over half the depth, thickness of the roof, mm. */
export const EAVES = 3000;
export const RISE = 3600;
const ROOF = 300;
const OVERHANG = 600;

/** Outer walls with windows and doors, gables, roof with rafters, ridge and rooflights. */
export function buildEnvelope(site: Site, fillings: Fillings): void {
  buildLongWalls(site, fillings);
  buildEndWalls(site, fillings);
  buildRoof(site);
}

function outerType({ b, p }: Site): Ref {
  return (
    wallTypes.get(b) ??
    wallTypes
      .set(
        b,
        b.type(
          'IfcWallType',
          p.outerWall === 'timber-clad' ? 'Outer wall timber-clad 300' : 'Outer wall rendered 300',
          { predefined: 'SOLIDWALL' },
        ),
      )
      .get(b)!
  );
}
const wallTypes = new WeakMap<object, Ref>();

function finishOuterWall(
  site: Site,
  key: string,
  wall: Ref,
  length: number,
  height: number,
  holes: readonly Hole[],
): void {
  const { b } = site;
  b.properties(
    'Pset_WallCommon',
    { IsExternal: true, LoadBearing: false, FireRating: 'EI30', ThermalTransmittance: 0.18 },
    [wall],
  );
  b.classify('B2010', [wall]);
  const gross = (length * height) / 1e6;
  const net = gross - holes.reduce((sum, h) => sum + (h.width * h.height) / 1e6, 0);
  // One wall states ten times its net area: a slip of the designers that must be noticed.
  const stated = key === 'outer/north/0/2' ? net * 10 : net;
  b.quantities(key, wall, {
    set: 'Qto_WallBaseQuantities',
    lengths: { Length: length, Height: height, Width: OUTER_WALL_THICKNESS },
    areas: { GrossSideArea: gross, NetSideArea: stated },
    volumes: { NetVolume: net * 0.3 },
  });
}

function buildLongWalls(site: Site, fillings: Fillings): void {
  const { b, p, m, bay, depth } = site;
  for (const storey of [0, 1] as const) {
    const height = storey === 0 ? p.storeyHeight : EAVES;
    for (let i = 0; i < p.bays; i++) {
      for (const side of ['south', 'north'] as const) {
        const key = `outer/${side}/${storey}/${i}`;
        const holes = listHoles(key, side, storey, i, p.windowHeight);
        const y = side === 'south' ? 0 : depth;
        const wall = buildWall(b, fillings, {
          key,
          name: `Outer wall ${side} ${storey === 0 ? 'G' : 'U'}${i + 1}`,
          from: [i * bay, y],
          to: [(i + 1) * bay, y],
          height,
          thickness: OUTER_WALL_THICKNESS,
          type: outerType(site),
          layers: side === 'north' ? m.outerWallTurned : m.outerWall,
          storey: storey === 0 ? 'Ground floor' : 'Upper floor',
          colour: p.outerWall === 'timber-clad' ? CLAD : RENDER,
          holes,
        });
        finishOuterWall(site, key, wall, bay, height, holes);
      }
    }
  }
}

function listHoles(key: string, side: 'south' | 'north', storey: 0 | 1, i: number, windowHeight: number): Hole[] {
  const window = (n: number, at: number, width: number): Hole => ({
    key: `window/${key}/${n}`,
    kind: 'window',
    at,
    sill: 900,
    width,
    height: windowHeight,
  });
  if (storey === 1) return [window(1, 1400, 1500), window(2, 3400, 1500)];
  if (side === 'south' && i < 3)
    return [{ key: `boatdoor/${key}`, kind: 'boat door', at: 2400, sill: 0, width: 3600, height: 3000 }];
  if (side === 'south' && i === 5)
    return [{ key: `door/${key}`, kind: 'door', at: 2400, sill: 0, width: 1800, height: 2400 }];
  return side === 'north' && i > 0 ? [window(1, 2400, 1200)] : [];
}

function buildEndWalls(site: Site, fillings: Fillings): void {
  const { b, p, m, bay, depth } = site;
  const half = depth / 2;
  for (const [end, x] of [
    ['west', 0],
    ['east', p.bays * bay],
  ] as const) {
    for (const storey of [0, 1] as const) {
      for (const n of [0, 1] as const) {
        const key = `outer/${end}/${storey}/${n}`;
        const height = storey === 0 ? p.storeyHeight : EAVES;
        const holes: Hole[] =
          storey === 1 && end === 'west' && p.hasEndWindows
            ? [{ key: `window/${key}/1`, kind: 'window', at: 3600, sill: 900, width: 1800, height: p.windowHeight }]
            : [];
        const wall = buildWall(b, fillings, {
          key,
          name: `Outer wall ${end} ${storey === 0 ? 'G' : 'U'}${n + 1}`,
          from: [x, n * half],
          to: [x, (n + 1) * half],
          height,
          thickness: OUTER_WALL_THICKNESS,
          type: outerType(site),
          layers: end === 'west' ? m.outerWallTurned : m.outerWall,
          storey: storey === 0 ? 'Ground floor' : 'Upper floor',
          colour: p.outerWall === 'timber-clad' ? CLAD : RENDER,
          holes,
        });
        finishOuterWall(site, key, wall, half, height, holes);
      }
    }
    buildGable(site, end, x);
  }
}

/** The triangle above the eaves: in the west drawn as an elevation, in the east cut by the two roof planes. */
function buildGable({ b, p, m, depth }: Site, end: 'west' | 'east', x: number): void {
  const half = depth / 2;
  const t = OUTER_WALL_THICKNESS;
  const type = b.type('IfcWallType', `Gable wall 300 ${end}`, { predefined: 'SOLIDWALL' });
  const rise = RISE - 200;
  const slope = rise / half;
  let solid: Ref;
  if (end === 'west')
    solid = b.extrude(
      b.polygon([
        [0, 0],
        [depth, 0],
        [half, rise],
      ]),
      t,
      [0, t / 2, 0],
      [0, -1, 0],
      [1, 0, 0],
    );
  else {
    const n = Math.hypot(1, slope);
    const left: Point = [-slope / n, 0, 1 / n];
    const right: Point = [slope / n, 0, 1 / n];
    solid = b.clipAbove(
      b.clipAbove(b.extrude(b.rectangle(depth, t, [half, 0]), rise), [0, 0, 0], left),
      [depth, 0, 0],
      right,
    );
  }
  b.colour(solid, p.outerWall === 'timber-clad' ? CLAD : RENDER);
  const wall = b.element('IfcWall', {
    name: `Gable ${end}`,
    key: `gable/${end}`,
    at: [x, 0, 0],
    along: [0, 1, 0],
    shape: b.shape([solid], end === 'west' ? 'SweptSolid' : 'Clipping', [depth, 0]),
    type,
    storey: 'Roof',
    rest: [new Enum('SOLIDWALL')],
  });
  b.assign(m.outerWall, [wall.ref]);
  b.classify('B2010', [wall.ref]);
  b.properties(
    'Pset_WallCommon',
    { IsExternal: true, LoadBearing: false, FireRating: 'EI30', ThermalTransmittance: 0.18 },
    [wall.ref],
  );
}

function buildRoof({ b, p, m, bay, depth }: Site): void {
  const half = depth / 2 + OVERHANG;
  const slope = RISE / (depth / 2);
  const n = Math.hypot(1, slope);
  const run = half * n;
  const type = b.type('IfcSlabType', 'Slate roof 300', { predefined: 'ROOF' });
  const slabs: Ref[] = [];
  for (const side of ['south', 'north'] as const) {
    const sign = side === 'south' ? 1 : -1;
    const eave = side === 'south' ? -OVERHANG : depth + OVERHANG;
    // Local x runs along the ridge, y up the slope, z out of the roof.
    const up: Point = [0, (-sign * slope) / n, 1 / n];
    for (let i = 0; i < p.bays; i++) {
      const at: Point = [side === 'south' ? i * bay : (i + 1) * bay, eave, -slope * OVERHANG];
      const solid = b.colour(b.extrude(b.rectangle(bay, run, [bay / 2, run / 2]), ROOF), [0.33, 0.37, 0.42]);
      const slab = b.element('IfcSlab', {
        name: `Roof ${side} ${i + 1}`,
        key: `roof/${side}/${i}`,
        at,
        along: [sign, 0, 0],
        up,
        shape: b.shape([solid]),
        type,
        storey: 'Roof',
        rest: [new Enum('ROOF')],
      });
      slabs.push(slab.ref);
      if (side === 'north' && (i === 1 || i === 3)) buildRooflight(b, slab, i, bay, run);
      buildRafters(b, m.sawn, side, sign, i, bay, eave, slope, n, run, p.rafterSpacing);
    }
  }
  b.assign(m.roof, slabs);
  b.classify('B3010', slabs);
  const roof = b.element('IfcRoof', {
    name: 'Main roof',
    key: 'roof',
    at: [0, 0, 0],
    storey: 'Roof',
    rest: [new Enum('GABLE_ROOF')],
  });
  b.aggregate('roof', roof.ref, slabs);
  const beam = b.type('IfcBeamType', 'Ridge beam 140 x 400', { predefined: 'BEAM' });
  for (let i = 0; i < p.bays; i++) {
    const shape = b.shape([
      b.colour(b.extrude(b.rectangle(140, 400), bay, [0, 0, 0], [1, 0, 0], [0, 1, 0]), [0.8, 0.65, 0.42]),
    ]);
    const ridge = b.element('IfcBeam', {
      name: `Ridge beam ${i + 1}`,
      key: `ridge/${i}`,
      at: [i * bay, depth / 2, RISE - 700],
      shape,
      type: beam,
      storey: 'Roof',
      rest: [new Enum('BEAM')],
    });
    b.assign(m.glulam, [ridge.ref]);
    b.classify('B1020', [ridge.ref]);
  }
}

function buildRooflight(b: Site['b'], slab: { ref: Ref; placement: Ref }, i: number, bay: number, run: number): void {
  const at: Point = [bay / 2, run / 2, -100];
  const opening = b.opening(`rooflight/${i}/opening`, slab, at, b.extrude(b.rectangle(1180, 1400), 600));
  const shape = b.shape([b.colour(b.extrude(b.rectangle(1180, 1400), 120, [0, 0, 300]), [0.6, 0.78, 0.85], 0.4)]);
  const light = b.element('IfcWindow', {
    name: `Rooflight ${i + 1}`,
    key: `rooflight/${i}`,
    at: [0, 0, 0],
    relativeTo: opening.placement,
    shape,
    storey: 'Roof',
    rest: [1400, 1180, new Enum('SKYLIGHT'), new Enum('SINGLE_PANEL'), null],
  });
  b.fill(`rooflight/${i}`, opening.ref, light.ref);
  b.classify('B3020', [light.ref]);
}

function buildRafters(
  b: Site['b'],
  sawn: Ref,
  side: string,
  sign: number,
  i: number,
  bay: number,
  eave: number,
  slope: number,
  n: number,
  run: number,
  spacing: number,
): void {
  const type =
    rafterTypes.get(b) ??
    rafterTypes.set(b, b.type('IfcMemberType', 'Rafter 60 x 240', { predefined: 'RAFTER' })).get(b)!;
  const count = Math.floor((bay - 1) / spacing) + 1;
  const rafters: Ref[] = [];
  for (let k = 0; k < count; k++) {
    const shape = b.shape([b.colour(b.extrude(b.rectangle(60, 240), run), [0.85, 0.72, 0.5])]);
    rafters.push(
      b.element('IfcMember', {
        name: `Rafter ${side} ${i + 1}.${k + 1}`,
        key: `rafter/${side}/${i}/${k}`,
        at: [i * bay + k * spacing + 30, eave, -slope * OVERHANG - 150 * n],
        along: [1, 0, 0],
        up: [0, sign / n, slope / n],
        shape,
        type,
        storey: 'Roof',
        rest: [new Enum('RAFTER')],
      }).ref,
    );
  }
  b.assign(sawn, rafters);
  b.classify('B1020', rafters);
}
const rafterTypes = new WeakMap<object, Ref>();

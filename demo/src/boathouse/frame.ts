import type { IfcBuilder } from '../ifc-builder.ts';
import { Enum, type Ref } from '../step-writer.ts';
import type { Site } from './site.ts';

const PAD = 1400;
const LINES = [0, 7200, 14400] as const;

/** Footings, ground slab, steel frame and timber floor panels. */
export function buildFrame({ b, p, m, bay, depth }: Site): void {
  const grids = Array.from({ length: p.bays + 1 }, (_, i) => i * bay);
  buildFootings(b, m.concrete, grids, bay);
  for (let i = 0; i < p.bays; i++) buildGroundSlab(b, m.groundSlab, i, bay, depth);
  buildColumns(b, m, grids, p.storeyHeight);
  buildBeams(b, m.steel, grids, bay, p.storeyHeight);
  buildFloorPanels(b, m.panel, p.bays, bay, p.floorPanel);
}

function buildFootings(b: IfcBuilder, concrete: Ref, grids: readonly number[], bay: number): void {
  const pad = b.type('IfcFootingType', 'Pad footing 1400', { predefined: 'PAD_FOOTING' });
  const strip = b.type('IfcFootingType', 'Strip footing 600', { predefined: 'STRIP_FOOTING' });
  const all: Ref[] = [];
  for (const [i, x] of grids.entries()) {
    for (const [j, y] of LINES.entries()) {
      const shape = b.shape([b.extrude(b.rectangle(PAD, PAD), 500)]);
      all.push(
        b.element('IfcFooting', {
          name: `Pad ${i + 1}${'ABC'[j]}`,
          key: `pad/${i}/${j}`,
          at: [x, y, -200],
          shape,
          type: pad,
          storey: 'Foundations',
          rest: [new Enum('PAD_FOOTING')],
        }).ref,
      );
    }
  }
  const runs = [
    ...grids.slice(0, -1).flatMap((x, i) =>
      [0, 14400].map((y) => ({
        key: `strip/${i}/${y}`,
        at: [x + PAD / 2, y, 300] as const,
        along: [1, 0, 0] as const,
        length: bay - PAD,
      })),
    ),
    ...[grids[0]!, grids.at(-1)!].flatMap((x, i) =>
      [0, 7200].map((y) => ({
        key: `strip/end/${i}/${y}`,
        at: [x, y + PAD / 2, 300] as const,
        along: [0, 1, 0] as const,
        length: 7200 - PAD,
      })),
    ),
  ];
  for (const [n, run] of runs.entries()) {
    // Drawn along its length: the profile stands square to the run.
    const shape = b.shape([b.extrude(b.rectangle(600, 400), run.length, [0, 0, 0], [1, 0, 0], [0, 1, 0])]);
    // One strip was never put on a storey.
    const storey = n === 3 ? null : 'Foundations';
    const at = storey ? run.at : ([run.at[0], run.at[1], run.at[2] - 800] as const);
    all.push(
      b.element('IfcFooting', {
        name: `Strip ${n + 1}`,
        key: run.key,
        at,
        along: run.along,
        shape,
        type: strip,
        storey,
        rest: [new Enum('STRIP_FOOTING')],
      }).ref,
    );
  }
  b.assign(concrete, all);
  b.classify('A1010', all);
}

function buildGroundSlab(b: IfcBuilder, layers: Ref, i: number, bay: number, depth: number): void {
  const shape = b.shape([b.extrude(b.rectangle(bay, depth, [bay / 2, depth / 2]), 370)]);
  const slab = b.element('IfcSlab', {
    name: `Ground slab bay ${i + 1}`,
    key: `slab/${i}`,
    at: [i * bay, 0, -370],
    shape,
    storey: 'Ground floor',
    rest: [new Enum('BASESLAB')],
  });
  b.assign(layers, [slab.ref]);
  b.classify('A1030', [slab.ref]);
  b.properties('Pset_SlabCommon', { IsExternal: false, LoadBearing: true }, [slab.ref]);
  let net = (bay * depth) / 1e6;
  if (i === 1) {
    const radius = 300;
    b.opening(`slab/${i}/drain`, slab, [2400, 3600, -100], b.extrude(b.profile('IfcCircleProfileDef', radius), 600));
    net -= (Math.PI * radius * radius) / 1e6;
  }
  b.quantities(`slab/${i}`, slab.ref, {
    set: 'Qto_SlabBaseQuantities',
    lengths: { Depth: 370, Perimeter: 2 * (bay + depth) },
    areas: { GrossArea: (bay * depth) / 1e6, NetArea: net },
    volumes: { NetVolume: net * 0.37 },
  });
}

function buildColumns(b: IfcBuilder, m: Site['m'], grids: readonly number[], storeyHeight: number): void {
  const outer = b.type('IfcColumnType', 'Steel column I 200 x 200', { predefined: 'COLUMN' });
  const inner = b.type('IfcColumnType', 'Steel column box 150 x 8', { predefined: 'COLUMN' });
  const round = b.type('IfcColumnType', 'Concrete column round 350', { predefined: 'COLUMN' });
  const steel: Ref[] = [];
  const height = storeyHeight + 3000;
  for (const [i, x] of grids.entries()) {
    for (const [j, y] of LINES.entries()) {
      const isInner = j === 1;
      const profile = isInner
        ? b.profile('IfcRectangleHollowProfileDef', 150, 150, 8, 8, 12)
        : b.profile('IfcIShapeProfileDef', 200, 200, 9, 15, 18, null, null);
      const solid = b.colour(b.extrude(profile, isInner ? storeyHeight : height), [0.45, 0.5, 0.54]);
      const column = b.element('IfcColumn', {
        name: `Column ${i + 1}${'ABC'[j]}`,
        key: `column/${i}/${j}`,
        at: [x, y, 0],
        shape: b.shape([solid]),
        type: isInner ? inner : outer,
        storey: 'Ground floor',
        rest: [new Enum('COLUMN')],
      });
      steel.push(column.ref);
      if (!isInner)
        b.quantities(`column/${i}/${j}`, column.ref, { set: 'Qto_ColumnBaseQuantities', lengths: { Length: height } });
    }
  }
  // The same column again in the same place, with an id of its own.
  const again = b.shape([
    b.colour(b.extrude(b.profile('IfcIShapeProfileDef', 200, 200, 9, 15, 18, null, null), height), [0.45, 0.5, 0.54]),
  ]);
  steel.push(
    b.element('IfcColumn', {
      name: 'Column 3A',
      key: 'column/copy',
      at: [grids[2]!, 0, 0],
      shape: again,
      type: outer,
      storey: 'Ground floor',
      rest: [new Enum('COLUMN')],
    }).ref,
  );
  b.assign(m.steel, steel);
  b.classify('B1010', steel);
  b.properties('Pset_ColumnCommon', { LoadBearing: true, FireRating: 'R30' }, steel);
  const shape = b.shape([b.colour(b.extrude(b.profile('IfcCircleProfileDef', 175), storeyHeight), [0.7, 0.7, 0.68])]);
  const column = b.element('IfcColumn', {
    name: 'Entrance column',
    key: 'column/round',
    at: [grids.at(-1)! - 2400, 5400, 0],
    shape,
    type: round,
    storey: 'Ground floor',
    rest: [new Enum('COLUMN')],
  });
  b.assign(m.concrete, [column.ref]);
}

function buildBeams(b: IfcBuilder, steel: Ref, grids: readonly number[], bay: number, storeyHeight: number): void {
  const cross = b.type('IfcBeamType', 'Steel beam I 360 x 170', { predefined: 'BEAM' });
  const edge = b.type('IfcBeamType', 'Steel beam I 240 x 120', { predefined: 'BEAM' });
  const beams: Ref[] = [];
  const level = storeyHeight - 160;
  const draw = (
    key: string,
    name: string,
    type: Ref,
    sizes: readonly number[],
    at: readonly [number, number, number],
    along: readonly [number, number, number],
    length: number,
  ) => {
    const solid = b.colour(
      b.extrude(
        b.profile('IfcIShapeProfileDef', sizes[0]!, sizes[1]!, sizes[2]!, sizes[3]!, sizes[4]!, null, null),
        length,
        [0, 0, 0],
        [1, 0, 0],
        [0, 1, 0],
      ),
      [0.45, 0.5, 0.54],
    );
    beams.push(
      b.element('IfcBeam', {
        name,
        key,
        at,
        along,
        shape: b.shape([solid]),
        type,
        storey: 'Ground floor',
        rest: [new Enum('BEAM')],
      }).ref,
    );
  };
  for (const [i, x] of grids.entries()) {
    for (const j of [0, 1])
      draw(
        `beam/cross/${i}/${j}`,
        `Beam ${i + 1}/${j + 1}`,
        cross,
        [170, 360, 8, 12.7, 18],
        [x, j * 7200 + 150, level - 180],
        [0, 1, 0],
        6900,
      );
  }
  for (let i = 0; i < grids.length - 1; i++) {
    for (const [j, y] of LINES.entries())
      draw(
        `beam/edge/${i}/${j}`,
        `Edge beam ${i + 1}${'ABC'[j]}`,
        edge,
        [120, 240, 6.2, 9.8, 15],
        [i * bay + 150, y, level - 120],
        [1, 0, 0],
        bay - 300,
      );
  }
  b.assign(steel, beams);
  b.classify('B1010', beams);
  b.properties('Pset_BeamCommon', { LoadBearing: true, FireRating: 'R30' }, beams);
}

function buildFloorPanels(b: IfcBuilder, panel: Ref, bays: number, bay: number, thickness: number): void {
  const type = b.type('IfcSlabType', `Timber floor panel ${thickness}`, { predefined: 'FLOOR' });
  const panels: Ref[] = [];
  const width = bay / 4;
  for (let n = 0; n < bays * 4; n++) {
    for (const half of [0, 1]) {
      // The stair comes up through two panels.
      const isStairWell = half === 1 && (n === 21 || n === 22);
      if (isStairWell) continue;
      const solid = b.colour(b.extrude(b.rectangle(width, 7200, [width / 2, 3600]), thickness), [0.85, 0.72, 0.5]);
      panels.push(
        b.element('IfcSlab', {
          name: `Floor panel ${n + 1}${'ab'[half]}`,
          key: `panel/${n}/${half}`,
          at: [n * width, half * 7200, -thickness],
          shape: b.shape([solid]),
          type,
          storey: 'Upper floor',
          rest: [new Enum('FLOOR')],
        }).ref,
      );
    }
  }
  b.assign(panel, panels);
  b.classify('B1010', panels);
  b.properties('Pset_SlabCommon', { IsExternal: false, LoadBearing: true }, panels);
}

import { Enum, type Ref } from '../step-writer.ts';
import { EAVES } from './envelope.ts';
import { buildWall, type Fillings, type Hole, type Site, type WallOptions } from './site.ts';

const door = (key: string, at: number, width = 900): Hole => ({
  key: `door/${key}`,
  kind: 'door',
  at,
  sill: 0,
  width,
  height: 2100,
});

type Kind = 'block' | 'plain' | 'wet' | 'fire';
interface InnerWall {
  readonly kind: Kind;
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
  readonly doors?: readonly number[];
  readonly doorWidth?: number;
}

/** Inner walls of the ground floor; `end` is the east end of the house. */
function listGroundWalls(end: number): InnerWall[] {
  return [
    { kind: 'block', from: [14400, 150], to: [14400, 7200], doors: [3600], doorWidth: 1800 },
    { kind: 'block', from: [14400, 7200], to: [14400, 14250], doors: [3600] },
    { kind: 'block', from: [14400, 7200], to: [19200, 7200], doors: [2400] },
    { kind: 'block', from: [19200, 150], to: [19200, 7200] },
    { kind: 'block', from: [19200, 7200], to: [19200, 14250], doors: [600] },
    { kind: 'plain', from: [19200, 6300], to: [24000, 6300], doors: [2400] },
    { kind: 'plain', from: [19200, 8100], to: [24000, 8100], doors: [2400] },
    { kind: 'wet', from: [19200, 2400], to: [24000, 2400], doors: [1200] },
    { kind: 'wet', from: [19200, 12000], to: [24000, 12000], doors: [1200] },
    { kind: 'fire', from: [24000, 150], to: [24000, 6300] },
    { kind: 'fire', from: [24000, 8100], to: [24000, 14250] },
    { kind: 'plain', from: [end - 2400, 150], to: [end - 2400, 1950] },
  ];
}

function listUpperWalls(end: number): InnerWall[] {
  const runs = [
    [150, 14400],
    [14400, 19200],
    [19200, 24000],
    [24000, end - 150],
  ] as const;
  return [
    ...runs.map(([a, b]): InnerWall => ({ kind: 'fire', from: [a, 6600], to: [b, 6600], doors: [1200] })),
    ...runs.slice(0, 3).map(([a, b]): InnerWall => ({ kind: 'fire', from: [a, 8200], to: [b, 8200], doors: [1200] })),
    ...[14400, 19200, 24000].map(
      (x): InnerWall => ({ kind: x === 19200 ? 'wet' : 'plain', from: [x, 150], to: [x, 6600] }),
    ),
    ...[14400, 19200, 24000].map(
      (x): InnerWall => ({ kind: x === 19200 ? 'wet' : 'plain', from: [x, 8200], to: [x, 14250] }),
    ),
  ];
}

/** Block walls, partitions, stair, lockers and boat racks. */
export function buildInterior(site: Site, fillings: Fillings): void {
  const { b, p, m, bay } = site;
  const end = p.bays * bay;
  const kinds: Record<
    Kind,
    {
      name: string;
      label: string;
      thickness: number;
      layers: Ref;
      rating: string;
      colour: WallOptions['colour'];
      code: string | null;
    }
  > = {
    block: {
      name: 'Block wall 200',
      label: 'Block wall',
      thickness: 200,
      layers: m.blockWall,
      rating: 'REI60',
      colour: [0.66, 0.66, 0.64],
      code: 'C1010',
    },
    plain: {
      name: p.partition === 'acoustic' ? 'Partition 100 acoustic' : 'Partition 100',
      label: 'Partition',
      thickness: 100,
      layers: m.partition,
      rating: 'none',
      colour: [0.93, 0.93, 0.9],
      code: null,
    },
    wet: {
      name: 'Partition 125 wet',
      label: 'Wet partition',
      thickness: 125,
      layers: m.wetPartition,
      rating: 'none',
      colour: [0.85, 0.91, 0.93],
      code: 'C1010',
    },
    fire: {
      name: 'Partition 150 fire',
      label: 'Fire partition',
      thickness: 150,
      layers: m.firePartition,
      rating: 'EI60',
      colour: [0.94, 0.88, 0.86],
      code: 'C1010',
    },
  };
  const types = Object.fromEntries(
    Object.entries(kinds).map(([k, v]) => [
      k,
      b.type('IfcWallType', v.name, { predefined: k === 'block' ? 'SOLIDWALL' : 'PARTITIONING' }),
    ]),
  ) as Record<Kind, Ref>;
  for (const [storey, walls, height] of [
    ['Ground floor', listGroundWalls(end), p.storeyHeight - 200],
    ['Upper floor', listUpperWalls(end), EAVES - 100],
  ] as const) {
    for (const [n, w] of walls.entries()) {
      const k = kinds[w.kind];
      // The designers drew three walls anew in the second revision.
      const key = `inner/${storey}/${n}${p.isRedrawn && storey === 'Ground floor' && n >= 5 && n <= 7 ? '/redrawn' : ''}`;
      const holes = (w.doors ?? []).map((at, i) =>
        door(`inner/${storey === 'Ground floor' ? 'G' : 'U'}/${n}/${i}`, at, w.doorWidth),
      );
      const wall = buildWall(b, fillings, {
        key,
        name: `${k.label} ${storey === 'Ground floor' ? 'G' : 'U'}${n + 1}`,
        from: w.from,
        to: w.to,
        height,
        thickness: k.thickness,
        type: types[w.kind],
        layers: k.layers,
        storey,
        colour: k.colour,
        holes,
        ifcClass: w.kind === 'block' ? 'IfcWallStandardCase' : 'IfcWall',
      });
      b.properties('Pset_WallCommon', { IsExternal: false, LoadBearing: w.kind === 'block', FireRating: k.rating }, [
        wall,
      ]);
      if (k.code) b.classify(k.code, [wall]);
    }
  }
  buildStair(site);
  buildLockers(site);
  buildRacks(site);
  buildLintels(site);
}

function buildStair({ b, p, m, bay }: Site): void {
  const x = 5 * bay + 1300;
  const steps = 20;
  const rise = p.storeyHeight / steps;
  const tread = 270;
  const width = 1100;
  const made: Ref[] = [];
  for (const [key, fx, fy, fz, dir] of [
    ['1', x, 9000, 0, 1],
    ['2', x + 1200, 9000 + 10 * tread, p.storeyHeight / 2, -1],
  ] as const) {
    const n = steps / 2;
    const points: [number, number][] = [[0, 0]];
    for (let i = 0; i < n; i++) points.push([i * tread, (i + 1) * rise], [(i + 1) * tread, (i + 1) * rise]);
    points.push([n * tread, (n - 1) * rise - 60], [tread, 0]);
    const solid = b.colour(
      b.extrude(b.polygon(points), width, [0, width / 2, 0], [0, -1, 0], [1, 0, 0]),
      [0.7, 0.7, 0.68],
    );
    made.push(
      b.element('IfcStairFlight', {
        name: `Flight ${key}`,
        key: `stair/flight/${key}`,
        at: [fx, fy, fz],
        along: [0, dir, 0],
        shape: b.shape([solid]),
        storey: null,
        relativeTo: undefined,
        rest: [null, null, rise, tread, new Enum('STRAIGHT')],
      }).ref,
    );
  }
  const landing = b.shape([b.colour(b.extrude(b.rectangle(2400, 1200, [1200, 600]), 180), [0.7, 0.7, 0.68])]);
  made.push(
    b.element('IfcSlab', {
      name: 'Landing',
      key: 'stair/landing',
      at: [x - 550, 9000 + 10 * tread, p.storeyHeight / 2 - 180],
      shape: landing,
      storey: null,
      rest: [new Enum('LANDING')],
    }).ref,
  );
  b.assign(m.concrete, made);
  const stair = b.element('IfcStair', {
    name: 'Main stair',
    key: 'stair',
    at: [0, 0, 0],
    storey: 'Ground floor',
    rest: [new Enum('HALF_TURN_STAIR')],
  });
  b.aggregate('stair', stair.ref, made);
  b.classify('C2010', [stair.ref]);
}

/** Lockers: many occurrences of one type. Two of them carry the same GlobalId. */
function buildLockers({ b, m }: Site): void {
  const map = b.map([b.colour(b.extrude(b.rectangle(300, 500), 1800), [0.2, 0.42, 0.48])]);
  const type = b.type('IfcFurnitureType', 'Locker 300', { predefined: 'NOTDEFINED', maps: [map], rest: [null] });
  const lockers: Ref[] = [];
  for (const [room, y] of [
    ['A', 6000],
    ['B', 8400],
  ] as const) {
    for (let i = 0; i < 12; i++) {
      const key = room === 'B' && i === 11 ? 'locker/B/10' : `locker/${room}/${i}`;
      lockers.push(
        b.element('IfcFurniture', {
          name: `Locker ${room}${i + 1}`,
          key,
          at: [19600 + i * 320, y, 0],
          shape: b.mapped(map),
          type,
          storey: 'Ground floor',
          rest: [new Enum('NOTDEFINED')],
        }).ref,
      );
    }
  }
  b.assign(m.locker, lockers);
  b.classify('E2010', lockers);
}

function buildRacks({ b, m }: Site): void {
  const type = b.type('IfcFurnitureType', 'Boat rack, four shelves', { predefined: 'NOTDEFINED', rest: [null] });
  const racks: Ref[] = [];
  for (let i = 0; i < 8; i++) {
    const posts = [0, 5000, 10000].map((x) => b.extrude(b.rectangle(80, 80, [x, 0]), 2600));
    const arms = [600, 1200, 1800, 2400].map((z) =>
      b.extrude(b.rectangle(10000 - 160, 60, [5000, 300]), 60, [0, 0, z]),
    );
    const shape = b.shape([...posts, ...arms].map((s) => b.colour(s, [0.3, 0.5, 0.45])));
    racks.push(
      b.element('IfcFurniture', {
        name: `Boat rack ${i + 1}`,
        key: `rack/${i}`,
        at: [1800, 1500 + i * 1600, 0],
        shape,
        type,
        storey: 'Ground floor',
        rest: [new Enum('NOTDEFINED')],
      }).ref,
    );
  }
  b.assign(m.steel, racks);
  b.classify('E2010', racks);
}

/** Steel angles over the doors of the block walls. */
function buildLintels({ b, m }: Site): void {
  const type = b.type('IfcMemberType', 'Lintel angle 100 x 8', { predefined: 'MEMBER' });
  const lintels: Ref[] = [];
  for (const [i, y] of [3750, 10800].entries()) {
    const shape = b.shape([
      b.colour(
        b.extrude(b.profile('IfcLShapeProfileDef', 100, 100, 8, 10, 5, null), 2200, [0, 0, 0], [1, 0, 0], [0, 1, 0]),
        [0.45, 0.5, 0.54],
      ),
    ]);
    lintels.push(
      b.element('IfcMember', {
        name: `Lintel ${i + 1}`,
        key: `lintel/${i}`,
        at: [14400, y - 1100, 2400],
        along: [0, 1, 0],
        shape,
        type,
        storey: 'Ground floor',
        rest: [new Enum('MEMBER')],
      }).ref,
    );
  }
  b.assign(m.steel, lintels);
}

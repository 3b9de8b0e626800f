import type { FindingCode, Vector3 } from '@tally/core';
import fc from 'fast-check';
import { ModelWriter, type WriterOptions } from '../testing/model-writer.ts';

/** A building of one plan on each storey: rooms in a row, walls around and between them, slabs, columns, beams, doors. */
interface Building {
  readonly options: WriterOptions;
  readonly storeys: number;
  readonly rooms: number;
  readonly roomM: number;
  readonly deepM: number;
  readonly heightM: number;
  readonly wallM: number;
  readonly slabM: number;
  /** Walls are drawn into each other's corners, or only up to each other. */
  readonly isMitred: boolean;
}

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const buildings: fc.Arbitrary<Building> = fc.record({
  options: fc.record({
    schema: fc.constantFrom('IFC2X3' as const, 'IFC4' as const, 'IFC4X3_ADD2' as const),
    unitM: fc.constantFrom(1, 0.001, 0.3048),
    frame: fc.tuple(number(-200, 200), number(-200, 200), number(-5, 60), number(-3, 3)).map(([x, y, z, a]) => ({
      at: [x, y, z] as Vector3,
      z: [0, 0, 1] as Vector3,
      x: [Math.cos(a), Math.sin(a), 0] as Vector3,
    })),
  }),
  storeys: fc.integer({ min: 1, max: 3 }),
  rooms: fc.integer({ min: 1, max: 3 }),
  roomM: number(3, 7),
  deepM: number(3, 8),
  heightM: number(2.6, 4),
  wallM: number(0.12, 0.4),
  slabM: number(0.18, 0.35),
  isMitred: fc.boolean(),
});

const FINISH = 'Oak';

class Site {
  readonly w: ModelWriter;
  constructor(readonly b: Building) {
    this.w = new ModelWriter(b.options);
  }

  private get isOld() {
    return this.b.options.schema === 'IFC2X3';
  }
  /** Rest of the attributes of an element. */
  private get kind() {
    return this.isOld ? '' : ',$';
  }
  get lengthM() {
    return this.b.rooms * (this.b.roomM + this.b.wallM) - this.b.wallM;
  }
  level(i: number) {
    return i * this.b.heightM;
  }

  box(x: number, y: number, z: number, dx: number, dy: number, dz: number): number {
    return this.w.extrude(this.w.rectangle(dx, dy), dz, this.w.axis3([x + dx / 2, y + dy / 2, z]));
  }
  wall(x: number, y: number, z: number, dx: number, dy: number, name = 'Wall'): number {
    return this.w.element('IFCWALL', [this.box(x, y, z, dx, dy, this.b.heightM - this.b.slabM)], this.kind, { name });
  }
  room(i: number, z: number, shift = 0): number {
    const { roomM, wallM, deepM, heightM, slabM } = this.b;
    const space = this.w.space([this.box(i * (roomM + wallM) + shift, 0, z, roomM, deepM, heightM - slabM)]);
    const value = this.w.add(`IFCPROPERTYSINGLEVALUE('FloorCovering',$,IFCLABEL('${FINISH}'),$)`);
    const set = this.w.add(`IFCPROPERTYSET('q${space}',$,'Pset_SpaceCoveringRequirements',$,(#${value}))`);
    this.w.add(`IFCRELDEFINESBYPROPERTIES('d${space}',$,$,$,(#${space}),#${set})`);
    return space;
  }
  beam(x: number, y: number, z: number, length: number): number {
    return this.w.element('IFCBEAM', [this.box(x, y, z, length, 0.2, 0.3)], this.kind);
  }
  column(x: number, y: number, z: number): number {
    return this.w.element('IFCCOLUMN', [this.box(x, y, z, 0.25, 0.25, this.b.heightM - this.b.slabM)], this.kind);
  }

  build(skipsRoom = false): this {
    const { storeys, rooms, roomM, deepM, wallM: t, slabM, heightM, isMitred } = this.b;
    for (let s = 0; s < storeys; s++) {
      const z = this.level(s);
      this.w.storey(`Level ${s}`, z);
      this.w.element('IFCSLAB', [this.box(-t, -t, z - slabM, this.lengthM + 2 * t, deepM + 2 * t, slabM)], ',.FLOOR.');
      const [from, over] = isMitred ? [-t, 2 * t] : [0, 0];
      const south = this.wall(-t, -t, z, this.lengthM + 2 * t, t);
      this.wall(-t, deepM, z, this.lengthM + 2 * t, t);
      this.wall(-t, from, z, t, deepM + over);
      this.wall(this.lengthM, from, z, t, deepM + over);
      // A door in the wall to the south.
      this.w.opening(south, [this.box(0.5, -t - 0.2, z, 1, t + 0.4, 2.1)]);
      for (let i = 0; i < rooms; i++) {
        if (i > 0) this.wall(i * (roomM + t) - t, 0, z, t, deepM);
        if (!(skipsRoom && s === 0 && i === 0)) this.room(i, z);
        this.column(i * (roomM + t) + 1, 1, z);
      }
      this.beam(0.1, deepM / 2, z + heightM - slabM - 0.3, 1.5);
    }
    return this;
  }

  async codes(): Promise<FindingCode[]> {
    return (await this.w.take()).findings.map((f) => f.code);
  }
}

const RUNS = { numRuns: 200, seed: 7 };

it(
  'finds nothing wrong with 200 sound buildings',
  () =>
    fc.assert(
      fc.asyncProperty(buildings, async (b) => {
        const { findings } = await new Site(b).build().w.take();
        if (findings.length > 0) throw new Error(findings.map((f) => f.message).join('\n'));
      }),
      RUNS,
    ),
  120_000,
);

/** Faults that are built into a sound building, with the finding that must tell them. */
const FAULTS: readonly (readonly [FindingCode, (s: Site) => void])[] = [
  ['coincident', (s) => [0, 1].forEach(() => void s.column(0.4, 1.6, s.level(0)))],
  ['overlap', (s) => void s.wall(-s.b.wallM + 0.05, -s.b.wallM + 0.05, s.level(0), s.lengthM, s.b.wallM)],
  ['overlap', (s) => void s.column(1.6, s.b.deepM, s.level(0))],
  ['overlap', (s) => void s.beam(0.1, 0.5, s.level(0) - s.b.slabM - 0.15, 2)],
  ['storey-level-differs', (s) => s.b.storeys > 1 && void s.wall(0.5, 0.4, s.level(s.b.storeys - 2), 1, 0.1)],
  ['rooms-overlap', (s) => void s.room(0, s.level(0), 0.5)],
  ['no-storey', (s) => s.w.unplaced(() => void s.column(0.4, 2, s.level(0)))],
  ['open-body', (s) => void s.w.element('IFCBUILDINGELEMENTPROXY', [s.w.brep([[[0, 0, 9], [1, 0, 9], [0, 1, 9]]])], ',$')],
  ['size-out-of-range', (s) => void s.w.element('IFCBUILDINGELEMENTPROXY', [s.box(0, 0, 20, 4e5, 1, 1)], ',$')],
  ['profile-crosses-itself', (s) => void s.w.element('IFCSLAB', [s.w.extrude(s.w.outline([[0, 0], [4, 3], [4, 0], [0, 2]]), 0.2, s.w.axis3([0, 0, 30]))], ',.FLOOR.')],
]; // biome-ignore format: one fault a line

it(
  'finds every fault that is built into 200 others',
  () =>
    fc.assert(
      fc.asyncProperty(buildings, fc.integer({ min: 0, max: FAULTS.length - 1 }), async (b, i) => {
        const [code, plant] = FAULTS[i]!;
        const site = new Site(b).build();
        plant(site);
        if (code === 'storey-level-differs' && b.storeys < 2) return;
        const codes = await site.codes();
        if (!codes.includes(code)) throw new Error(`${code} is not told; there are ${codes.join()}`);
      }),
      RUNS,
    ),
  120_000,
);

it('finds the floor of a room that is not there', () =>
  fc.assert(
    fc.asyncProperty(buildings, async (b) => {
      if (b.rooms < 2) return;
      expect(await new Site(b).build(true).codes()).toContain('floor-without-room');
    }),
    { numRuns: 40, seed: 7 },
  ));

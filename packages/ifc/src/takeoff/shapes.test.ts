import { cross, normalize, type Vector2, type Vector3 } from '@tally/core';
import fc from 'fast-check';
import { ModelWriter, type WriterOptions } from '../testing/model-writer.ts';

/** What is promised of figures: exact within 0.1 %, those of a mesh within 0.5 %. */
const PROMISED = { exact: 0.001, mesh: 0.005 } as const;

type Expected = Readonly<Record<string, number>>;

/** Writes a model, takes it off, and holds the figures of its first element against those worked out by hand. */
async function expectFigures(w: ModelWriter, expected: Expected, absent: readonly string[] = []) {
  const { figures, codes } = await w.measure();
  for (const [name, wanted] of Object.entries(expected)) {
    const q = figures.get(name);
    if (!q) throw new Error(`${name} is absent, ${wanted} wanted; there are ${[...figures.keys()].join()}`);
    const off = Math.abs(q.value - wanted);
    if (off > PROMISED[q.exactness ?? 'mesh'] * Math.abs(wanted) + 1e-7)
      throw new Error(`${name} ${q.value} (${q.method}, ${q.exactness}), ${wanted} wanted`);
  }
  for (const name of absent) if (figures.has(name)) throw new Error(`${name} ${figures.get(name)!.value}, wanted absent`); // biome-ignore format: one line
  return { figures, codes };
}

const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const angle = number(-3.1, 3.1);
const files = fc.record({
  schema: fc.constantFrom('IFC2X3' as const, 'IFC4' as const, 'IFC4X3_ADD2' as const),
  unitM: fc.constantFrom(1, 0.001, 0.3048),
});
/** Somewhere on a site, turned on plan. */
const standing: fc.Arbitrary<WriterOptions> = fc
  .tuple(files, number(-500, 500), number(-500, 500), number(-10, 40), angle)
  .map(([file, x, y, z, a]) => ({
    ...file,
    frame: { at: [x, y, z], z: [0, 0, 1], x: [Math.cos(a), Math.sin(a), 0] },
  }));
/** Anywhere, turned any way in space. */
const anyhow: fc.Arbitrary<WriterOptions> = fc.tuple(standing, angle, angle).map(([options, tilt, turn]) => {
  const z: Vector3 = [Math.sin(tilt) * Math.cos(turn), Math.sin(tilt) * Math.sin(turn), Math.cos(tilt)];
  const x = normalize(cross(Math.abs(z[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0], z));
  return { ...options, frame: { ...options.frame, z, x } };
});
const size = number(0.3, 9);
const RUNS = { numRuns: 12, seed: 20261127 };
const each = <T extends unknown[]>(
  ...args: [...{ [K in keyof T]: fc.Arbitrary<T[K]> }, (...values: T) => Promise<void>]
) => fc.assert((fc.asyncProperty as unknown as (...list: unknown[]) => fc.IAsyncProperty<T>)(...args), RUNS);

describe('members, however they are drawn and wherever they lie', () => {
  it('a pipe, a duct, a tray: as long as its sweep', () =>
    each(anyhow, size, number(0.02, 0.2), async (options, length, radius) => {
      const w = new ModelWriter(options);
      const kind = options.schema === 'IFC2X3' ? 'IFCFLOWSEGMENT' : 'IFCPIPESEGMENT';
      w.element(kind, [w.extrude(w.circle(radius), length)], options.schema === 'IFC2X3' ? '' : ',$');
      const section = Math.PI * radius ** 2;
      await expectFigures(w, { Length: length, CrossSectionArea: section, NetVolume: section * length, OuterSurfaceArea: 2 * Math.PI * radius * length }); // biome-ignore format: one call
    }));
  it('a bent bar: along its directrix, corners rounded by arcs or mitred', () =>
    each(anyhow, number(0.5, 4), number(0.5, 4), number(0.05, 0.2), async (options, a, b, r) => {
      const w = new ModelWriter(options);
      const at = (p: Vector2) => `#${w.point([...p, 0])}`;
      // a along x, a quarter circle of r, b along y.
      const circle = w.add(`IFCCIRCLE(#${w.axis3([a, r, 0])},${w.len(r)})`);
      const arc = w.add(`IFCTRIMMEDCURVE(#${circle},(${at([a, 0])}),(${at([a + r, r])}),.T.,.CARTESIAN.)`);
      const lines = [w.polyline([[0, 0, 0], [a, 0, 0]]), arc, w.polyline([[a + r, r, 0], [a + r, r + b, 0]])]; // biome-ignore format: one path
      const segments = lines.map((c) => `#${w.add(`IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#${c})`)}`);
      const curve = w.add(`IFCCOMPOSITECURVE((${segments.join()}),.F.)`);
      w.element('IFCREINFORCINGBAR', [w.add(`IFCSWEPTDISKSOLID(#${curve},${w.len(0.008)},$,$,$)`)], ',$,$,$,$,$,$');
      const length = a + b + (Math.PI / 2) * r;
      await expectFigures(w, { Length: length, NetVolume: Math.PI * 0.008 ** 2 * length });
      const sharp = new ModelWriter(options);
      const path = sharp.polyline([[0, 0, 0], [a, 0, 0], [a, b, 0], [a, b, a]]); // biome-ignore format: one path
      sharp.element('IFCREINFORCINGBAR', [sharp.add(`IFCSWEPTDISKSOLID(#${path},${sharp.len(0.008)},$,$,$)`)], ',$,$,$,$,$,$'); // biome-ignore format: one record
      await expectFigures(sharp, { Length: 2 * a + b });
    }));
  it('a curved beam turned about an axis: along the middle of its profile', () =>
    each(anyhow, number(1, 8), number(0.1, 0.5), number(0.1, 0.6), number(0.3, 3), async (options, r, b, h, turn) => {
      const w = new ModelWriter(options);
      const axis = w.add(`IFCAXIS1PLACEMENT(#${w.point([0, 0, 0])},#${w.direction([0, 1, 0])})`);
      // An outline that is no rectangle along the axis: a triangle, its middle a third up.
      const triangle = w.outline([[r, 0], [r + b, 0], [r, h]]); // biome-ignore format: one profile
      w.element('IFCBEAM', [w.add(`IFCREVOLVEDAREASOLID(#${triangle},#${w.axis3([0, 0, 0])},#${axis},${turn})`)], options.schema === 'IFC2X3' ? '' : ',$'); // biome-ignore format: one record
      const way = (r + b / 3) * turn;
      await expectFigures(w, { Length: way, CrossSectionArea: (b * h) / 2, NetVolume: ((b * h) / 2) * way });
    }));
  it('a sloping beam, swept and as faces: its own length, not its extents', () =>
    each(anyhow, number(2, 9), number(0.1, 0.3), number(0.1, 0.4), async (options, length, b, h) => {
      const rest = options.schema === 'IFC2X3' ? '' : ',$';
      const expected = { Length: length, CrossSectionArea: b * h, NetVolume: b * h * length, OuterSurfaceArea: 2 * (b + h) * length, EndsArea: 2 * b * h }; // biome-ignore format: one record
      const swept = new ModelWriter(options);
      swept.element('IFCBEAM', [swept.extrude(swept.rectangle(b, h), length)], rest);
      await expectFigures(swept, expected);
      const faces = new ModelWriter(options);
      const ring: Vector2[] = [[0, 0], [b, 0], [b, h], [0, h]]; // biome-ignore format: one ring
      faces.element('IFCBEAM', [faces.prismFaces(ring, length)], rest);
      const { figures } = await expectFigures(faces, expected);
      expect(figures.get('Length')!.exactness).toBe('mesh');
    }));
  it('a column as faces: its surface without the ends, as the swept one', () =>
    each(standing, size, number(0.2, 0.6), async (options, height, b) => {
      const w = new ModelWriter(options);
      const ring = [0, 1, 2, 3, 4, 5].map(
        (i): Vector2 => [b * Math.cos((i * Math.PI) / 3), b * Math.sin((i * Math.PI) / 3)],
      );
      w.element('IFCCOLUMN', [w.prismFaces(ring, height)], options.schema === 'IFC2X3' ? '' : ',$');
      await expectFigures(w, { OuterSurfaceArea: 6 * b * height, Length: Math.max(height, height), NetVolume: 1.5 * Math.sqrt(3) * b * b * height }); // biome-ignore format: one call
    }));
});

describe('walls', () => {
  const rest = ({ schema }: WriterOptions) => (schema === 'IFC2X3' ? '' : ',$');
  it('L-shaped, swept and as faces: along the middle, two sides, two ends', () =>
    each(standing, number(2, 9), number(2, 9), number(0.1, 0.4), number(2, 4), async (options, a, b, t, h) => {
      const ring: Vector2[] = [[0, 0], [a, 0], [a, b], [a - t, b], [a - t, t], [0, t]]; // biome-ignore format: one ring
      const length = a + b - t;
      const expected = {
        Length: length,
        Width: t,
        Height: h,
        GrossSideArea: length * h,
        SidesArea: 2 * length * h,
        EndsArea: 2 * t * h,
        GrossFootprintArea: length * t,
        TopArea: length * t,
        NetVolume: length * t * h,
      };
      const swept = new ModelWriter(options);
      swept.element('IFCWALL', [swept.extrude(swept.outline(ring), h)], rest(options));
      const { figures } = await expectFigures(swept, expected);
      expect(figures.get('Length')!.exactness).toBe('exact');
      const faces = new ModelWriter(options);
      faces.element('IFCWALL', [faces.prismFaces(ring, h)], rest(options));
      expect((await expectFigures(faces, expected)).figures.get('Length')!.exactness).toBe('mesh');
    }));
  it('curved: each side by its own radius; a round tower: along its middle', () =>
    each(standing, number(2, 9), number(0.1, 0.5), number(0.4, 2.8), number(2, 4), async (options, r, t, turn, h) => {
      const w = new ModelWriter(options);
      w.element('IFCWALL', [w.extrude(w.sector(r + t, r, turn), h)], rest(options));
      const middle = r + t / 2;
      await expectFigures(w, { Length: middle * turn, Width: t, SidesArea: (2 * r + t) * turn * h, EndsArea: 2 * t * h, GrossSideArea: middle * turn * h }); // biome-ignore format: one call
      const ring = new ModelWriter(options);
      const tube = ring.add(`IFCCIRCLEHOLLOWPROFILEDEF(.AREA.,$,#${ring.axis2()},${ring.len(r + t)},${ring.len(t)})`);
      ring.element('IFCWALL', [ring.extrude(tube, h)], rest(options));
      await expectFigures(ring, { Length: 2 * Math.PI * middle, Width: t, SidesArea: 4 * Math.PI * middle * h, NetSideArea: 2 * Math.PI * middle * h }); // biome-ignore format: one call
      // Drawn as a turned rectangle it is the same wall.
      const turned = new ModelWriter(options);
      const axis = turned.add(`IFCAXIS1PLACEMENT(#${turned.point([0, 0, 0])},#${turned.direction([0, 1, 0])})`);
      const frame = turned.axis3([0, 0, 0], [0, -1, 0], [1, 0, 0]);
      const solid = turned.add(
        `IFCREVOLVEDAREASOLID(#${turned.rectangle(t, h, [middle, h / 2])},#${frame},#${axis},${turn})`,
      );
      turned.element('IFCWALL', [solid], rest(options));
      await expectFigures(turned, { Length: middle * turn, Width: t, Height: h, SidesArea: (2 * r + t) * turn * h });
    }));
  it('of two thicknesses: its side as seen, no one width', () =>
    each(standing, number(2, 9), number(0.5, 2), number(0.5, 2), async (options, length, low, high) => {
      // A plinth of 0.4 m, the wall above 0.2 m: drawn by its section along its length.
      const section: Vector2[] = [[0, 0], [0.4, 0], [0.4, low], [0.2, low], [0.2, low + high], [0, low + high]]; // biome-ignore format: one ring
      const expected = { GrossSideArea: length * (low + high), Height: low + high, Length: length };
      const swept = new ModelWriter(options);
      const along = swept.axis3([0, 0, 0], [1, 0, 0], [0, 1, 0]);
      swept.element('IFCWALL', [swept.extrude(swept.outline(section), length, along)], rest(options));
      await expectFigures(swept, expected, ['Width']);
      const faces = new ModelWriter(options);
      faces.element('IFCWALL', [faces.prismFaces(section, length, ([x, y, z]) => [z, x, y])], rest(options));
      await expectFigures(faces, expected, ['Width']);
    }));
  it('drawn in bodies that touch or run through each other: one wall', () =>
    each(standing, number(2, 9), number(2, 9), number(0.1, 0.4), number(2, 4), async (options, a, b, t, h) => {
      const w = new ModelWriter(options);
      // Two boxes that share the corner.
      const boxes = [w.rectangle(a, t, [a / 2, t / 2]), w.rectangle(t, b, [a - t / 2, b / 2])];
      w.element('IFCWALL', boxes.map((p) => w.extrude(p, h)), rest(options)); // biome-ignore format: one record
      await expectFigures(w, { NetVolume: (a + b - t) * t * h, Length: a + b - t, Width: t });
      const layers = new ModelWriter(options);
      const parts = [layers.rectangle(a, t, [a / 2, t / 2]), layers.rectangle(a, 2 * t, [a / 2, 2 * t])];
      layers.element('IFCWALL', parts.map((p) => layers.extrude(p, h)), rest(options)); // biome-ignore format: one record
      await expectFigures(layers, { Length: a, Width: 3 * t, GrossSideArea: a * h, SidesArea: 2 * a * h, NetVolume: a * 3 * t * h }); // biome-ignore format: one call
    }));
  it('lying in a frame turned in space: as high as it stands', () =>
    each(standing, number(2, 9), number(0.1, 0.4), number(2, 4), async (options, a, t, h) => {
      const { at, x } = options.frame;
      // The frame's z runs level: the wall is drawn upward along its y.
      const w = new ModelWriter({ ...options, frame: { at, z: x, x: cross([0, 0, 1], x) } });
      const axis = w.axis3([0, 0, 0], [0, 1, 0], [0, 0, 1]);
      w.element('IFCWALL', [w.extrude(w.rectangle(a, t), h, axis)], rest(options));
      await expectFigures(w, { Length: a, Width: t, Height: h, GrossSideArea: a * h });
    }));
});

describe('slabs, footings, round bodies', () => {
  const rest = ({ schema }: WriterOptions) => (schema === 'IFC2X3' ? ',$' : ',$');
  it('drawn by its section: its face and its thickness, also when it slopes', () =>
    each(
      standing,
      number(3, 12),
      number(3, 9),
      number(0.1, 0.4),
      number(0, 0.9),
      async (options, depth, run, t, slope) => {
        const w = new ModelWriter(options);
        const [u, v] = [[Math.cos(slope), Math.sin(slope)], [-Math.sin(slope), Math.cos(slope)]] as [Vector2, Vector2]; // biome-ignore format: two axes
        const at = (a: number, b: number): Vector2 => [u[0] * a + v[0] * b, u[1] * a + v[1] * b];
        const section = w.outline([at(0, 0), at(run, 0), at(run, t), at(0, t)]);
        const frame = w.axis3([0, 0, 0], [0, -1, 0], [1, 0, 0]);
        w.element('IFCSLAB', [w.extrude(section, depth, frame)], rest(options));
        await expectFigures(w, { GrossArea: run * depth, NetArea: run * depth, Depth: t, NetVolume: run * depth * t, TopArea: run * depth, BottomArea: run * depth }); // biome-ignore format: one call
      },
    ));
  it('sloping, as faces: its own face, its own thickness', () =>
    each(anyhow, number(2, 9), number(2, 9), number(0.1, 0.4), async (options, a, b, t) => {
      const w = new ModelWriter(options);
      w.element('IFCSLAB', [w.prismFaces([[0, 0], [a, 0], [a, b], [0, b]], t)], rest(options)); // biome-ignore format: one record
      await expectFigures(w, { GrossArea: a * b, Depth: t, Perimeter: 2 * (a + b), Length: Math.max(a, b), Width: Math.min(a, b), EdgesArea: 2 * (a + b) * t }); // biome-ignore format: one call
    }));
  it('with a downstand: the area of its top, no one thickness', () =>
    each(standing, number(4, 9), number(4, 9), async (options, a, b) => {
      const section: Vector2[] = [[0, 0.3], [1, 0.3], [1, 0], [1.4, 0], [1.4, 0.3], [a, 0.3], [a, 0.5], [0, 0.5]]; // biome-ignore format: one ring
      const swept = new ModelWriter(options);
      swept.element('IFCSLAB', [swept.extrude(swept.outline(section), b, swept.axis3([0, 0, 0], [0, -1, 0], [1, 0, 0]))], rest(options)); // biome-ignore format: one record
      await expectFigures(swept, { GrossArea: a * b, NetVolume: (a * 0.2 + 0.12) * b }, ['Depth']);
      const faces = new ModelWriter(options);
      faces.element('IFCSLAB', [faces.prismFaces(section, b, ([x, y, z]) => [x, -z, y])], rest(options));
      await expectFigures(faces, { GrossArea: a * b, TopArea: a * b, NetVolume: (a * 0.2 + 0.12) * b }, ['Depth']);
    }));
  it('a footing in any frame: by its body', () =>
    each(anyhow, number(3, 12), number(0.5, 1), number(0.3, 0.45), async (options, length, width, height) => {
      const w = new ModelWriter(options);
      w.element('IFCFOOTING', [w.extrude(w.rectangle(length, width), height)], options.schema === 'IFC2X3' ? ',.STRIP_FOOTING.' : ',$'); // biome-ignore format: one record
      const { figures } = await expectFigures(w, { NetVolume: length * width * height });
      const found = ['Length', 'Width', 'Height'].map((n) => figures.get(n)!.value).sort((a, b) => a - b);
      [height, width, length]
        .sort((a, b) => a - b)
        .forEach((wanted, i) => {
          expect(Math.abs(found[i]! - wanted)).toBeLessThan(0.005 * wanted);
        });
    }));
  it('balls, rings, cones and ellipsoids turned about an axis', () =>
    each(anyhow, number(0.5, 3), number(0.1, 0.4), async (options, r, a) => {
      const rest4 = options.schema === 'IFC2X3' ? ',$' : ',$';
      const full = 2 * Math.PI;
      const turned = async (profile: (w: ModelWriter) => number, expected: Expected) => {
        const w = new ModelWriter(options);
        const axis = w.add(`IFCAXIS1PLACEMENT(#${w.point([0, 0, 0])},#${w.direction([0, 1, 0])})`);
        const solid = w.add(`IFCREVOLVEDAREASOLID(#${profile(w)},#${w.axis3([0, 0, 0])},#${axis},${full})`);
        w.element('IFCBUILDINGELEMENTPROXY', [solid], rest4);
        expect((await expectFigures(w, expected)).figures.get('NetVolume')!.exactness).toBe('exact');
      };
      await turned((w) => w.circle(a, [r, 0]), { NetVolume: 2 * Math.PI ** 2 * r * a * a, OuterSurfaceArea: 4 * Math.PI ** 2 * r * a }); // biome-ignore format: one call
      await turned((w) => w.outline([[0, 0], [r, 0], [0, a]]), { NetVolume: (Math.PI * r * r * a) / 3 }); // biome-ignore format: one call
      const half = (curve: (w: ModelWriter) => number, top: number) => (w: ModelWriter) => {
        const arc = w.add(
          `IFCTRIMMEDCURVE(#${curve(w)},(#${w.point([0, -top])}),(#${w.point([0, top])}),.T.,.CARTESIAN.)`,
        );
        const pieces = [arc, w.polyline([[0, top], [0, -top]])].map((c) => `#${w.add(`IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#${c})`)}`); // biome-ignore format: one list
        return w.add(`IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#${w.add(`IFCCOMPOSITECURVE((${pieces.join()}),.F.)`)})`);
      };
      await turned(half((w) => w.add(`IFCCIRCLE(#${w.axis2()},${w.len(r)})`), r), { NetVolume: (4 / 3) * Math.PI * r ** 3 }); // biome-ignore format: one call
      await turned(half((w) => w.add(`IFCELLIPSE(#${w.axis2()},${w.len(r)},${w.len(a)})`), a), { NetVolume: (4 / 3) * Math.PI * r * r * a }); // biome-ignore format: one call
    }));
  it('a body whose faces look inward, or any way, is measured; one that is open is not', async () => {
    const cube = (order: (face: Vector3[], i: number) => Vector3[], drop = 0) => {
      const w = new ModelWriter();
      const corner = (i: number): Vector3 => [i & 1 ? 2 : 0, i & 2 ? 3 : 0, i & 4 ? 4 : 0];
      const faces = [[0, 2, 3, 1], [4, 5, 7, 6], [0, 1, 5, 4], [2, 6, 7, 3], [0, 4, 6, 2], [1, 3, 7, 5]]; // biome-ignore format: one body
      w.element('IFCBUILDINGELEMENTPROXY', [w.brep(faces.slice(drop).map((f, i) => order(f.map(corner), i)))], ',$');
      return w;
    };
    await expectFigures(
      cube((f) => f),
      { NetVolume: 24, OuterSurfaceArea: 52 },
    );
    await expectFigures(
      cube((f) => f.reverse()),
      { NetVolume: 24 },
    );
    await expectFigures(
      cube((f, i) => (i % 2 ? f.reverse() : f)),
      { NetVolume: 24 },
    );
    const { codes } = await expectFigures(
      cube((f) => f, 1),
      {},
      ['NetVolume', 'GrossVolume'],
    );
    expect(codes).toContain('open-body');
  });
});

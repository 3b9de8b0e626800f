import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  buildElementTable,
  checkAssembly,
  listQuantityNames,
  type ModelElement,
  type Quantity,
  readTemplate,
  runPipeline,
  templateToBasis,
  tryAssembly,
} from '@tally/core';

const template = readTemplate(JSON.parse(readFileSync(join(import.meta.dirname, '../template.json'), 'utf8')));
if (!template.ok) throw new Error(template.problem.message);
const basis = templateToBasis(template.value);

const UNITS: Record<string, Quantity['unit']> = { Corners: 'each', Tees: 'each', Jambs: 'each', Count: 'each', NetSideArea: 'm2', NetArea: 'm2', NetVolume: 'm3' }; // biome-ignore format: a table
function element(
  figures: Record<string, number>,
  openings: [number, number][] = [],
  properties: ModelElement['properties'] = {},
  key = 1,
) {
  const made: ModelElement = {
    globalId: 'e', ifcClass: 'IfcWall', name: 'E', typeName: null, tag: null, storey: null, space: null, parent: null, host: null,
    zones: [], materials: [], codes: [], layers: [], faces: [], finishes: null, box: null, properties,
    quantities: Object.entries(figures).map(([name, value]) => ({ name, value, unit: UNITS[name] ?? 'm', basis: 'measured', method: 'swept' })),
    openings: openings.map(([width, height], i) => ({ globalId: `o${i}`, width, height, area: width * height, perimeter: 2 * (width + height), sill: 0, filledBy: null })),
  }; // biome-ignore format: an element in short
  return buildElementTable([made], Int32Array.of(key));
}

/** Net quantities by item, in the order of the lines. */
function nets(code: string, driver: string, table: ReturnType<typeof element>): [string, number | null][] {
  const assembly = basis.assemblies.find((a) => a.code === code)!;
  return tryAssembly(assembly, { driver }, basis, table, 0)
    .filter((l) => l.isPart)
    .map((l) => [l.code, l.net === null ? null : Number(l.net.toFixed(6))]);
}

describe('worked assemblies, by hand', () => {
  it('a tiled roof of 48 m2, eaves 8 m, ridge 8 m', () =>
    expect(nets('A-CLAYROOF', '48 m2', element({ RidgeLength: 8, EavesLength: 8 }))).toEqual([
      ['M-CLAY', 696], // 48 x 14.5
      ['M-BATT3', 150], // 48 / 0.32
      ['M-BATT3', 80], // 48 / 0.6
      ['M-UNDL', 0.64], // 48 / 75
      ['M-STORM', 50], // 150 / 3
      ['M-RIDGE', 20], // 8 x 2.5
      ['M-EAVT', 8],
      ['L-ROF', 53.333333], // 48 / 1.8 x crew of 2
    ]));
  it('a lined wall 4.8 x 2.5 m with a door 0.9 x 2.1 m: 10.11 m2, one corner, one tee, two jambs', () =>
    expect(
      nets('A-LINED', '10.11 m2', element({ Length: 4.8, Height: 2.5, Corners: 1, Tees: 1, Jambs: 2 }, [[0.9, 2.1]])),
    ).toEqual([
      ['M-STUD7', 32.5], // 4.8 / 0.6 = 8 spaces, 9 studs + 1 + 1 + 2 = 13, x 2.5 m
      ['M-RAIL', 9.6],
      ['M-LIN', 40.44], // both sides, two layers
      ['M-SCRW', 0.6736], // 42.1 m x 4 a metre x 2 sides x 2 layers / 1000
      ['M-QUILT', 10.11],
      ['M-SEALT', 1.216667], // 14.6 m / 12
      ['M-CORN', 5], // both sides of one corner, 2.5 m
      ['L-DRY', 9.3012], // 10.11 x 0.28 + 40.44 x 0.16
    ]));
  it('a flat roof of 30 m2, 22 m round', () =>
    expect(nets('A-FLATROOF', '30 m2', element({ Perimeter: 22 }))).toEqual([
      ['M-SCREED', 1.8], // 0.06 m
      ['M-TAPER', 30],
      ['M-MEMR', 8.88], // (60 + 22 x 0.15 x 2) / 7.5
      ['M-UPST', 22],
      ['M-TRIMF', 22],
      ['L-ROF', 12.5], // 30 / 2.4
    ]));
  it('a brick wall of 12 m2', () =>
    expect(nets('A-BRICKWALL', '12 m2', element({}))).toEqual([
      ['M-BRK', 720],
      ['M-SAND', 0.4872], // 0.336 m3 of mortar x 1.45 t
      ['M-CEM', 3.0912], // 0.336 x 230 kg / 25
      ['M-LIME', 1.596], // 0.336 x 95 kg / 20
      ['M-TIE2', 30],
      ['L-MAS', 10], // 12 / 1.2
    ]));
  it('a timber floor 6 x 4 m with a stair opening 1 x 2.4 m', () =>
    expect(nets('A-TFLOOR', '21.6 m2', element({ Length: 6, Width: 4 }, [[1, 2.4]]))).toEqual([
      ['M-JOIST', 64], // 6 / 0.4 = 15 spaces, 16 joists of 4 m
      ['M-PLATE', 12],
      ['M-TRIM', 6.8], // 2 x 1 + 2 x 2.4
      ['M-HANG', 4],
      ['M-DECK', 21.6],
      ['L-CAR', 9.428], // 64 x 0.06 + 6.8 x 0.25 + 21.6 x 0.18
    ]));
  it('a timber wall 6 x 2.5 m: trimmers over the wide openings only', () =>
    expect(
      nets(
        'A-TWALL',
        '12 m2',
        element({ Length: 6, Height: 2.5, Jambs: 4 }, [
          [0.5, 0.5],
          [1.2, 1.2],
        ]),
      ),
    ).toEqual([
      ['M-STUD', 37.5], // 11 studs + 4 at jambs, x 2.5 m
      ['M-PLATE', 18],
      ['M-TRIM', 1.5], // 1.2 + 0.3
      ['L-CAR', 5.4], // 37.5 x 0.08 + 12 x 0.2
    ]));
  it('a timber wall 2.5 m high that meets a lower one of 2.4 m at a corner, and ends free', () => {
    const axis = (row: number, topM: number) => ({ row, isFirstLeft: true, points: [0, 0, 1, 0], widthM: 0.1, bottomM: 0, topM }); // biome-ignore format: short
    const table = {
      ...element({ Length: 6, Height: 2.5, Jambs: 0 }),
      wallAxes: [axis(0, 2.5), axis(1, 2.4)],
      junctions: [
        { kind: 'corner' as const, at: [0, 0] as const, owner: 0, walls: [0, 1] },
        { kind: 'free end' as const, at: [6, 0] as const, owner: 0, walls: [0] },
      ],
    };
    expect(nets('A-TWALL', '15 m2', table).slice(0, 2)).toEqual([
      ['M-STUD', 27.5], // 11 studs x 2.5 m
      ['M-STUD', 4.8], // two more of 2.4 m
    ]);
  });
  it('a railing of 10 m: posts at 1.2 m not exceeded, 0.15 m off the ends, one left out at a corner', () =>
    expect(nets('A-RAILRUN', '10 m', element({ Corners: 1 }))).toEqual([
      ['M-POST', 9], // 9.7 / 1.2 = 8.08: 9 spaces, 10 posts, less one
      ['M-ANCH', 18],
      ['M-RAILT', 10],
      ['L-FIT', 4.5],
    ]));
  it('a finish by coats, its price by the finish the element carries', () => {
    const oiled = element({}, [], { Finish: { Finish: 'Oil, clear' } });
    expect(nets('A-COATS', '22 m2', oiled)).toEqual([
      ['M-PRIM', 2.64],
      ['M-COAT', 6.16], // 22 x 0.14 x 2
      ['L-PNT', 4], // 22 / 11 x 2
    ]);
    const rate = (table: ReturnType<typeof element>) =>
      tryAssembly(basis.assemblies.find((a) => a.code === 'A-COATS')!, { driver: '22 m2' }, basis, table, 0)[1]!.rate;
    expect(rate(oiled)).toBe(17.6);
    expect(rate(element({}))).toBe(8.9);
  });
  it('a pit of 21 m3, 1.6 m deep: started loads are whole', () => {
    const table = element({ Depth: 1.6 });
    expect(nets('A-DIG', '21 m3', table)).toEqual([
      ['P-DIG', 21],
      ['P-HAULT', 4], // 26.25 m3 / 8 = 3.28
      ['S-TIP', 26.25],
      ['L-GEN', 1],
    ]);
    const amounts = tryAssembly(
      basis.assemblies.find((a) => a.code === 'A-DIG')!,
      { driver: '21 m3' },
      basis,
      table,
      0,
    );
    // 21 x 21.00, 4 x 92, 26.25 x 14.80, 1 x 38.50
    expect(amounts.map((l) => l.amount! / 1e6)).toEqual([441, 368, 388.5, 38.5]);
  });
  it('two pits of 21 and 3 m3: started loads are whole over both', () => {
    const pits = runPipeline(
      {
        ...basis,
        rules: [{ id: 'r', name: 'R', scope: { field: 'class', op: 'present' }, section: 'outside', assembly: 'A-DIG', driver: 'NetVolume' }],
      }, // biome-ignore format: one rule
      [21, 3].map((NetVolume, i) => ({
        sourceId: `pit ${i}`,
        table: element({ NetVolume, Depth: 1.6 }, [], {}, i + 1),
      })),
    );
    const loads = pits.parts.map((p) => p.blocks[0]!.lines[1]!.net[0]);
    // (21 + 3) x 1.25 / 8 = 3.75: 4 loads, 3.5 and 0.5 of them by volume.
    expect(loads).toEqual([expect.closeTo(3.5, 9), expect.closeTo(0.5, 9)]);
  });
  it('a gutter of 14 m: brackets because of gutters, two outlets, two downpipes of 4.2 m in sold lengths', () =>
    expect(nets('A-GUTTER', '14 m', element({}))).toEqual([
      ['M-GUTT', 14],
      ['M-BRACK', 23.333333], // 14 / 0.6
      ['M-OUTL', 2], // 14 / 10, up
      ['M-DOWN', 8.4],
      ['L-ROF', 3.5], // 14 / 4
    ]));
  it('floor heating of 100 m2: pipe by its spacing, a manifold for each 90 m2', () =>
    expect(nets('A-UFH', '100 m2', element({}))).toEqual([
      ['M-HPIPE', 666.666667],
      ['M-MANIF', 2],
      ['L-PLB', 16.666667],
    ]));
  it('the electrical work of a room of 20 m2', () =>
    expect(nets('A-ROOMEL', '20 m2', element({}))).toEqual([
      ['M-SOCK', 5], // 20 x 0.25
      ['M-CABL25', 32.5],
      ['M-LUM', 3], // 20 / 9, up
      ['M-CABLE', 15],
      ['M-SWIT', 1],
      ['L-ELE', 5.7], // 5 x 0.6 + 3 x 0.9
    ]));
  it('skirting of 25 m with its coats: 2 m2', () =>
    expect(nets('A-SKIRT', '25 m', element({}))).toEqual([
      ['M-SKIRT', 25],
      ['L-CAR', 2.777778],
      ['M-PRIM', 0.24],
      ['M-COAT', 0.56],
      ['L-PNT', 0.363636],
    ]));
  it('a scaffold of 120 m2 for 8 weeks, put up and down by two', () =>
    expect(nets('A-SCAFF', '120 m2', element({}))).toEqual([
      ['P-SCAF', 960],
      ['L-SCA', 20],
      ['P-TELE', 4], // brought and fetched once
    ]));
  it('a book of some size, all of it usable', () => {
    expect(basis.items.length).toBeGreaterThanOrEqual(150);
    expect(basis.assemblies.length).toBeGreaterThanOrEqual(30);
    for (const assembly of basis.assemblies) {
      const { problem, lines, parameters } = checkAssembly(assembly, basis, listQuantityNames());
      const faults = [problem, ...parameters, ...lines.flatMap((l) => [l.run, l.quantity, l.when, l.piece])];
      expect([assembly.code, faults.filter((f) => f !== null)]).toEqual([assembly.code, []]);
    }
  });
});

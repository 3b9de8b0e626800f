import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  assignElementKeys,
  buildElementTable,
  type ElementTable,
  explainElement,
  groupPlan,
  type Plan,
  readTemplate,
  readText,
  runPipeline,
  templateToBasis,
} from '@tally/core';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import { takeOffIfc } from './read-model.ts';

/** The demo building priced with the demo's book: each kind of assembly on an element of it, its figures worked out by hand. */
let plan: Plan;
let table: ElementTable;
const basis = (() => {
  const template = readTemplate(
    JSON.parse(readFileSync(join(import.meta.dirname, '../../../../demo/template.json'), 'utf8')),
  );
  if (!template.ok) throw new Error(template.problem.message);
  return templateToBasis(template.value);
})();

beforeAll(async () => {
  const read = await takeOffIfc(new TextEncoder().encode(writeBoathouse(REVISIONS.R1)));
  if (!read.ok) throw new Error(read.problem.message);
  const built = buildElementTable(read.value.elements, undefined, read.value.site);
  table = { ...built, keys: assignElementKeys(null, built, 1).keys };
  plan = runPipeline(basis, [{ sourceId: 'model', table }]);
});

/** Priced lines of an element of the demo in a section. */
function linesOf(name: string, section: string) {
  const row = Array.from({ length: table.count }, (_, r) => r).find((r) => readText(table.name, r) === name)!;
  return explainElement(plan, table.keys[row]!)!.lines.filter((l) => l.section === section);
}
/** Items with their net quantities, in the order of the lines. */
const nets = (name: string, section: string) => linesOf(name, section).map((l) => [l.code, Number(l.net!.toFixed(6))]);

describe('worked assemblies on the demo building', () => {
  it('the roof of the boat shelter: 6 x 4 m on plan at 45 degrees, hipped, its ridge 2 m', () => {
    // Slope 24 x 1.414214 = 33.941125 m2; hips 4 x 3.464102 = 13.856406 m; eaves 20 m.
    expect(nets('Shelter roof', 'envelope')).toEqual([
      ['M-SLT', 695.793073], // 33.941125 x 20.5
      ['M-BATT3', 106.066017], // / 0.32
      ['M-BATT3', 56.568542], // / 0.6
      ['M-UNDL', 0.452548], // / 75
      ['M-STORM', 35.355339], // 106.066017 / 3
      ['M-RIDGE', 39.641016], // 15.856406 x 2.5
      ['M-EAVT', 20],
      ['L-ROF', 37.712362], // 33.941125 / 1.8 x crew of 2
    ]);
    expect(linesOf('Shelter roof south', 'envelope')).toEqual([]);
  });
  it('a partition 4.8 x 3.4 m with a door 0.9 x 2.1 m: 14.43 m2, one corner, one tee, two jambs; its type is named "Partition 100"', () =>
    expect(nets('Partition G6', 'walls')).toEqual([
      ['M-STUD7', 44.2], // 4.8 / 0.6 = 8 spaces, 9 studs + 1 + 1 + 2 = 13, x 3.4 m
      ['M-RAIL', 9.6],
      ['M-LIN', 28.86], // both sides, one layer
      ['M-SCRW', 0.4304], // 53.8 m x 4 a metre x 2 sides / 1000
      ['M-QUILT', 14.43], // 100 mm leave room
      ['M-SEALT', 1.366667], // 16.4 m / 12
      ['M-CORN', 6.8], // both edges of one corner, 3.4 m
      ['L-DRY', 8.658], // 14.43 x 0.28 + 28.86 x 0.16
    ]));
  it('the porch roof of 4.8 x 2.4 m', () =>
    expect(nets('Porch roof', 'envelope')).toEqual([
      ['M-PAN140', 11.52],
      ['M-SCREED', 0.6912], // 0.06 m
      ['M-TAPER', 11.52],
      ['M-MEMR', 3.648], // (23.04 + 14.4 x 0.15 x 2) / 7.5
      ['M-UPST', 14.4],
      ['M-TRIMF', 14.4],
      ['L-ROF', 4.8], // 11.52 / 2.4
    ]));
  it('the stone plinth of the wall with a boat-bay door of 3.6 m: 1.2 m of it, 0.45 m high', () => {
    expect(nets('Outer wall south G1', 'plinth')).toEqual([
      ['M-STONE', 0.212285], // 0.54 m2 x 0.18 m x 0.84 x 2.6 t/m3
      ['M-LIMEM', 0.015552], // 0.54 x 0.18 x 0.16
      ['M-PIN', 7.56],
      ['L-MAS', 1.404],
      ['S-CLEAN', 0.54],
    ]);
  });
  it('the stone is priced by the tonnes of the whole project: 33.21 m2 of plinth take 14.1 t with their waste, at 186.00', () => {
    // Ground floor: 2 x (28.8 + 14.4) m round the house less doors 3 x 3.6 + 1.8 m: 73.8 m x 0.45 m.
    const stone = groupPlan(plan, [], basis).lines.find((l) => l.item === 'M-STONE')!;
    expect(stone.net).toBeCloseTo(33.21 * 0.18 * 0.84 * 2.6, 9);
    expect(stone.rate).toBe(186);
    expect(stone.minor).toBe(Math.round(33.21 * 0.18 * 0.84 * 2.6 * 1.08 * 18600));
  });
  it('a timber deck over bay 2, 14.4 x 4.8 m with a round pit of 0.6 m', () => {
    const area = 14.4 * 4.8 - Math.PI * 0.3 ** 2;
    expect(nets('Ground slab bay 2', 'floors')).toEqual([
      ['M-JOIST', 177.6], // 14.4 / 0.4 = 36 spaces, 37 joists of 4.8 m
      ['M-PLATE', 28.8],
      ['M-TRIM', 2.4], // 4 x 0.6
      ['M-HANG', 4],
      ['M-DECK', expect.closeTo(area, 3)],
      ['L-CAR', expect.closeTo(177.6 * 0.06 + 2.4 * 0.25 + area * 0.18, 3)],
    ]);
  });
  it('the timber frame of a wall 4.8 x 3.6 m: a trimmer over its door of 3.6 m, priced by that width', () => {
    const framing = linesOf('Outer wall south G1', 'envelope').filter((l) => l.path.includes('A-TWALL'));
    expect(framing.map((l) => [l.code, Number(l.net!.toFixed(6))])).toEqual([
      ['M-STUD', 39.6], // 9 studs + 2 at jambs, x 3.6 m
      ['M-STUD', 7.2], // two more where it meets the next wall at the corner
      ['M-PLATE', 14.4],
      ['M-LINT', 3.9], // 3.6 + 0.3
      ['L-CAR', 4.464], // 39.6 x 0.08 + 6.48 x 0.2
    ]);
    const lintel = framing.find((l) => l.code === 'M-LINT')!;
    expect([lintel.rate, lintel.rateSteps[0]!.figures]).toEqual([58, 'scale("Lintel by opening", 3.6 m)']);
  });
  it('the gable of 14.4 m: its studs have its mean height, 24.48 / 14.4 = 1.7 m', () =>
    expect(
      linesOf('Gable east', 'envelope').find((l) => l.code === 'M-STUD' && l.path.includes('A-TWALL'))!.net,
    ).toBeCloseTo(25 * 1.7, 9));
  it('the edge of the quay along the river wall, a quarter of a circle of 6 m: 9.424778 m, one ladder', () =>
    expect(nets('River wall', 'quay')).toEqual([
      ['M-RING', 4], // 8.224778 / 2.5: 4 spaces, 5 rings, less one
      ['M-FEND', 3],
      ['M-RBOLT', 16],
      ['M-LADD', 1],
      ['L-FIT', 4.5], // 4 x 0.75 + 3 x 0.5
    ]));
  it('two coats of lime wash on a block wall, at the price of that finish', () => {
    const lines = linesOf('Block wall G1', 'painting');
    // Both sides of 20.19 m2.
    expect(lines.map((l) => [l.code, Number(l.net!.toFixed(6)), l.rate])).toEqual([
      ['M-PRIM', 4.8456, 7.2],
      ['M-COAT', 11.3064, 4.1],
      ['L-PNT', 7.341818, 39.7],
    ]);
  });
  it('skirtings of the club room, 40.25 m, hand their finish to the coats: 3.22 m2 of clear oil', () =>
    expect(linesOf('Club room', 'skirtings').map((l) => [l.code, Number(l.net!.toFixed(6)), l.rate])).toEqual([
      ['M-SKIRT', 40.25, 5.35],
      ['L-CAR', 4.472222, 47.6],
      ['M-PRIM', 0.3864, 7.2],
      ['M-COAT', 0.9016, 17.6],
      ['L-PNT', 0.585455, 39.7],
    ]));
  it('pits and trenches: each priced by its depth, loads and sweeping over all of them', () => {
    const dug = (name: string) => linesOf(name, 'ground').map((l) => [l.code, Number(l.net!.toFixed(6)), l.rate]);
    // 21 pits of 2.4 x 2.4 x 1.2 m, 64 m of trenches of 1.2 x 1.4 m: 145.152 + 107.52 = 252.672 m3; x 1.25 / 8 = 39.48: 40 loads.
    const share = (volume: number) => Number(((40 * volume) / 252.672).toFixed(6));
    expect(dug('Pad 1A')).toEqual([
      ['P-DIG', 6.912, 16.5],
      ['P-HAULT', share(6.912), 92],
      ['S-TIP', 8.64, 14.8],
      ['L-GEN', Number(((10 * 6.912) / 252.672).toFixed(6)), 38.5],
    ]);
    expect(dug('Strip 1')[0]).toEqual(['P-DIG', 5.712, 21]);
    const lines = groupPlan(plan, [], basis).lines.filter((l) => l.section === 'ground');
    const amount = (code: string) => lines.filter((l) => l.item === code).reduce((sum, l) => sum + l.minor, 0);
    // 145.152 x 16.50 + 107.52 x 21.00, 40 x 92, 315.84 x 14.80, 10 x 38.50
    expect([amount('P-DIG'), amount('P-HAULT'), amount('S-TIP'), amount('L-GEN')]).toEqual([
      465_293, 368_000, 467_443, 38_500,
    ]);
  });
  it('the gutters of 57.6 m of eaves: six outlets, downpipes of 6.4 m', () =>
    expect(nets('Main roof', 'rainwater')).toEqual([
      ['M-GUTT', 57.6],
      ['M-BRACK', 96], // 57.6 / 0.6
      ['M-OUTL', 6], // 57.6 / 10, up
      ['M-DOWN', 38.4],
      ['L-ROF', 14.4], // 57.6 / 4
    ]));
  it('floor heating of the kitchen, 4.6875 x 6.375 m', () =>
    expect(nets('Kitchen', 'heating')).toEqual([
      ['M-HPIPE', 199.21875], // 29.8828125 / 0.15
      ['M-MANIF', 1],
      ['L-PLB', 4.980469],
    ]));
  it('the electrical work of the office, 29.8828125 m2', () =>
    expect(nets('Office', 'electrical')).toEqual([
      ['M-SOCK', 8], // x 0.25, up
      ['M-CABL25', 52],
      ['M-LUM', 4], // / 9, up
      ['M-CABLE', 20],
      ['M-SWIT', 1],
      ['L-ELE', 8.4], // 8 x 0.6 + 4 x 0.9
    ]));
  it('a drain of 14.4 m along the slipway', () =>
    expect(nets('Slipway paving', 'drainage')).toEqual([
      ['M-PLASP', 14.4],
      ['M-PEAG', 1.728],
      ['M-BEND', 2.4],
      ['L-DRN', 5.76],
    ]));
  it('the scaffold of a wall of 17.28 m2 for 8 weeks', () =>
    expect(nets('Outer wall south G1', 'scaffold').slice(0, 2)).toEqual([
      ['P-SCAF', 138.24],
      ['L-SCA', 2.88], // 17.28 / 12 x 2
    ]));
  it('fees once for the project: the surety of 480,000 is 1,012.50 + 1,732.50 + 1,920.00', () => {
    const site = groupPlan(plan, [], basis).lines.filter((l) => l.section === 'site');
    expect(site.map((l) => [l.item, l.net, l.minor]).sort()).toEqual([
      ['F-PERM', expect.closeTo(1, 9), 385_000],
      ['F-SURETY', expect.closeTo(1, 9), 466_500],
      ['P-CABIN', expect.closeTo(26, 9), 166_400],
      ['P-TOIL', expect.closeTo(26, 9), 98_800],
    ]);
  });
});

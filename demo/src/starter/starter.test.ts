import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  assignElementKeys,
  buildElementTable,
  COMPLETENESS_STATES,
  groupPlan,
  listTemplateSources,
  readTemplate,
  readText,
  runPipeline,
  templateToBasis,
} from '@tally/core';
import { takeOffIfc } from '@tally/ifc';
import { writeLodgeModel } from '../lodge-model.ts';
import { ROUGH_KINDS } from './kinds.ts';
import { makeStarter } from './starter.ts';

const shipped = JSON.parse(readFileSync(join(import.meta.dirname, '../../starter.json'), 'utf8')) as unknown;
const read = readTemplate(shipped);
if (!read.ok) throw new Error(read.problem.message);
const starter = read.value;

describe('the starter', () => {
  it('is shipped as it is made', () => expect(shipped).toEqual(JSON.parse(JSON.stringify(makeStarter()))));
  it('says of every line that it is rough, and where its figure comes from', () => {
    for (const { code, description, source, rate } of starter.items) {
      expect([code, description.endsWith(', rough'), source?.includes('invented')]).toEqual([code, true, true]);
      expect(Number(rate)).toBeGreaterThan(0);
    }
  });
  it('has no kind twice', () => {
    expect(new Set(ROUGH_KINDS.map((k) => k.code)).size).toBe(ROUGH_KINDS.length);
    expect(new Set(ROUGH_KINDS.map((k) => `${k.section}/${JSON.stringify(k.scope)}`)).size).toBe(ROUGH_KINDS.length);
  });
});

describe('a building of another office, priced by the starter', () => {
  const priced = (async () => {
    const takeoff = await takeOffIfc(new TextEncoder().encode(writeLodgeModel()));
    if (!takeoff.ok) throw new Error(takeoff.problem.message);
    const plain = buildElementTable(takeoff.value.elements, undefined, takeoff.value.site);
    const table = { ...plain, keys: assignElementKeys(null, plain, 1).keys };
    const basis = templateToBasis(starter);
    return { plan: runPipeline(basis, listTemplateSources(starter, table)), basis, table };
  })();
  it('leaves no element without a price, and no line without a figure', async () => {
    const { plan, table } = await priced;
    const [model] = plan.parts;
    const open = [...model!.completeness].flatMap((state, row) =>
      COMPLETENESS_STATES[state] === 'priced' ? [] : [readText(table.name, row)],
    );
    expect([open, plan.unknownLines]).toEqual([[], 0]);
  });
  it.each([
    // Outer walls of two storeys: 2 x (11.635 + 7.635) m round at the axis x 2.8 m, less per storey 8 windows of 1.68 m2 and a door of 2.1 m2.
    ['R-WALL-MO', 2 * (2 * (11.635 + 7.635) * 2.8 - 8 * 1.68 - 2.1), 'm2', 195],
    // Two partitions a storey, 7.27 m long, a door each; the stair's wall of 3.8 m is of concrete.
    ['R-WALL-D', 2 * 2 * (7.27 * 2.8 - 2.1), 'm2', 78],
    ['R-WALL-C', 2 * 3.8 * 2.8, 'm2', 185],
    // Two strips of 12 x 0.5 x 0.4 m.
    ['R-FOOT', 2 * 12 * 0.5 * 0.4, 'm3', 340],
    // Bottom plate and floor, each 12 x 8 x 0.2 m; the roof's slab says in its name what it is.
    ['R-SLAB', 2 * 12 * 8 * 0.2, 'm3', 420],
    ['R-ROOF-SLAB', 12 * 8, 'm2', 245],
    ['R-BEAM-T', 4 * 12 * 0.14 * 0.32, 'm3', 1350],
    ['R-COL-S', 4 * 2.8, 'm', 190],
    ['R-WIN', 16 * 1.2 * 1.4, 'm2', 520],
    ['R-DOOR-O', 2 * 2.1, 'm2', 980],
    ['R-DOOR', 4 * 2.1, 'm2', 390],
    ['R-SANI', 2, 'each', 640],
  ])('takes %s as %d %s', async (code, quantity, unit, rate) => {
    const { plan, basis } = await priced;
    const [line, ...more] = groupPlan(plan, ['section'], basis).groups.flatMap((g) => g.lines.filter((l) => l.item === code)); // biome-ignore format: one line
    expect(more).toEqual([]);
    expect(line!.net).toBeCloseTo(quantity, 4);
    expect([line!.unit, line!.minor]).toEqual([unit, Math.round(quantity * rate * 100)]);
  });
});

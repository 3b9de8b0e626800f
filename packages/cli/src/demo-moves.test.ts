import { join } from 'node:path';
import {
  buildElementTable,
  type ElementTable,
  explainMove,
  groupMove,
  listElementChanges,
  MOVE_CAUSES,
  type MoveState,
  showMove,
  sumCauses,
} from '@tally/core';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import { type ModelTakeoff, takeOffIfc } from '@tally/ifc';
import { priceTable } from './commands/compare.ts';
import { readTemplateFile, toTable } from './input.ts';

const read = readTemplateFile(join(__dirname, '../../../demo/template.json'));
if (!read.ok) throw new Error(read.problem.message);
const template = read.value;

type RevisionName = keyof typeof REVISIONS;

const takeOff = async (name: RevisionName): Promise<ModelTakeoff> => {
  const taken = await takeOffIfc(Buffer.from(writeBoathouse(REVISIONS[name], { fileName: `${name}.ifc` })));
  if (!taken.ok) throw new Error(taken.problem.message);
  return taken.value;
};

/** What cells of some elements cost, those of the other sources too. */
const sumCells = ({ plan }: MoveState, isCounted: (key: number) => boolean): number =>
  plan.parts.reduce(
    (sum, { table, elementAmounts, sourceId }) =>
      [...table.keys].reduce((s, key, row) => (sourceId !== 'model' || isCounted(key) ? s + elementAmounts[row]! : s), sum),
    0,
  ); // biome-ignore format: one sum

describe('the revisions of the boathouse', () => {
  const takeoffs = new Map<RevisionName, ModelTakeoff>();
  const tables = new Map<RevisionName, ElementTable>();
  const states = new Map<RevisionName, MoveState>();
  beforeAll(async () => {
    let before: ElementTable | null = null;
    for (const name of ['R1', 'R2', 'R3'] as const) {
      const takeoff = await takeOff(name);
      takeoffs.set(name, takeoff);
      before = toTable(takeoff, before);
      tables.set(name, before);
      states.set(name, priceTable(template, before).state);
    }
  }, 120_000);

  it.each([
    ['R1', 'R2'],
    ['R2', 'R3'],
    ['R1', 'R3'],
  ] as const)('are explained to the cent from %s to %s and back', (a, b) => {
    const [from, to] = [states.get(a)!, states.get(b)!];
    const [there, back] = [explainMove(from, to), explainMove(to, from)];
    const [shown, shownBack] = [showMove(there), showMove(back)];
    expect(sumCauses(there.causes)).toBe(to.plan.total - from.plan.total);
    expect(sumCauses(shown.causes)).toBe(shown.after - shown.before);
    for (const cause of MOVE_CAUSES) {
      expect(back.causes[cause]).toBe(-there.causes[cause] + 0);
      expect(shownBack.causes[cause]).toBe(-shown.causes[cause] + 0);
    }
    // One template prices them all.
    expect([shown.causes.price, shown.causes.factors]).toEqual([0, 0]);
    for (const by of ['section', 'storey', 'kind', 'room'] as const) {
      const groups = groupMove(from, to, there, by);
      expect(groups.reduce((sum, g) => sum + g.shown.move, 0)).toBe(shown.move);
      for (const g of groups) expect(sumCauses(g.shown.causes)).toBe(g.shown.to - g.shown.from);
    }
  });

  it('have three partitions that were drawn anew, and are known again', () => {
    const changes = listElementChanges(states.get('R1')!, states.get('R2')!, explainMove(states.get('R1')!, states.get('R2')!)); // biome-ignore format: one call
    const again = changes.filter((c) => c.isIdentified).map((c) => c.label);
    expect(again.sort()).toEqual(['Wall Partition G6', 'Wall Partition G7', 'Wall Wet partition G8']);
    expect(changes.filter((c) => c.what === 'went')).toEqual([]);
  });

  it('move by extent and quantity as pricing each mixture of elements and figures anew says', () => {
    const [before, after] = [tables.get('R2')!, tables.get('R3')!];
    const stays = new Set([...before.keys].filter((k) => after.keys.includes(k)));
    const isStaying = (key: number) => stays.has(key);
    // Rafters went and none came, so of new figures there are none of those: they keep the old ones.
    expect([before.count - stays.size, after.count - stays.size]).toEqual([28, 0]);
    const site = { before: takeoffs.get('R2')!.site, after: takeoffs.get('R3')!.site };
    const mix = (hasGone: boolean, isNew: boolean): MoveState => {
      const rowNow = new Map([...after.keys].map((key, row) => [key, row]));
      const kept = [...before.keys].flatMap((key, row) =>
        isStaying(key) || hasGone
          ? [{ key, element: isNew && rowNow.has(key) ? takeoffs.get('R3')!.elements[rowNow.get(key)!]! : takeoffs.get('R2')!.elements[row]! }]
          : [],
      ); // biome-ignore format: one choice
      const table = buildElementTable(kept.map((k) => k.element), Int32Array.from(kept, (k) => k.key), isNew ? site.after : site.before); // biome-ignore format: one table
      return priceTable(template, table).state;
    };
    const worth = [mix(true, false), mix(false, false), mix(true, true), mix(false, true)].map((s) => sumCells(s, isStaying)); // biome-ignore format: four states
    const [old, withoutGone, withNew, now] = worth as [number, number, number, number];
    const members = (withoutGone - old + (now - withNew)) / 2;
    const quantity = (withNew - old + (now - withoutGone)) / 2;
    const whole = mix(true, false);
    const gone = sumCells(whole, () => true) - sumCells(whole, isStaying);
    const { cells } = explainMove(states.get('R2')!, states.get('R3')!);
    const of = (cause: 'extent' | 'quantity') => cells.reduce((sum, c) => sum + c.causes[cause], 0);
    // To a hundredth of a cent: each of 2,500 cells is rounded to a ten-thousandth.
    expect(Math.abs(of('quantity') - quantity)).toBeLessThan(100);
    expect(Math.abs(of('extent') - (members - gone))).toBeLessThan(100);
    expect(gone).toBeGreaterThan(1e8);
  }, 120_000);
});

import fc from 'fast-check';
import { type PricingBasis, runPipeline } from '../pipeline.ts';
import { GROUP_FIELDS } from '../plan/group-labels.ts';
import { groupPlan } from '../plan/group-plan.ts';
import { anyChange, FIRST_STATE, type RandomState, setFigure, tableOf } from '../testing/random-project.ts';
import { sampleState } from '../testing/sample-state.ts';
import { explainMove, type Move, sumElementMoves } from './explain-move.ts';
import { groupMove } from './group-move.ts';
import { type CauseAmounts, MOVE_CAUSES, sumCauses } from './move-causes.ts';
import { showMove } from './show-move.ts';

const stateOf = (state: RandomState) => sampleState(state.basis, tableOf(state));
const negate = (causes: CauseAmounts) => Object.fromEntries(MOVE_CAUSES.map((c) => [c, -causes[c] + 0]));
const cellId = ({ key, old, now }: Move['cells'][number]) =>
  JSON.stringify([key, ...[old ?? now].map((p) => [p!.block.mapped.section, p!.block.mapped.parts?.[p!.at], p!.line.path, p!.line.lines, p!.line.code])]); // biome-ignore format: one id

/** The states that random changes go through; now and then they begin again, so that not all is switched off in the end. */
function listStates(seed: number, numRuns: number): RandomState[] {
  const states = [FIRST_STATE];
  for (const [n, change] of fc.sample(anyChange, { seed, numRuns }).entries())
    states.push(change(n % 25 === 0 ? FIRST_STATE : states.at(-1)!));
  return states;
}

describe('what moved a plan, over 1,000 random changes', () => {
  const states = listStates(16, 1000).map(stateOf);
  const pairs = states.flatMap((after, n) =>
    n < 1 ? [] : [[states[Math.max(0, n - 1 - (n % 3) * 4)]!, after] as const],
  );

  const moves = pairs.map(([before, after]) => ({ before, after, move: explainMove(before, after) }));

  it('adds up to the move, whole, by element and by cell', () => {
    const acted = new Map<string, number>();
    for (const { before, after, move } of moves) {
      expect(sumCauses(move.causes)).toBe(after.plan.total - before.plan.total);
      expect([...move.cells, ...move.surplus].filter((c) => sumCauses(c.causes) !== c.to - c.from)).toEqual([]);
      const elements = [...sumElementMoves(move).values()].reduce((sum, e) => sum + e.move, 0);
      const surplus = move.surplus.reduce((sum, s) => sum + s.to - s.from, 0);
      expect(elements + surplus).toBe(move.move);
      const shown = showMove(move);
      expect(sumCauses(shown.causes)).toBe(shown.move);
      for (const c of MOVE_CAUSES) if (move.causes[c] !== 0) acted.set(c, (acted.get(c) ?? 0) + 1);
    }
    for (const cause of MOVE_CAUSES) expect([cause, acted.get(cause)! > 40]).toEqual([cause, true]);
  });

  it('is the opposite on the way back, in every figure', () => {
    for (const { before, after, move: there } of moves) {
      const back = explainMove(after, before);
      expect(back.causes).toEqual(negate(there.causes));
      expect(showMove(back).causes).toEqual(negate(showMove(there).causes));
      const cells = new Map(back.cells.map((c) => [cellId(c), c]));
      expect(back.cells.length).toBe(there.cells.length);
      const isBack = (cell: Move['cells'][number]) => {
        const other = cells.get(cellId({ ...cell, old: cell.now, now: cell.old })) ?? cells.get(cellId(cell));
        return other?.from === cell.to && other.to === cell.from && MOVE_CAUSES.every((c) => other.causes[c] === -cell.causes[c] + 0); // biome-ignore format: one test
      };
      expect(there.cells.filter((cell) => !isBack(cell))).toEqual([]);
    }
  });

  it('adds up by any group, in rows and in columns', () => {
    for (const [n, { before, after, move }] of moves.entries()) {
      if (n % 5 > 0) continue;
      const by = GROUP_FIELDS[n % GROUP_FIELDS.length]!;
      const groups = groupMove(before, after, move, by);
      const shown = showMove(move);
      for (const cause of MOVE_CAUSES) {
        expect(groups.reduce((sum, g) => sum + g.causes[cause], 0)).toBe(move.causes[cause]);
        expect(groups.reduce((sum, g) => sum + g.shown.causes[cause], 0)).toBe(shown.causes[cause]);
      }
      for (const g of groups) {
        expect(sumCauses(g.causes)).toBe(g.to - g.from);
        expect(sumCauses(g.shown.causes)).toBe(g.shown.move);
      }
      const now = groupPlan(after.plan, [by], after.names);
      expect(groups.filter((g) => g.to !== 0).map((g) => [g.label, g.to, g.shown.to])).toEqual(now.groups.filter((g) => g.amount !== 0).map((g) => [g.label, g.amount, g.minor])); // biome-ignore format: two lists
    }
  });

  it('is nothing where nothing is another', () => {
    for (const state of states.slice(0, 100)) {
      const move = explainMove(state, { ...state, plan: { ...state.plan } });
      expect([move.move, move.cells.length, move.surplus.length]).toEqual([0, 0, 0]);
    }
  });
});

/** What cells of a plan cost together, without what packs leave over. */
const sumCells = (basis: PricingBasis, state: RandomState): number =>
  runPipeline(basis, [{ sourceId: 's', table: tableOf(state) }]).parts.reduce(
    (sum, p) => p.blocks.reduce((s, b) => b.lines.reduce((t, l) => t + l.total, s), sum),
    0,
  );

/** Orders of four things. */
const ORDERS = [0, 1, 2, 3].flatMap((a) => [0, 1, 2, 3].flatMap((b) => [0, 1, 2, 3].flatMap((c) => [0, 1, 2, 3].flatMap((d) => (new Set([a, b, c, d]).size === 4 ? [[a, b, c, d]] : []))))); // biome-ignore format: one list

describe('causes of figures, recipes, waste and rates', () => {
  it('are what whole plans move by, priced anew with each in turn, over all orders', () => {
    const acted = [0, 0, 0, 0];
    const figure = fc.tuple(fc.integer({ min: 1, max: 8 }), fc.integer({ min: 4, max: 90 }));
    const edit = fc.record({
      areas: fc.array(figure, { maxLength: 6 }),
      rates: fc.array(fc.tuple(fc.nat(8), fc.integer({ min: 1, max: 9999 })), { maxLength: 4 }),
      wastes: fc.array(fc.tuple(fc.nat(8), fc.nat(30)), { maxLength: 3 }),
      bed: fc.integer({ min: 5, max: 40 }),
      perM2: fc.integer({ min: 1, max: 80 }),
    });
    fc.assert(
      fc.property(edit, edit, (a, b) => {
        const pick = (mask: number, bit: number) => (mask & (1 << bit) ? b : a);
        const basisOf = (mask: number): PricingBasis => {
          const [recipe, waste, rate] = [pick(mask, 1), pick(mask, 2), pick(mask, 3)];
          const { basis } = FIRST_STATE;
          const rates = new Map(rate.rates);
          const wastes = new Map(waste.wastes);
          return {
            ...basis,
            items: basis.items.map((item, i) => ({
              ...item,
              ...(rates.has(i) && !item.rateFormula ? { rate: (rates.get(i)! / 100).toFixed(2) } : {}),
              ...(wastes.has(i) ? { wastePercent: wastes.get(i)! } : {}),
            })),
            values: [{ name: 'Bed', unit: 'kg/m2', value: `${recipe.bed} kg/m2` }],
            rules: basis.rules.map((r) => (r.assembly === 'W' ? { ...r, parameters: { perM2: `${recipe.perM2} each/m2` } } : r)), // biome-ignore format: one change
          };
        };
        const stateOfMask = (mask: number): RandomState => ({
          ...FIRST_STATE,
          given: new Map(pick(mask, 0).areas.map(([k, n]) => [k, { NetSideArea: setFigure(n / 4, 'm2') }])),
        });
        const worth = Array.from({ length: 16 }, (_, mask) => sumCells(basisOf(mask), stateOfMask(mask)));
        const shares = [0, 0, 0, 0];
        for (const order of ORDERS) {
          let mask = 0;
          for (const input of order) {
            shares[input]! += worth[mask | (1 << input)]! - worth[mask]!;
            mask |= 1 << input;
          }
        }
        for (const i of shares.keys()) if (shares[i] !== 0) acted[i]!++;
        const [quantity, mapping, factors, price] = shares.map((s) => s / ORDERS.length);
        const [before, after] = [0, 15].map((mask) => sampleState(basisOf(mask), tableOf(stateOfMask(mask))));
        const { cells } = explainMove(before!, after!);
        const of = (cause: (typeof MOVE_CAUSES)[number]) => cells.reduce((sum, c) => sum + c.causes[cause], 0);
        // Each of some 100 cells is rounded to 1/10,000 of a cent in every state.
        for (const [cause, expected] of Object.entries({ quantity, mapping, factors, price, extent: 0, rounding: 0 }))
          expect(Math.abs(of(cause as 'quantity') - expected!)).toBeLessThan(200);
      }),
      { seed: 17, numRuns: 60 },
    );
    for (const times of acted) expect(times).toBeGreaterThan(40);
  });
});

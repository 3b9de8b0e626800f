import { evaluateLines } from '../cells/evaluate-lines.ts';
import { buildElementTable } from '../elements/element-table.ts';
import type { RowAxis } from '../elements/site-data.ts';
import { compileFormula } from '../formulas/compile-formula.ts';
import { FormulaNames } from '../formulas/formula-types.ts';
import { compileRecipe } from '../recipes/compile-recipe.ts';
import { buildBook } from '../recipes/recipe.ts';
import { listTakeoffFields } from '../reports/takeoff-fields.ts';
import { buildTakeoffTable } from '../reports/takeoff-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { findJunctionsAmong, findJunctionsOf } from './junctions-among.ts';

/*
 * Wall 0 runs from (0, 0) to (10, 0); wall 1 ends at its middle, wall 2 at its east end. Walls 0 and 2 are partitions, wall 1 is a
 * block wall.
 */
const axis = (row: number, points: number[]): RowAxis => ({
  row,
  points,
  isFirstLeft: false,
  widthM: 0.1,
  bottomM: 0,
  topM: 3,
});
const wallAxes = [axis(0, [0, 0, 10, 0]), axis(1, [5, 0, 5, 4]), axis(2, [10, 0, 10, 4])];
const walls = ['Partition 100', 'Block 200', 'Partition 100'].map((typeName, i) =>
  sampleElement({ globalId: `w${i}`, typeName }),
);
const { list } = findJunctionsAmong(wallAxes);
const table = buildElementTable(walls, Int32Array.of(1, 2, 3), { wallAxes, junctions: list });

describe('junctions among some walls', () => {
  it('of all: a tee, a corner and three free ends', () => {
    const { total } = findJunctionsAmong(wallAxes);
    expect(total).toEqual({ corners: 1, tees: 1, crosses: 0, freeEnds: 3 });
  });
  it('of a type or a class, as if there were no others; found by name in any case', () => {
    expect(findJunctionsOf(table, 'partition*').total).toEqual({ corners: 1, tees: 0, crosses: 0, freeEnds: 2 });
    expect(findJunctionsOf(table, 'Block 200').total).toEqual({ corners: 0, tees: 0, crosses: 0, freeEnds: 2 });
    expect(findJunctionsOf(table, 'IfcWall').total.tees).toBe(1);
    expect(findJunctionsOf(table, 'Block 200')).toBe(findJunctionsOf(table, 'Block 200'));
  });
  it('in a formula, with the wall they are counted with', () => {
    const item = { code: 'X', description: 'Post', kind: 'material', unit: 'each', rate: '1' } as const;
    const priced = (driver: string) => {
      const recipe = compileRecipe(
        { item: 'X', driver },
        buildBook({ currency: 'EUR', items: [item], assemblies: [] }),
        new FormulaNames([]),
      );
      return [...evaluateLines(recipe, table, Int32Array.of(0, 1, 2)).lines[0]!.net];
    };
    expect(priced('junctions("free ends", "Partition*")')).toEqual([1, 0, 1]);
    expect(priced('junctions("Tees", "IfcWall")')).toEqual([0, 1, 0]);
    expect(compileFormula('junctions("Bends", "IfcWall")', new FormulaNames([]))).toMatchObject({
      problem: { code: 'formula-arguments' },
    });
  });
  it('are missing, not 0, on what has no middle line', () => {
    const item = { code: 'X', description: 'Post', kind: 'material', unit: 'each', rate: '1' } as const;
    const withSlab = buildElementTable(
      [...walls, sampleElement({ globalId: 's', ifcClass: 'IfcSlab' })],
      Int32Array.of(1, 2, 3, 4),
      { wallAxes, junctions: list },
    );
    const recipe = compileRecipe(
      { item: 'X', driver: 'junctions("Tees", "IfcWall")' },
      buildBook({ currency: 'EUR', items: [item], assemblies: [] }),
      new FormulaNames([]),
    );
    const [line] = evaluateLines(recipe, withSlab, Int32Array.of(1, 3)).lines;
    expect(line!.net[0]).toBe(1);
    expect(line!.problems.get(1)).toMatchObject({ code: 'formula-no-junctions' });
  });
  it('in a takeoff table, among the walls that its filter leaves', () => {
    const count = (isAmong: boolean) => {
      const columns = ['junction.kind', 'count'];
      const spec = { row: 'junction', columns, groups: [], sort: null, isBundled: true, isAmong } as const;
      const scope = { field: 'type', op: 'is', value: 'Partition 100' } as const;
      const { lines } = buildTakeoffTable([table], listTakeoffFields([table], 'junction'), { ...spec, scope });
      return Object.fromEntries(lines.map((l) => [l.cells[0], l.cells[1]]));
    };
    // Junctions that touch a partition; the tee with the block wall is one of them.
    expect(count(false)).toEqual({ corner: 1, tee: 1, 'free end': 2 });
    expect(count(true)).toEqual({ corner: 1, 'free end': 2 });
  });
});

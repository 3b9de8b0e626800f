import { buildElementTable } from '../elements/element-table.ts';
import { compileFormula, runFormula } from '../formulas/compile-formula.ts';
import { FormulaNames } from '../formulas/formula-types.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { readSideView } from './side-view.ts';

const opening = (width: number, height: number, sill: number | null) => ({
  globalId: `o${width}`,
  width,
  height,
  sill,
  area: width * height,
  perimeter: 2 * (width + height),
  filledBy: null,
});
// 6 x 3 m with a door of 1 x 2.1 and a window of 2 x 1.2 at 0.9.
const wall = sampleElement({
  globalId: 'w',
  quantities: { Length: 6, Height: 3, GrossSideArea: 18 },
  openings: [opening(1, 2.1, 0), opening(2, 1.2, 0.9)],
});
const gable = sampleElement({ globalId: 'g', quantities: { Length: 6, Height: 3, GrossSideArea: 9 } });
const unknown = sampleElement({
  globalId: 'u',
  quantities: { Length: 6, Height: 3, GrossSideArea: 18 },
  openings: [opening(1, 2, null)],
});
const table = buildElementTable([wall, gable, unknown]);
function area(formula: string, row = 0) {
  const compiled = compileFormula(formula, new FormulaNames([]));
  if (!compiled.ok) throw new Error(compiled.problem.message);
  return runFormula(compiled.value, [], undefined, { side: () => readSideView(table, row) });
}

describe('a part of a wall’s side', () => {
  it.each([
    // Below 0.3: 6 x 0.3 less the door's 1 x 0.3.
    ['sideBelow(0.3 m)', 1.5],
    // Above 0.3: 18 - 1.8 less the door's 1.8 and the window's 2.4.
    ['sideAbove(0.3 m)', 12],
    ['sideBelow(1.5 m)', 9 - 1.5 - 1.2],
    ['sideBelow(0.3 m) + sideAbove(0.3 m)', 18 - 2.1 - 2.4],
    ['sideAbove(9 m)', 0],
    ['sideBelow(9 m)', 13.5],
  ])('%s', (formula, m2) => expect(area(formula)).toEqual({ ok: true, value: expect.closeTo(m2, 9) }));

  it('says where it cannot be told', () => {
    for (const row of [1, 2])
      expect(area('sideBelow(0.3 m)', row)).toMatchObject({ ok: false, problem: { code: 'formula-no-side' } });
    expect(compileFormula('sideBelow(2)', new FormulaNames([]))).toMatchObject({
      ok: false,
      problem: { code: 'formula-dimension' },
    });
  });
});

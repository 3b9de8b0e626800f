import { evaluateLines } from '../cells/evaluate-lines.ts';
import type { LimitParts, PartShares } from '../elements/element-parts.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { compileFormula } from '../formulas/compile-formula.ts';
import { compileRecipe } from '../recipes/compile-recipe.ts';
import { buildBook, listQuantityNames } from '../recipes/recipe.ts';
import { sampleElement } from '../testing/sample-element.ts';

const faces = [
  { style: 'Lime render', look: 'side', area: 24 },
  { style: 'Lime render', look: 'end', area: 0.6 },
  { style: 'Oiled cladding', look: 'side', area: 24 },
] as const;
const opening = { globalId: 'o', filledBy: null, width: 1, height: 1, area: 1, perimeter: 4, sill: 1 };
const walls = [
  sampleElement({ globalId: 'a', quantities: { NetSideArea: 12, GrossSideArea: 12, NetVolume: 3.6 }, faces }),
  sampleElement({ globalId: 'b', quantities: { NetSideArea: 11, GrossSideArea: 12 }, openings: [opening] }),
  sampleElement({ globalId: 'c', quantities: { NetSideArea: 10 } }),
  sampleElement({ globalId: 'd', quantities: { NetSideArea: 9 } }),
  sampleElement({ globalId: 'e', quantities: { NetSideArea: 8 } }),
];
const tenth: PartShares = { volume: 0.1, top: 0, bottom: 1, sides: 0.125, ends: 0.1, surface: 0.1, length: 1 };
const plinth: LimitParts = {
  name: 'Plinth',
  inside: new Set([2]),
  crossing: new Map([
    [0, tenth],
    [1, tenth],
  ]),
  unknown: new Set([4]),
};
const table = { ...buildElementTable(walls), parts: { limits: [plinth], chosen: [] } };
const item = { code: 'X', description: 'Render', kind: 'material', unit: 'm2', rate: '1' } as const;
function price(driver: string) {
  const recipe = compileRecipe(
    { item: 'X', driver },
    buildBook({ currency: 'EUR', items: [item], assemblies: [] }),
    listQuantityNames(),
  );
  const [line] = evaluateLines(recipe, table, Int32Array.of(0, 1, 2, 3, 4)).lines;
  return [0, 1, 2, 3, 4].map((i) => line!.problems.get(i)?.code ?? line!.net[i]);
}

describe('formulas that read more of an element than its figures', () => {
  it('the faces of a surface style, all or those that look one way', () => {
    const none = new Array(4).fill('formula-no-face');
    expect(price('faceArea("lime render")')).toEqual([24.6, ...none]);
    expect(price('faceArea("*render*", "side") / 2')).toEqual([12, ...none]);
    expect(compileFormula('faceArea("x", "inside")', listQuantityNames())).toMatchObject({
      problem: { code: 'formula-arguments' },
    });
  });
  it('the part of a quantity within a limit: whole inside, none outside, its share where it is cut', () => {
    expect(price('within("plinth", NetSideArea)')).toEqual([1.5, 1.375, 10, 0, 'quantity-part-unknown']);
  });
  it('refuse gross figures where openings are cut out of the shape, and limits that are not there', () => {
    expect(price('within("Plinth", GrossSideArea)').slice(0, 2)).toEqual([1.5, 'quantity-without-part']);
    expect(price('within("Attic", NetSideArea)')).toEqual(new Array(5).fill('limit-unknown'));
  });
  it.each(['within("Plinth", Height)', 'within("Plinth", 2 * NetSideArea)', 'within(Height, NetSideArea)'])(
    '%s is refused while it is typed',
    (text) =>
      expect(compileFormula(text, listQuantityNames())).toMatchObject({ problem: { code: 'formula-arguments' } }),
  );
});

import type { Assembly } from '../book/assembly.ts';
import { listRecipeLeaves } from '../recipes/recipe.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { compileRecipe, MOST_LINES } from './compile-recipe.ts';
import { buildBook, listQuantityNames, recipeSignature } from './recipe.ts';

const ITEM = sampleItem('X', 'm2', '2.00');
const assembly = (code: string, lines: Assembly['lines'], more: Partial<Assembly> = {}): Assembly => ({
  code,
  description: code,
  unit: 'm2',
  lines,
  ...more,
});
const compile = (assemblies: Assembly[], use = {}) =>
  compileRecipe(
    { assembly: 'A0', driver: 'NetSideArea', ...use },
    buildBook({ ...sampleBasis([ITEM], []), assemblies }),
    listQuantityNames(),
  );
/** Each level holds the next one twice. */
const nested = (depth: number): Assembly[] =>
  Array.from({ length: depth + 1 }, (_, i) =>
    assembly(
      `A${i}`,
      i === depth
        ? [{ item: 'X', quantity: 'Driver' }]
        : [1, 2].map(() => ({ assembly: `A${i + 1}`, quantity: 'Driver' })),
    ),
  );

describe('assemblies inside assemblies', () => {
  it('are as many lines as they come to: six levels are 64', () =>
    expect(listRecipeLeaves(compile(nested(6))).filter((l) => l.item)).toHaveLength(64));
  it('are refused whole beyond a number of lines, however deep they go', () => {
    for (const depth of [11, 40]) {
      const recipe = compile(nested(depth));
      expect(recipe).toMatchObject({ kind: 'broken', code: 'A0', problem: { code: 'assembly-too-long' } });
      expect(recipe.kind === 'broken' && recipe.problem.message).toContain(String(MOST_LINES));
    }
  });
});

describe('parameters that a rule sets', () => {
  const parameters = [
    { name: 'Layers', unit: 'number', value: '2' },
    { name: 'Oil_coats', unit: 'number', value: '1' },
  ];
  const lines = [{ item: 'X', quantity: 'Driver * Layers * Oil_coats' }];
  const problemOf = (set: Record<string, string>, own = parameters) => {
    const step = compile([assembly('A0', lines, { parameters: own })], { parameters: set });
    return step.kind === 'broken' ? step.problem.code : step;
  };
  it('are found however they are written', () => {
    for (const name of ['Layers', 'layers', 'LAYERS'])
      expect(problemOf({ [name]: '7' })).toMatchObject({
        parameters: [{ name: 'Layers', formula: { text: '7' } }, { name: 'Oil_coats' }],
      });
  });
  it('are never ignored: an unknown name, and one name twice', () => {
    expect(problemOf({ layerz: '7' })).toBe('parameter-unknown');
    expect(problemOf({ Layers: '7', layers: '8' })).toBe('parameter-twice');
  });
  it('of one name cannot be told apart', () => {
    const twice = [...parameters, { name: 'layers', unit: 'number', value: '3' }];
    expect(problemOf({}, twice)).toBe('parameter-twice');
  });
});

describe('what is taken off', () => {
  const readRate = (more: Parameters<typeof sampleItem>[3], rate: string | null = '-3.50') => {
    const item = sampleItem('X', 'm', rate, more);
    const step = compileRecipe(
      { item: 'X', driver: 'Length' },
      buildBook({ ...sampleBasis([item], []), assemblies: [] }),
      listQuantityNames(),
    );
    return step.kind === 'item' ? (step.rate.problem?.code ?? step.rate.value) : step.kind;
  };
  it('says that it is a deduction; else a rate below 0 is no rate', () => {
    expect(readRate({})).toBe('rate-negative');
    expect(readRate({ isDeduction: true })).toBe(-3.5);
    expect(readRate({ rateFormula: '2 EUR/m - 6 EUR/m' }, null)).toBe('rate-negative');
    expect(readRate({ rateFormula: '2 EUR/m - 6 EUR/m', isDeduction: true }, null)).toBe(-4);
  });
  it('is worked out anew when an item becomes a deduction, where each element has its own rate', () => {
    const signatureOf = (more: Parameters<typeof sampleItem>[3]) => {
      const item = sampleItem('X', 'm', null, { rateFormula: 'number("Offer.Rebate", 1 EUR/m)', ...more });
      const book = buildBook({ ...sampleBasis([item], []), assemblies: [] });
      return recipeSignature(compileRecipe({ item: 'X', driver: 'Length' }, book, listQuantityNames()));
    };
    expect(signatureOf({ isDeduction: true })).not.toBe(signatureOf({}));
  });
  it('is never a pack or a length at less than nothing', () => {
    expect(readRate({ soldAs: { pack: 25, packPrice: '-30.00' } }, null)).toBe('rate-negative');
    expect(readRate({ soldAs: { lengths: [3, 4], lengthPrices: ['-3.00', '4.00'] } }, null)).toBe('rate-negative');
  });
});

import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { compileRecipe } from './compile-recipe.ts';
import { listLineTraits } from './line-traits.ts';
import { buildBook, listQuantityNames } from './recipe.ts';

const items = [sampleItem('A', 'm2', '1'), sampleItem('B', 'm2', '2'), sampleItem('C', 'each', '3')];
const names = listQuantityNames();
const traits = (lines: Parameters<typeof sampleBasis>[1], more: Parameters<typeof sampleBasis>[2] = {}) => {
  const basis = sampleBasis(items, lines, more);
  const recipe = compileRecipe({ assembly: 'A', driver: 'NetSideArea' }, buildBook(basis), names);
  return listLineTraits(recipe).map((t) => ({ ...t, reads: [...t.reads].sort() }));
};

describe('what decides the cells of a line', () => {
  it('reads the driver, its own figures, properties and texts', () => {
    const [plain, asking] = traits([
      { item: 'A', quantity: 'Driver' },
      { item: 'B', quantity: 'Driver + Length * 1 m', when: 'text("Set.Rating") = typeName()' },
    ]);
    expect(plain!.reads).toEqual(['q:netsidearea']);
    expect(asking!.reads).toEqual(['p:set.rating', 'q:length', 'q:netsidearea', 't:type']);
  });
  it('reads what the lines read whose results it uses, however far', () => {
    const [, middle, last] = traits([
      { item: 'A', name: 'First', quantity: 'Height * Length' },
      { item: 'B', name: 'Second', quantity: 'First * 2' },
      { item: 'A', quantity: 'Second / 2' },
    ]);
    for (const t of [middle!, last!])
      expect(t).toMatchObject({ usesResults: true, reads: ['q:height', 'q:length', 'q:netsidearea'] });
  });
  it('reads the parts it runs over, also where it only counts them, or another line does for it', () => {
    const [counting, using] = traits([
      { item: 'C', name: 'Lintels', quantity: '1', per: 'opening' },
      { item: 'C', quantity: 'Lintels * 2' },
    ]);
    expect([counting!.reads.includes('parts'), using!.reads.includes('parts')]).toEqual([true, true]);
  });
  it('has another signature when its formula, its condition or a line it uses is another, and only then', () => {
    const of = (first: string, second: string, when?: string) =>
      traits([
        { item: 'A', name: 'First', quantity: first },
        { item: 'B', quantity: second, when },
        { item: 'A', quantity: 'Driver' },
      ]).map((t) => t.signature);
    const before = of('Driver', 'First * 2');
    const differs = (after: string[]) => after.map((s, i) => s !== before[i]);
    expect(differs(of('Driver', 'First * 2'))).toEqual([false, false, false]);
    expect(differs(of('Driver', 'First * 3'))).toEqual([false, true, false]);
    expect(differs(of('Driver * 1.1', 'First * 2'))).toEqual([true, true, false]);
    expect(differs(of('Driver', 'First * 2', 'Height > 3 m'))).toEqual([false, true, false]);
  });
});

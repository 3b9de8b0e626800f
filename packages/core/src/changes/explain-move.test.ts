import type { BuildUpLine } from '../book/assembly.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { buildAllowances } from '../lists/allowance.ts';
import { priceAllowances } from '../lists/price-allowances.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { sampleState } from '../testing/sample-state.ts';
import { checkSameMoney, explainMove } from './explain-move.ts';
import { groupMove } from './group-move.ts';
import type { MoveState } from './move-state.ts';
import { showMove } from './show-move.ts';

/** Walls by their ElementKeys and areas, m2; rooms of the same numbers where `isRoomed`. */
const walls = (areas: Readonly<Record<number, number>>, storeys: Readonly<Record<number, string>> = {}) => {
  const keys = Object.keys(areas).map(Number);
  return buildElementTable(
    keys.map((k) => sampleElement({ globalId: `w${k}`, storey: storeys[k] ?? 'Ground', quantities: { NetSideArea: areas[k]! } })), // biome-ignore format: one list
    Int32Array.from(keys),
  );
};
const basisOf = (rate: string, line: Partial<BuildUpLine> = {}, item = {}) =>
  sampleBasis([sampleItem('X', 'm2', rate, item)], [{ item: 'X', quantity: 'Driver', ...line }]);
const causesOf = (a: MoveState, b: MoveState) => {
  const { move, causes } = showMove(explainMove(a, b));
  return { move, ...Object.fromEntries(Object.entries(causes).filter(([, c]) => c !== 0)) };
};

describe('what moved a plan', () => {
  it('shares what two inputs did together: 10 m2 at 20.00, then 12 m2 at 25.00', () => {
    // Quantity first 40, then price 60; price first 50, then quantity 50.
    const [a, b] = [sampleState(basisOf('20.00'), walls({ 1: 10 })), sampleState(basisOf('25.00'), walls({ 1: 12 }))];
    expect(causesOf(a, b)).toEqual({ move: 10_000, quantity: 4500, price: 5500 });
    expect(causesOf(b, a)).toEqual({ move: -10_000, quantity: -4500, price: -5500 });
  });
  it('is mapping where the recipe takes more of an item, whatever became of the element', () => {
    const brick = (perM2: number) =>
      sampleBasis([sampleItem('B', 'each', '1.00')], [{ item: 'B', quantity: `Driver * ${perM2} each/m2` }]);
    // 34 to 36 pieces a m2 of 10 and 12 m2: (20 + 24) / 2; 10 to 12 m2 at 34 and 36: (68 + 72) / 2.
    const [a, b] = [sampleState(brick(34), walls({ 1: 10 })), sampleState(brick(36), walls({ 1: 12 }))];
    expect(causesOf(a, b)).toEqual({ move: 9200, quantity: 7000, mapping: 2200 });
  });
  it('keeps apart what two causes did to and fro: more pieces of a smaller wall', () => {
    const brick = (perM2: number) =>
      sampleBasis([sampleItem('B', 'each', '1.00')], [{ item: 'B', quantity: `Driver * ${perM2} each/m2` }]);
    const [a, b] = [sampleState(brick(30), walls({ 1: 12 })), sampleState(brick(36), walls({ 1: 10 }))];
    // 360 and 360. The wall: -2 m2 at 30 and 36; the recipe: 6 of 12 and 10 m2.
    expect(causesOf(a, b)).toEqual({ move: 0, quantity: -6600, mapping: 6600 });
  });
  it('is mapping where another item takes the place of one, at the price that the other book has for it', () => {
    const items = (rate: string) => [sampleItem('X', 'm2', rate), sampleItem('Y', 'm2', rate === '20.00' ? '30.00' : '36.00')];
    const basis = (rate: string, item: string) => sampleBasis(items(rate), [{ item, quantity: 'Driver' }]);
    const [a, b] = [sampleState(basis('20.00', 'X'), walls({ 1: 10 })), sampleState(basis('24.00', 'Y'), walls({ 1: 10 }))]; // biome-ignore format: one pair
    // X goes: 200 at the old price, 240 at the new: -220, and its price +20. Y comes: 300 and 360: +330, and its price +30.
    expect(causesOf(a, b)).toEqual({ move: 16_000, mapping: 11_000, price: 5000 });
  }); // biome-ignore format: one list
  it('is extent where elements came and went, with all that they cost', () => {
    const [a, b] = [sampleState(basisOf('20.00'), walls({ 1: 10, 2: 5 })), sampleState(basisOf('25.00'), walls({ 1: 10, 3: 3.8 }))]; // biome-ignore format: one pair
    // -5 x 20, +3.8 x 25; the one that stayed: 5 x 10.
    expect(causesOf(a, b)).toEqual({ move: 4500, extent: -500, price: 5000 });
  });
  it('splits what runs once for the project by its members and their figures', () => {
    const lorry = { item: 'L', quantity: 'Driver / 60 m2/each', per: 'project' as const };
    const basis = sampleBasis([sampleItem('L', 'each', '310.00', { soldAs: { pack: 1 } })], [lorry]);
    const [a, b] = [sampleState(basis, walls({ 1: 30, 2: 30 })), sampleState(basis, walls({ 1: 60, 3: 30 }))];
    const { causes, move } = explainMove(a, b);
    // One lorry, then one and a half, bought whole: two.
    expect(move).toBe(310e6);
    // Wall 2 went with half a lorry (-155), wall 3 came with half (+155); wall 1 took half of one, now a whole one.
    expect(causes).toMatchObject({ mapping: 0, price: 0, factors: 0, rounding: 155e6 });
    expect(causes.extent + causes.quantity).toBe(155e6);
    expect(causes.quantity).toBe(155e6);
  });
  it('moves what packs leave over by its price, and the rest by rounding', () => {
    const bags = (rate: string) => basisOf('1', {}, { unit: 'm2', rate, soldAs: { pack: 10 } });
    // 12 m2 take two packs: 8 m2 left over at 2.00, then at 3.00.
    const same = causesOf(sampleState(bags('2.00'), walls({ 1: 12 })), sampleState(bags('3.00'), walls({ 1: 12 })));
    expect(same).toEqual({ move: 2000, price: 2000 });
    // 18 m2: 2 left over. The lines +6 m2, what is left over -6 m2.
    const more = causesOf(sampleState(bags('2.00'), walls({ 1: 12 })), sampleState(bags('2.00'), walls({ 1: 18 })));
    expect(more).toEqual({ move: 0, quantity: 1200, rounding: -1200 });
  });
  it('splits a per cent as what it is of', () => {
    const withRisk = (rate: string, area: number) => {
      const basis = basisOf(rate);
      const risk = new Map([[-1, { code: 'RISK', name: 'Risk', measure: 'percent' as const, amount: 10 }]]);
      const table = buildAllowances(risk, { floorAreaM2: null, countUnits: () => null })!;
      return sampleState(basis, [
        { sourceId: 's', table: walls({ 1: area }) },
        { sourceId: 'allowances', table, own: priceAllowances(risk, basis.items) },
      ]);
    };
    expect(causesOf(withRisk('20.00', 10), withRisk('25.00', 12))).toEqual({ move: 11_000, quantity: 4950, price: 6050 });
    // What takes each other out in the base does so in the per cent: 12 x 20 is 10 x 24.
    expect(causesOf(withRisk('20.00', 12), withRisk('24.00', 10))).toEqual({ move: 0, quantity: -4840, price: 4840 });
  }); // biome-ignore format: one list
  it('gives what a rate by the total moved to what moved the total', () => {
    const basis = sampleBasis(
      [sampleItem('X', 'm2', null, { rateFormula: 'if(ItemTotal >= 20 m2, 8 EUR/m2, 10 EUR/m2)' })],
      [{ item: 'X', quantity: 'Driver' }],
    );
    const [a, b] = [sampleState(basis, walls({ 1: 10 })), sampleState(basis, walls({ 1: 10, 2: 15 }))];
    // Wall 2 came with 120.00 and made wall 1 cheaper by 20.00: all of it since it came.
    expect(causesOf(a, b)).toEqual({ move: 10_000, extent: 10_000 });
  });
  it('is quantity where an element lost what was priced of it', () => {
    const layered = (materials: readonly string[]) =>
      buildElementTable(
        [sampleElement({ globalId: 'w', quantities: { NetSideArea: 10 }, layers: materials.map((material) => ({ material, thickness: 0.1, position: null, weight: null, area: 10, volume: 1 })) })],
        Int32Array.of(1),
      ); // biome-ignore format: one list
    const basis = sampleBasis([sampleItem('X', 'm2', '5.00')], [], {
      rules: [{ id: 'r', name: 'R', about: 'layer', scope: { field: 'layer', op: 'is', value: 'Wool' }, section: 's', item: 'X', driver: 'LayerArea' }],
    }); // biome-ignore format: one list
    const [a, b] = [sampleState(basis, layered(['Board', 'Wool'])), sampleState(basis, layered(['Board']))];
    expect(causesOf(a, b)).toEqual({ move: -5000, quantity: -5000 });
  });
  it('is extent of two groups where an element stands on another storey', () => {
    const [a, b] = [sampleState(basisOf('20.00'), walls({ 1: 10 }, { 1: 'Ground' })), sampleState(basisOf('25.00'), walls({ 1: 10 }, { 1: 'Roof' }))]; // biome-ignore format: one pair
    const groups = groupMove(a, b, explainMove(a, b), 'storey').map(({ label, shown }) => [label, shown.from, shown.to, shown.causes.extent, shown.causes.price]); // biome-ignore format: one list
    expect(groups).toEqual([
      ['Roof', 0, 25_000, 22_500, 2500],
      ['Ground', 20_000, 0, -22_500, 2500],
    ]);
  });
  it('is not told between currencies', () => {
    const [a, b] = [sampleState(basisOf('1'), walls({ 1: 1 })), sampleState({ ...basisOf('1'), currency: 'USD' }, walls({ 1: 1 }))]; // biome-ignore format: one pair
    expect(checkSameMoney(a, a).ok).toBe(true);
    expect(checkSameMoney(a, b)).toMatchObject({ ok: false, problem: { code: 'currency-differs' } });
  });
});

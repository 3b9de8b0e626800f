import fc from 'fast-check';
import { compileFormula, runFormula } from '../formulas/compile-formula.ts';
import { FormulaNames } from '../formulas/formula-types.ts';
import { writeTypedNumber } from '../units/typed-number.ts';
import { parseUnit } from '../units/unit.ts';
import { readConsumption } from './consumption.ts';

const unitOf = (text: string) => {
  const unit = parseUnit(text);
  if (!unit.ok) throw new Error(text);
  return unit.value;
};

/** How much of an item `text` asks for at a driver, both in the units that are named. */
function ask(text: string, driver: number, driverUnit: string, itemUnit: string): number {
  const [of, item] = [unitOf(driverUnit), unitOf(itemUnit)];
  const read = readConsumption(text, of.dimension, item);
  if (!read.ok) throw new Error(read.problem.message);
  const names = new FormulaNames([
    { name: 'Driver', dimension: of.dimension, source: 'driver' },
    { name: 'Coats', dimension: {}, source: 'value', value: 3 },
  ]);
  const formula = compileFormula(read.value, names, item);
  if (!formula.ok) throw new Error(formula.problem.message);
  const values = formula.value.slots.map((s) => s.value ?? driver * of.factor);
  const result = runFormula(formula.value, values);
  if (!result.ok) throw new Error(result.problem.message);
  return (result.value as number) / item.factor;
}

describe('consumption', () => {
  it.each([
    // 10 m2 x 34 = 340
    ['34 each per m2', 10, 'm2', 'each', 340],
    ['34 pieces per m²', 10, 'm2', 'each', 340],
    ['34 each/m2', 10, 'm2', 'each', 340],
    // 46 m2 / 9.2 = 5 rolls
    ['1 roll covers 9.2 m2', 46, 'm2', 'roll', 5],
    ['2 rolls cover 18,4 m2', 46, 'm2', 'roll', 5],
    // 20 m2 x 0.18 l x 2 = 7.2 l
    ['0.18 l per m2 x 2 coats', 20, 'm2', 'l', 7.2],
    ['0,18 l per m2 x 2 coats', 20, 'm2', 'l', 7.2],
    ['0.18 litres per square metre x Coats', 20, 'm2', 'l', 10.8],
    // 22 m / 5.5 m an hour = 4 h
    ['5.5 m per hour', 22, 'm', 'h', 4],
    ['1 hour does 5.5 m', 22, 'm', 'h', 4],
    ['0.4 h per m2', 10, 'm2', 'h', 4],
    ['30 minutes per m2', 10, 'm2', 'h', 5],
    ['3 each per 2 m', 10, 'm', 'each', 15],
    // 50 m2 x 22 kg / 25 kg = 44 bags
    ['22 kg per m2 in bags of 25 kg', 50, 'm2', 'bag', 44],
    ['1.05 m2 per m2', 10, 'm2', 'm2', 10.5],
    // Other units of the same kind: 10 m2 x 180 ml = 1.8 l
    ['180 ml per m2', 10, 'm2', 'l', 1.8],
  ] as const)('%s, of %d %s, is in %s: %d', (text, driver, driverUnit, itemUnit, wanted) =>
    expect(ask(text, driver, driverUnit, itemUnit)).toBeCloseTo(wanted, 9),
  );

  it.each([
    ['lots per m2', 'm2', 'each', 'consumption-unreadable'],
    ['34 each', 'm2', 'each', 'consumption-unreadable'],
    ['34 each per m3', 'm2', 'each', 'formula-dimension'],
    ['34 kg per m2', 'm2', 'bag', 'formula-dimension'],
    ['1 m2 covers 3 rolls', 'm2', 'roll', 'formula-dimension'],
    ['0 each per m2', 'm2', 'each', 'consumption-zero'],
    ['34 each per 0 m2', 'm2', 'each', 'consumption-zero'],
    ['22 kg per m2 in bags of 0 kg', 'm2', 'bag', 'consumption-zero'],
    ['22 kg per m2 in rolls of 5 kg', 'm2', 'bag', 'formula-dimension'],
    ['34 bricklets per m2', 'm2', 'each', 'unit-unknown'],
  ])('%s of %s in %s is refused as %s', (text, driver, item, code) =>
    expect(readConsumption(text, unitOf(driver).dimension, unitOf(item))).toMatchObject({
      ok: false,
      problem: { code },
    }),
  );

  it('computes the same said either way', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500_000 }), fc.integer({ min: 1, max: 100_000 }), (driver, cover) => {
        const [of, one] = [driver / 1000, cover / 1000];
        const said = ask(`1 roll covers ${writeTypedNumber(one)} m2`, of, 'm2', 'roll');
        expect(ask(`1 roll per ${writeTypedNumber(one)} m2`, of, 'm2', 'roll')).toBeCloseTo(said, 9);
        expect(said).toBeCloseTo(of / one, 6);
      }),
      { seed: 3 },
    );
  });
});

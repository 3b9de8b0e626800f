import { listQuantityNames } from '../recipes/recipe.ts';
import { parseUnit } from '../units/unit.ts';
import { compileFormula, runFormula, suggestName } from './compile-formula.ts';
import { showFormulaWithFigures } from './explain-formula.ts';

const names = listQuantityNames().with([
  { name: 'Driver', dimension: { length: 2 }, source: 'driver' },
  { name: 'spacing', dimension: { length: 1 }, source: 'parameter' },
]);
const unitOf = (text: string) => {
  const unit = parseUnit(text);
  if (!unit.ok) throw new Error(text);
  return unit.value;
};
const compile = (text: string, unit?: string) =>
  compileFormula(text, names, unit === undefined ? undefined : unitOf(unit));
const figures: Record<string, number> = {
  Length: 4.8,
  Height: 3,
  Width: 0.3,
  NetSideArea: 12,
  NetVolume: 3.6,
  Count: 1,
  Weight: 850,
  Driver: 10,
  spacing: 0.6,
  Perimeter: 14,
  Depth: 0.2,
  NetArea: 18,
  GrossSideArea: 14.4,
};

function run(text: string, properties: Record<string, string | number | boolean> = {}) {
  const formula = compile(text);
  if (!formula.ok) throw new Error(formula.problem.message);
  return runFormula(
    formula.value,
    formula.value.slots.map((s) => figures[s.name] ?? Number.NaN),
    (name) => properties[name],
  );
}

describe('right formulas', () => {
  it.each([
    ['NetSideArea', 'm2'],
    ['netsidearea', 'm2'],
    ['NetSideArea * 60 each/m2', 'each'],
    ['60 each/m2*NetSideArea', 'each'],
    ['2 * NetSideArea', 'm2'],
    ['NetSideArea * 0.18 l/m2 * 2', 'l'],
    ['NetSideArea * 22 kg/m2 / 25 kg/bag', 'bag'],
    ['Length / 0.6 m', 'each'],
    ['ceil(Length / 0.6 m) + 1', 'each'],
    ['atCentres(Length, spacing)', 'each'],
    ['atCentres(Length, 600 mm) * Height', 'm'],
    ['Driver / 8 m2/h', 'h'],
    ['Driver * 0.4 h/m2', 'h'],
    ['Count', 'each'],
    ['Count * 2.2 h/each', 'h'],
    ['5', 'each'],
    ['Weight', 'kg'],
    ['Weight', 't'],
    ['NetVolume * 1.25', 'm3'],
    ['NetVolume', 'l'],
    ['Length * Height', 'm2'],
    ['Length * Width * Height', 'm3'],
    ['sqrt(NetArea)', 'm'],
    ['Length ^ 2', 'm2'],
    ['if(Height > 3 m, 2, 1) * NetSideArea', 'm2'],
    ['max(Length, 1 m)', 'm'],
    ['min(Length, Height, 2 m)', 'm'],
    ['round(Length, 0.1 m)', 'm'],
    ['-Length + 2 * Length', 'm'],
    ['(Length + Height) * 2', 'm'],
    ['abs(Length - Height)', 'm'],
    ['NetSideArea * 10 %', 'm2'],
    ['number("Set.Depth", 1 mm) * Length', 'm2'],
    ['number("Set.Coats") * NetSideArea', 'm2'],
    ['if(yes("Set.IsExternal") and Height >= 2.4 m, NetSideArea, 0 m2)', 'm2'],
    ['if(text("Set.Finish") = "Oak", Driver, Driver * 2)', 'm2'],
    ['if(not has("Set.Finish"), 1, 0)', 'each'],
    ['Count + 2', 'each'],
    ['1e3 mm', 'm'],
    ['.5 m', 'm'],
    ['NetVolume / Height', 'm2'],
    ['2 m/Length', 'each'],
    ['NetArea * 2 / 10.75 m2/sheet', 'sheet'],
  ])('%s gives %s', (text, unit) => expect(compile(text, unit)).toMatchObject({ ok: true }));
});

describe('wrong formulas', () => {
  it.each([
    ['NetSideArea', 'm', 'formula-dimension'],
    ['Length', 'm2', 'formula-dimension'],
    ['NetSideArea', 'm3', 'formula-dimension'],
    ['Count', 'm2', 'formula-dimension'],
    ['NetSideArea * 60 each/m2', 'm2', 'formula-dimension'],
    ['NetSideArea * 60 each/m2', 'bag', 'formula-dimension'],
    ['5', 'bag', 'formula-dimension'],
    ['5', 'm2', 'formula-dimension'],
    ['NetVolume', 'kg', 'formula-dimension'],
    ['Weight', 'm3', 'formula-dimension'],
    ['Length + NetSideArea', 'm', 'formula-dimension'],
    ['Length - 2', 'm', 'formula-dimension'],
    ['Length > 3', 'm', 'formula-dimension'],
    ['Length > 3 m', 'm', 'formula-dimension'],
    ['if(Length, 1, 2)', 'each', 'formula-dimension'],
    ['if(Length > 1 m, 1 m, 1 m2)', 'm', 'formula-dimension'],
    ['min(Length, NetSideArea)', 'm', 'formula-dimension'],
    ['ceil(Length)', 'm', 'formula-dimension'],
    ['round(Length, 1 m2)', 'm', 'formula-dimension'],
    ['sqrt(Length)', 'm', 'formula-dimension'],
    ['Length ^ 0.5', 'm', 'formula-dimension'],
    ['2 ^ Length', 'm', 'formula-dimension'],
    ['atCentres(NetSideArea, 0.6 m)', 'each', 'formula-dimension'],
    ['Driver * 8 m2/h', 'h', 'formula-dimension'],
    ['Count * Count', 'each', 'formula-dimension'],
    ['"oak"', 'm', 'formula-dimension'],
    ['-"oak"', 'm', 'formula-dimension'],
    ['not Length', 'm', 'formula-dimension'],
    ['Length and Height', 'm', 'formula-dimension'],
    ['Count * 12 EUR/m2', 'EUR', 'formula-dimension'],
    ['NetSideArea * 12 EUR/m2', 'USD', 'formula-dimension'],
    ['12 EUR + 3 USD', 'EUR', 'formula-dimension'],
    ['12 EUR/h * NetSideArea', 'EUR', 'formula-dimension'],
    ['NetSideArea / 25 kg/bag', 'bag', 'formula-dimension'],
    ['NetVolume * 22 kg/m2', 'kg', 'formula-dimension'],
    ['Length * 60 each/m2', 'each', 'formula-dimension'],
    ['NetSideArea * 0.18 l/m2', 'kg', 'formula-dimension'],
    ['NetSideArea / 0.6 m', 'each', 'formula-dimension'],
    ['Driver / 8 m/h', 'h', 'formula-dimension'],
    ['Height * Width', 'm', 'formula-dimension'],
    ['Weight * 3 h', 'h', 'formula-dimension'],
    ['abs("oak")', 'm', 'formula-dimension'],
    ['floor(NetSideArea)', 'm2', 'formula-dimension'],
    ['max(Length, 3)', 'm', 'formula-dimension'],
    ['Perimeter * Depth * Height', 'm2', 'formula-dimension'],
    ['NetSideAera', 'm2', 'formula-name-unknown'],
    ['area(Length)', 'm2', 'formula-name-unknown'],
    ['m2', 'm2', 'formula-unit-misplaced'],
    ['60 each / m2', 'each', 'formula-unit-misplaced'],
    ['1/0', 'each', 'formula-constant-failure'],
    ['Length / (2 m - 2 m)', 'each', 'formula-constant-failure'],
    ['1e400', 'each', 'formula-constant-failure'],
    ['', 'm', 'formula-empty'],
    ['   ', 'm', 'formula-empty'],
    ['Length *', 'm', 'formula-syntax'],
    ['(Length', 'm', 'formula-syntax'],
    ['Length)', 'm', 'formula-syntax'],
    ['Length Height', 'm', 'formula-syntax'],
    ['0,6 * Length', 'm', 'formula-syntax'],
    ['Length # 2', 'm', 'formula-syntax'],
    ['"oak', 'm', 'formula-syntax'],
    ['max()', 'm', 'formula-arguments'],
    ['if(1 < 2, 3)', 'each', 'formula-arguments'],
    ['number(Length)', 'each', 'formula-arguments'],
    [`${'('.repeat(80)}1${')'.repeat(80)}`, 'each', 'formula-too-deep'],
    ['1'.repeat(2001), 'each', 'formula-too-long'],
  ])('%s for %s is refused', (text, unit, code) => {
    const formula = compile(text, unit);
    expect(formula).toMatchObject({ ok: false, problem: { code } });
  });

  it('says the unit it gives, the unit it needs and the place', () => {
    expect(compile('Length + Height', 'm2')).toMatchObject({
      problem: { message: 'This gives m; m2 is needed.', span: { start: 0, end: 15 } },
    });
    expect(compile('2 * (Length + NetSideArea)', 'm')).toMatchObject({
      problem: { message: 'm and m2 cannot be added.', span: { start: 4, end: 26 } },
    });
    expect(compile('NetSideAera', 'm2')).toMatchObject({
      problem: { remedy: 'Did you mean NetSideArea?', span: { start: 0, end: 11 } },
    });
    expect(suggestName('xqzt', names)).toBeUndefined();
  });
});

describe('what formulas give', () => {
  it.each([
    ['NetSideArea * 60 each/m2', 720],
    ['atCentres(Length, 0.6 m)', 9],
    ['ceil(Length / 0.6 m)', 8],
    ['floor(2.9999999999)', 3],
    ['round(2.5) + round(-2.5)', 0],
    ['ceil(Length, 0.5 m)', 5],
    ['2 + 3 * 4 ^ 2', 50],
    ['2 ^ 3 ^ 2', 512],
    ['-2 ^ 2', -4],
    ['10 - 4 - 3', 3],
    ['if(0.1 + 0.2 = 0.3, 1, 2)', 1],
    ['if(Height <= 3 m, 1, 2)', 1],
    ['600 mm', 0.6],
    ['NetSideArea * 10 %', 1.2],
  ])('%s = %d', (text, value) => expect(run(text)).toEqual({ ok: true, value: expect.closeTo(value, 9) }));

  it('reads properties by kind and never takes a missing one for 0', () => {
    expect(run('number("Set.Depth", 1 mm) * Length', { 'Set.Depth': 200 })).toEqual({
      ok: true,
      value: expect.closeTo(0.96, 9),
    });
    expect(run('number("Set.Depth")')).toMatchObject({ ok: false, problem: { code: 'formula-property-missing' } });
    expect(run('number("Set.Depth")', { 'Set.Depth': 'deep' })).toMatchObject({
      ok: false,
      problem: { code: 'formula-property-type' },
    });
    expect(run('if(text("F") = "EICHE MASSIV", 1, 2)', { F: 'Eiche massiv' })).toMatchObject({ value: 1 });
  });

  it('fails on a missing quantity and on division by what turns out 0, naming it', () => {
    expect(run('GrossPerimeter * 2')).toMatchObject({
      ok: false,
      problem: { code: 'formula-quantity-missing', message: 'The element has no GrossPerimeter.' },
    });
    expect(run('Length / (Height - 3 m)')).toMatchObject({ ok: false, problem: { code: 'formula-division-by-zero' } });
    expect(run('if(Height > 3 m, Length / (Height - 3 m), 1)')).toMatchObject({ ok: true, value: 1 });
  });

  it('shows the figures in place of the names', () => {
    const formula = compile('NetSideArea * 60 each/m2');
    if (!formula.ok) throw new Error();
    expect(showFormulaWithFigures(formula.value, [12.5])).toBe('12.5 m2 * 60 each/m2');
  });
});

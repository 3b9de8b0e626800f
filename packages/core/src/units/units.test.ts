import { data as currencyList } from 'currency-codes';
import fc from 'fast-check';
import { CURRENCIES } from './currencies.ts';
import { dimensionToUnitName, fitsDimension, joinDimensions, multiplyDimensions } from './dimension.ts';
import { foldText } from './fold-text.ts';
import { parseUnit, siToUnit, UNIT_SYMBOLS, unitToSi } from './unit.ts';

const unit = (text: string) => {
  const parsed = parseUnit(text);
  if (!parsed.ok) throw new Error(parsed.problem.message);
  return parsed.value;
};

describe('units', () => {
  it.each([
    ['mm', 0.001],
    ['m2', 1],
    ['cm3', 1e-6],
    ['ft', 0.3048],
    ['l/m2', 0.001],
    ['kg/m3', 1],
    ['t', 1000],
    ['min', 1 / 60],
    ['m²', 1],
  ])('%s is %d in SI', (text, factor) => expect(unit(text).factor).toBeCloseTo(factor, 12));

  it('keeps case: M2 is no unit, and the remedy lists those there are', () => {
    const parsed = parseUnit('M2');
    expect(parsed).toMatchObject({ ok: false, problem: { code: 'unit-unknown', message: 'There is no unit "M2".' } });
  });

  it('takes any figure there and back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...UNIT_SYMBOLS),
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        (symbol, value) => {
          const u = unit(symbol);
          expect(siToUnit(unitToSi(value, u), u)).toBeCloseTo(value, 6);
        },
      ),
    );
  });

  it('keeps counts of different things apart, and lets a plain number stand for pieces only', () => {
    expect(fitsDimension({}, { each: 1 })).toBe(true);
    expect(fitsDimension({}, { bag: 1 })).toBe(false);
    expect(fitsDimension({ each: 1, mass: 1 }, { mass: 1 })).toBe(true);
    expect(fitsDimension({ each: 1, hour: 1 }, { hour: 1 })).toBe(true);
    expect(fitsDimension({ each: 1, mass: 1, length: -1 }, { mass: 1, length: -1 })).toBe(false);
    expect(fitsDimension({ each: 1 }, { roll: 1 })).toBe(false);
    expect(joinDimensions({}, { each: 1 })).toEqual({ each: 1 });
    expect(joinDimensions({ bag: 1 }, { each: 1 })).toBeNull();
  });

  it('multiplies and names dimensions', () => {
    expect(multiplyDimensions({ length: 2 }, { length: 1 }, -1)).toEqual({ length: 1 });
    expect(dimensionToUnitName({ each: 1, length: -2 })).toBe('each/m2');
    expect(dimensionToUnitName({})).toBe('number');
    expect(dimensionToUnitName({ hour: -1 })).toBe('1/h');
  });
});

describe('foldText', () => {
  it('forgets case, accents, spaces and joints', () => {
    expect(foldText(' Außen-Wand_Träger ')).toBe('aussenwandtrager');
    expect(foldText('PSET_WALL common')).toBe(foldText('Pset_WallCommon'));
  });
});

describe('currencies', () => {
  it('are all those of ISO 4217, each a unit of its own', () => {
    const standard = currencyList.map((c) => c.code).filter((c) => c !== 'XXX' && c !== 'XTS');
    expect([...CURRENCIES].sort()).toEqual(standard.sort());
    for (const code of CURRENCIES) expect(parseUnit(`${code}/m2`)).toMatchObject({ ok: true });
    expect(parseUnit('XXX/m2').ok).toBe(false);
  });
});

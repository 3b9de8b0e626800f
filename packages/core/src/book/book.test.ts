import { compileFormula, runFormula } from '../formulas/compile-formula.ts';
import { FormulaNames } from '../formulas/formula-types.ts';
import { parseUnit } from '../units/unit.ts';
import { readSplit, showSplit } from './kind-split.ts';
import { compileValues } from './named-value.ts';
import { compileScale, describeRange, type Scale } from './scale.ts';
import { readSoldAs, showSoldAs } from './sold-as-text.ts';

const unitOf = (text: string) => {
  const unit = parseUnit(text);
  if (!unit.ok) throw new Error(text);
  return unit.value;
};

describe('named values', () => {
  const values = compileValues([
    { name: 'Crane day', unit: 'EUR/day', value: '380' },
    { name: 'Crane half', unit: 'EUR/day', value: 'CraneDay / 2' },
    { name: 'Spacing', unit: 'mm', value: '0.6 m' },
    { name: 'Coats', unit: 'number', value: '2' },
  ]);
  it('are figures in their unit, or formulas of others', () =>
    expect(values.map((v) => v.value)).toEqual([380, 190, 0.6, 2]));
  it('are read in formulas by any spelling of their name and have a dimension', () => {
    const names = new FormulaNames(values);
    const rate = compileFormula('cranehalf * 3 day', names, unitOf('EUR'));
    expect(rate.ok && runFormula(rate.value, [190])).toEqual({ ok: true, value: 570 });
    expect(compileFormula('CraneDay', names, unitOf('EUR/h'))).toMatchObject({
      ok: false,
      problem: { code: 'formula-dimension' },
    });
    expect(compileFormula('CraneDay + 1 USD/day', names)).toMatchObject({ ok: false });
  });
  it('that need each other name the circle, and what uses them says why', () => {
    const circle = compileValues([
      { name: 'A', unit: 'm', value: 'B * 2' },
      { name: 'B', unit: 'm', value: 'C' },
      { name: 'C', unit: 'm', value: 'A' },
    ]);
    expect(circle[2]!.problem).toMatchObject({
      code: 'formula-cycle',
      message: expect.stringContaining('A > B > C > A'),
    });
    const used = compileFormula('2 * A', new FormulaNames(circle));
    expect(used).toMatchObject({ ok: false, problem: { message: expect.stringContaining('A cannot be used') } });
  });
  it.each([
    ['3 kg', 'm', 'formula-dimension'],
    ['1 / 0', 'number', 'formula-constant-failure'],
    ['Nothing', 'm', 'formula-name-unknown'],
    ['1', 'furlong', 'unit-unknown'],
    ['number("Set.Name")', 'number', 'value-not-constant'],
  ])('"%s" in %s is refused as %s', (value, unit, code) =>
    expect(compileValues([{ name: 'V', unit, value }])[0]!.problem).toMatchObject({ code }),
  );
});

describe('scales', () => {
  const depth: Scale = {
    name: 'Excavation',
    unit: 'EUR/m3',
    keys: [{ name: 'Depth', unit: 'm' }],
    rows: [
      { at: [{ from: 1.25, to: 2 }], value: 21 },
      { at: [{ to: 1.25 }], value: 16.5 },
      { at: [{ from: 2 }], value: 28 },
    ],
  };
  const find = (scale: Scale, ...keys: (number | string)[]) => {
    const made = compileScale(scale);
    if (!made.ok) throw new Error(made.problem.message);
    return made.value.find(keys);
  };
  it.each([
    [0.5, 16.5],
    [1.25, 21],
    [1.9999, 21],
    [2, 28],
    [9, 28],
  ])('at %d m gives %d', (at, value) => expect(find(depth, at)).toBe(value));
  it('counts started units whole', () => {
    const started: Scale = { ...depth, keys: [{ name: 'Depth', unit: 'm', step: 0.5 }] };
    // 1.1 m counts as 1.5 m, 1.0 m stays.
    expect(find(started, 1.1)).toBe(21);
    expect(find(started, 1)).toBe(16.5);
  });
  it('taken in slices gives the average: (100 x 5 + 50 x 3) / 150', () => {
    const premium: Scale = {
      name: 'Premium',
      unit: '%',
      keys: [{ name: 'Value', unit: 'EUR' }],
      rows: [
        { at: [{ to: 100 }], value: 5 },
        { at: [{ from: 100 }], value: 3 },
      ],
    };
    expect(find({ ...premium, isSliced: true }, 150)).toBeCloseTo(0.65 / 15, 12);
    expect(find(premium, 150)).toBeCloseTo(0.03, 12);
    expect(find({ ...premium, isSliced: true }, 0)).toBeCloseTo(0.05, 12);
  });
  it('is looked up by texts, exact before wildcards, and by two keys', () => {
    const pipes: Scale = {
      name: 'Pipes',
      unit: 'EUR/m',
      keys: [{ name: 'Material' }, { name: 'Diameter', unit: 'mm' }],
      rows: [
        { at: ['Clay*', { to: 150 }], value: 31 },
        { at: ['Clay*', { from: 150 }], value: 44 },
        { at: ['clay, glazed', {}], value: 60 },
        { at: ['*', {}], value: 12 },
      ],
    };
    expect(find(pipes, 'Clay pipe', 0.1)).toBe(31);
    expect(find(pipes, 'CLAY pipe', 0.15)).toBe(44);
    expect(find(pipes, 'Clay, glazed', 0.1)).toBe(60);
    expect(find(pipes, 'Steel', 5)).toBe(12);
  });
  it('says so where it has no answer', () =>
    expect(find({ ...depth, rows: depth.rows.slice(0, 2) }, 3)).toMatchObject({
      code: 'scale-outside',
      message: 'The scale Excavation says nothing for 3 m.',
    }));
  it.each([
    ['a gap', [{ at: [{ to: 1 }] }, { at: [{ from: 2 }] }], 'scale-gap'],
    ['an overlap', [{ at: [{ to: 2 }] }, { at: [{ from: 1 }] }], 'scale-overlap'],
    ['one range twice', [{ at: [{ to: 2 }] }, { at: [{ to: 2 }] }], 'scale-overlap'],
    ['a range the wrong way', [{ at: [{ from: 2, to: 1 }] }], 'scale-range-empty'],
    ['a text among ranges', [{ at: ['Clay'] }], 'scale-keys'],
    ['no rows', [], 'scale-empty'],
  ] as [string, { at: Scale['rows'][number]['at'] }[], string][])('%s is refused', (_, rows, code) =>
    expect(compileScale({ ...depth, rows: rows.map((r) => ({ ...r, value: 1 })) })).toMatchObject({
      ok: false,
      problem: { code },
    }),
  );
  it('refuses one text twice, and slices by two keys', () => {
    const texts: Scale = {
      ...depth,
      keys: [{ name: 'Kind' }],
      rows: [
        { at: ['Clay'], value: 1 },
        { at: ['CLAY'], value: 2 },
      ],
    };
    expect(compileScale(texts)).toMatchObject({ ok: false, problem: { code: 'scale-key-twice' } });
    expect(compileScale({ ...texts, isSliced: true })).toMatchObject({ ok: false, problem: { code: 'scale-keys' } });
  });
  it('reads its ranges in words', () => {
    expect(describeRange({ to: 1.25 }, 'm')).toBe('below 1.25 m');
    expect(describeRange({ from: 1.25, to: 2 }, 'm')).toBe('1.25 to below 2 m');
    expect(describeRange({ from: 2 }, 'm')).toBe('2 m and above');
  });
});

describe('how an item is sold', () => {
  it.each([
    ['', null],
    ['25', { pack: 25 }],
    ['packs of 25 kg at 30,50', { pack: 25, packPrice: '30.5' }],
    ['25 kg packs at 30,50', { pack: 25, packPrice: '30.5' }],
    ['7.5 m2 packs, per storey', { pack: 7.5, perStorey: true }],
    ['lengths 2.4, 3, 4.2 m', { lengths: [2.4, 3, 4.2] }],
    ['length 2,4; 3 per storey', { lengths: [2.4, 3], perStorey: true }],
    ['lengths 2.4 at 5.10, 3 at 6 m', { lengths: [2.4, 3], lengthPrices: ['5.10', '6'] }],
    ['lengths 2,4 at 5,10; 3 at 6 per storey', { lengths: [2.4, 3], lengthPrices: ['5.10', '6'], perStorey: true }],
  ] as const)('"%s"', (text, sold) => {
    expect(readSoldAs(text)).toEqual({ ok: true, value: sold });
    expect(readSoldAs(showSoldAs(sold ?? undefined, 'kg'))).toEqual({ ok: true, value: sold });
  });
  it.each([
    ['in bags', 'sold-as-unreadable'],
    ['0 kg packs', 'pack-size-zero'],
    ['lengths 2, 0', 'pack-size-zero'],
    ['lengths 2 at 5, 3', 'sold-as-unreadable'],
  ])('"%s" is refused as %s', (text, code) => expect(readSoldAs(text)).toMatchObject({ ok: false, problem: { code } }));
});

describe('how an all-in rate is split', () => {
  it.each([
    ['labour 40, material 60', { labour: 40, material: 60 }],
    ['Material: 62,5 %; plant 37,5%', { material: 62.5, plant: 37.5 }],
    ['', null],
  ] as const)('"%s"', (text, split) => {
    expect(readSplit(text)).toEqual({ ok: true, value: split });
    expect(readSplit(showSplit(split ?? undefined))).toEqual({ ok: true, value: split });
  });
  it.each([
    ['labour 40, material 50', 'split-not-whole'],
    ['labour 50, labour 50', 'split-unreadable'],
    ['wood 100', 'split-unreadable'],
    ['labour', 'split-unreadable'],
  ])('"%s" is refused as %s', (text, code) => expect(readSplit(text)).toMatchObject({ ok: false, problem: { code } }));
});

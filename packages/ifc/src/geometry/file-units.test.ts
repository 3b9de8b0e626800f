import { readPropertyValue } from '../reader/property-sets.ts';
import { StepFile } from '../step/step-file.ts';
import { indexStepFile } from '../step/step-index.ts';
import { StepEnum, StepTyped } from '../step/step-value.ts';
import { readFileUnits } from './file-units.ts';

/** Units of a file whose project names these records as its units. */
function unitsOf(data: string, refs: string) {
  const text = `ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n${data}\n#8=IFCUNITASSIGNMENT((${refs}));\n#10=IFCPROJECT('p',$,'P',$,$,$,$,$,#8);\nENDSEC;\nEND-ISO-10303-21;`;
  const read = indexStepFile(new TextEncoder().encode(text));
  if (!read.ok) throw new Error(read.problem.message);
  return readFileUnits(new StepFile(read.value));
}
const si = (id: number, kind: string, prefix: string, name: string) =>
  `#${id}=IFCSIUNIT(*,.${kind}.,${prefix},.${name}.);`;

describe('units of a file', () => {
  it('millimetres; areas and volumes without a unit follow them', () =>
    expect(unitsOf(si(20, 'LENGTHUNIT', '.MILLI.', 'METRE'), '#20')).toMatchObject({
      length: 0.001,
      area: expect.closeTo(1e-6, 15),
      volume: expect.closeTo(1e-9, 18),
      lengthName: 'mm',
      isAssumed: false,
    }));
  it('areas of their own: square metres beside millimetres, square centimetres by their prefix', () => {
    const length = si(20, 'LENGTHUNIT', '.MILLI.', 'METRE');
    expect(unitsOf(`${length}\n${si(21, 'AREAUNIT', '$', 'SQUARE_METRE')}`, '#20,#21').area).toBe(1);
    expect(unitsOf(`${length}\n${si(21, 'AREAUNIT', '.CENTI.', 'SQUARE_METRE')}`, '#20,#21').area).toBeCloseTo(
      1e-4,
      12,
    );
  });
  it('kilograms and grams', () => {
    expect(unitsOf(si(20, 'MASSUNIT', '.KILO.', 'GRAM'), '#20').mass).toBe(1);
    expect(unitsOf(si(20, 'MASSUNIT', '$', 'GRAM'), '#20').mass).toBe(0.001);
  });
  it('feet and inches by what they are in millimetres', () => {
    const foot = (name: string, value: string) => `${si(20, 'LENGTHUNIT', '.MILLI.', 'METRE')}
#21=IFCMEASUREWITHUNIT(IFCLENGTHMEASURE(${value}),#20);
#22=IFCDIMENSIONALEXPONENTS(1,0,0,0,0,0,0);
#23=IFCCONVERSIONBASEDUNIT(#22,.LENGTHUNIT.,'${name}',#21);`;
    expect(unitsOf(foot('FOOT', '304.8'), '#23')).toMatchObject({
      length: expect.closeTo(0.3048, 12),
      lengthName: 'ft',
    });
    expect(unitsOf(foot('inch', '25.4'), '#23')).toMatchObject({
      length: expect.closeTo(0.0254, 12),
      lengthName: 'in',
    });
    expect(unitsOf(foot('Ell', '1143.'), '#23')).toMatchObject({
      length: expect.closeTo(1.143, 12),
      lengthName: 'ell',
    });
  });
  it('degrees, and a density of its own', () => {
    const data = `#20=IFCSIUNIT(*,.PLANEANGLEUNIT.,$,.RADIAN.);
#21=IFCMEASUREWITHUNIT(IFCPLANEANGLEMEASURE(0.0174532925199433),#20);
#22=IFCDIMENSIONALEXPONENTS(0,0,0,0,0,0,0);
#23=IFCCONVERSIONBASEDUNIT(#22,.PLANEANGLEUNIT.,'DEGREE',#21);
${si(30, 'MASSUNIT', '$', 'GRAM')}
${si(31, 'LENGTHUNIT', '.CENTI.', 'METRE')}
#32=IFCDERIVEDUNITELEMENT(#30,1);
#33=IFCDERIVEDUNITELEMENT(#31,-3);
#34=IFCDERIVEDUNIT((#32,#33),.MASSDENSITYUNIT.,$);`;
    const units = unitsOf(data, '#23,#34');
    expect(units.angle).toBeCloseTo(Math.PI / 180, 12);
    // A gram in a cubic centimetre is 1000 kg/m3.
    expect(units.density).toBeCloseTo(1000, 6);
  });
  it('that name no length, or go in a circle, are metres and told', () => {
    expect(unitsOf(si(20, 'MASSUNIT', '.KILO.', 'GRAM'), '#20')).toMatchObject({ length: 1, isAssumed: true });
    const circle = `#21=IFCMEASUREWITHUNIT(IFCLENGTHMEASURE(2.),#23);
#22=IFCDIMENSIONALEXPONENTS(1,0,0,0,0,0,0);
#23=IFCCONVERSIONBASEDUNIT(#22,.LENGTHUNIT.,'X',#21);`;
    expect(unitsOf(circle, '#23')).toMatchObject({ length: 1, isAssumed: true });
  });
});

describe('values of properties', () => {
  const units = unitsOf(si(20, 'LENGTHUNIT', '.MILLI.', 'METRE'), '#20');
  const read = (value: Parameters<typeof readPropertyValue>[0], factor: number | null = null) =>
    readPropertyValue(value, units, factor);
  it.each([
    ['a length in the file’s unit', new StepTyped('IFCLENGTHMEASURE', 2400), 2.4],
    ['a ratio as it is', new StepTyped('IFCRATIOMEASURE', 0.5), 0.5],
    ['a label', new StepTyped('IFCLABEL', 'EI 60'), 'EI 60'],
    ['yes', new StepTyped('IFCBOOLEAN', new StepEnum('T')), true],
    ['no', new StepEnum('F'), false],
    ['a truth that is not known', new StepTyped('IFCLOGICAL', new StepEnum('U')), 'unknown'],
    ['a list', [new StepTyped('IFCLABEL', 'a'), new StepTyped('IFCLABEL', 'b')], 'a, b'],
    ['nothing', null, null],
    ['an empty list', [], null],
  ])('%s', (_, value, expected) => expect(read(value as never)).toEqual(expected));
  it('a unit of its own beats the file’s', () =>
    expect(read(new StepTyped('IFCLENGTHMEASURE', 2), 0.3048)).toBeCloseTo(0.6096, 12));
});

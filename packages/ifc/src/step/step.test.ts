import fc from 'fast-check';
import { StepFile } from './step-file.ts';
import { indexStepFile } from './step-index.ts';
import { decodeStepText, parseAttributes, StepEnum, StepRef, StepTyped } from './step-value.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const wrap = (data: string, schema = 'IFC4', end = 'ENDSEC;\nEND-ISO-10303-21;\n') =>
  bytes(`ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('${schema}'));\nENDSEC;\nDATA;\n${data}\n${end}`);
const index = (data: string, schema?: string, end?: string) => {
  const read = indexStepFile(wrap(data, schema, end));
  if (!read.ok) throw new Error(read.problem.message);
  return read.value;
};

describe('attributes', () => {
  it('reads every kind of value', () => {
    expect(parseAttributes(bytes(`$,*,#12,'it''s',.T.,-1.5E-3,7,(1.,2.),IFCLABEL('x'),"0F" /* note */ , ()`))).toEqual([
      null,
      undefined,
      new StepRef(12),
      "it's",
      new StepEnum('T'),
      -0.0015,
      7,
      [1, 2],
      new StepTyped('IFCLABEL', 'x'),
      '0F',
      [],
    ]);
  });
  it('decodes accents in every way they are written', () => {
    expect(decodeStepText('Au\\X2\\00DF\\X0\\enwand')).toBe('Außenwand');
    expect(decodeStepText('\\X\\E4\\S\\D\\X4\\0001F600\\X0\\ a\\\\b')).toBe('äÄ😀 a\\b');
  });
  it.each(["'open", '(1,2', '.T', '#', 'IFCLABEL', '1 2', '"0'])('refuses %s', (text) =>
    expect(() => parseAttributes(bytes(text))).toThrow(),
  );
  it.each([
    '0.',
    '-0.',
    '1.E-7',
    '+12',
    '123456789012345.',
    '0.1234567890123456789',
    '9007199254740993',
    '1e400',
    '-2.5e-320',
  ])('reads the number %s to its last digit', (text) => expect(parseAttributes(bytes(text))).toEqual([Number(text)]));
  it('reads any number to its last digit', () => {
    fc.assert(
      fc.property(
        fc.double({ noNaN: true, noDefaultInfinity: true }),
        fc.integer({ min: 0, max: 20 }),
        (value, digits) => {
          for (const text of [String(value), value.toFixed(digits), value.toExponential(digits)])
            expect(parseAttributes(bytes(text))).toEqual([Number(text)]);
        },
      ),
      { seed: 11 },
    );
  });
  it.each(['1.e', '-', '.5', '1e+'])('refuses %s as a number', (text) =>
    expect(() => parseAttributes(bytes(text))).toThrow(),
  );
  it('reads texts beyond 7 bits as UTF-8 and stops at the end it was given', () =>
    expect(parseAttributes(bytes("'Größe'),"), 0, 9)).toEqual(['Größe']));
  it('does not overflow on deep nesting', () =>
    expect(() => parseAttributes(bytes(`${'('.repeat(100_000)}1`))).toThrow('nest too deep'));
});

describe('the file index', () => {
  it('finds records and reads them on demand', () => {
    const file = new StepFile(
      index("#1=IFCWALL('a',$,'Wall; with #2=( in it',$,$,$,$,$,$);\n/* note */ #3 = IFCCARTESIANPOINT((1.,2.,3.));"),
    );
    expect(file.typeOf(1)).toBe('IFCWALL');
    expect(file.attributes(1)[2]).toBe('Wall; with #2=( in it');
    expect(file.attributes(3)).toEqual([[1, 2, 3]]);
    expect(file.is(1, 'IFCELEMENT')).toBe(true);
    expect(file.typeOf(99)).toBe('');
  });
  it.each([
    ['an empty file', '', 'file-empty'],
    ['a zip', 'PK\u0003\u0004', 'file-zipped'],
    ['a text', 'hello', 'file-not-ifc'],
    ['no data', "ISO-10303-21;\nHEADER;FILE_SCHEMA(('IFC4'));ENDSEC;", 'file-not-ifc'],
    ['another schema', "ISO-10303-21;HEADER;FILE_SCHEMA(('AP214'));ENDSEC;DATA;", 'file-schema-unknown'],
    ['no schema', 'ISO-10303-21;HEADER;ENDSEC;DATA;', 'file-schema-unknown'],
  ])('%s is refused with what to do', (_, text, code) => {
    expect(indexStepFile(bytes(text))).toMatchObject({ ok: false, problem: { code, remedy: expect.any(String) } });
  });
  it.each(['IFC2X3', 'IFC4', 'IFC4X3_ADD2', 'IFC4X1'])('%s is read', (schema) =>
    expect(index('#1=IFCWALL();', schema).schemaName).toBe(schema),
  );
  it('tells a cut-off file', () =>
    expect(index("#1=IFCDIRECTION((1.,0.));\n#2=IFCWALL('a", 'IFC4', '')).toMatchObject({
      isComplete: false,
      ids: Float64Array.of(1),
    }));
  it('names damaged records with their lines and keeps the rest', () => {
    const read = index(
      '#1=IFCDIRECTION((1.,0.));\n#2=IFCDIRECTION((1.,0.)\n#3=IFCDIRECTION((0.,1.));\n#4 IFCWALL();\n#5=IFCDIRECTION((0.,1.))\n#6=IFCDIRECTION((0.,0.));\n#99999999999=IFCWALL();\n#7=(1);',
    );
    expect([...read.ids]).toEqual([1, 5, 6]);
    expect(read.faults.map((f) => [f.id, f.line])).toEqual([
      [2, 7],
      [4, 9],
      [5, 10],
      [99999999999, 12],
      [7, 13],
    ]);
  });
  it('finds duplicate numbers and uses the first', () => {
    const read = index('#1=IFCDIRECTION((1.,0.));\n#1=IFCDIRECTION((0.,1.));');
    expect(read.duplicateIds).toEqual([1]);
    expect(new StepFile(read).attributes(1)).toEqual([[1, 0]]);
  });
  it('tells records with missing arguments when they are read', () => {
    const file = new StepFile(index("#1=IFCWALL('a',$);\n#2=IFCWALL('b',$,('x);"));
    expect(file.attributes(1)).toEqual([]);
    expect(file.listFaults()).toEqual([{ id: 1, line: 6, reason: 'it has 2 attributes; IFCWALL needs 9' }]);
  });
  it('survives a very long name', () => {
    const name = 'N'.repeat(2_000_000);
    expect(new StepFile(index(`#1=IFCWALL('a',$,'${name}',$,$,$,$,$,$);`)).attributes(1)[2]).toHaveLength(2_000_000);
  });
});

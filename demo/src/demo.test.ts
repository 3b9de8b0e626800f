import { writeBoathouse } from './build-boathouse.ts';
import { checkParameters, REVISIONS } from './parameters.ts';
import { Enum, Int, nameToGlobalId, Ref, StepWriter, Typed } from './step-writer.ts';

describe('the STEP writer', () => {
  it('writes every kind of value as the standard says', () => {
    const w = new StepWriter();
    w.add(
      'IfcX',
      null,
      undefined,
      1,
      0.5,
      -0,
      1e-7,
      'it\u2019s Ä',
      true,
      new Ref(3),
      new Enum('T'),
      new Int(2),
      new Typed('IFCLABEL', "a'b"),
      [1, [2]],
    );
    expect(w.finish('f.ifc', 't')).toContain(
      "#1=IFCX($,*,1.,0.5,0.,1.E-7,'it\\X2\\2019\\X0\\s \\X2\\00C4\\X0\\',.T.,#3,.T.,2,IFCLABEL('a''b'),(1.,(2.)));",
    );
  });
  it('makes ids of 22 signs of the alphabet, the same for the same name', () => {
    expect(nameToGlobalId('wall')).toMatch(/^[0-3][0-9A-Za-z_$]{21}$/);
    expect(nameToGlobalId('wall')).toBe(nameToGlobalId('wall'));
    expect(nameToGlobalId('wall')).not.toBe(nameToGlobalId('wall 2'));
  });
});

describe('the boathouse', () => {
  it('is the same text for the same parameters, and another for others', () => {
    expect(writeBoathouse(REVISIONS.R1)).toBe(writeBoathouse(REVISIONS.R1));
    expect(writeBoathouse(REVISIONS.R2)).not.toBe(writeBoathouse(REVISIONS.R1));
  });
  it('grows with its copies', () => {
    const walls = (text: string) => text.match(/=IFCWALL\(/g)!.length;
    expect(walls(writeBoathouse(REVISIONS.R1, { copies: 3 }))).toBe(3 * walls(writeBoathouse(REVISIONS.R1)));
  });
  it('refuses what would not stand', () => {
    expect(checkParameters(REVISIONS.R3)).toBeNull();
    expect(checkParameters({ ...REVISIONS.R1, bays: 2 })).toContain('bays must lie between 6 and 12');
    expect(checkParameters({ ...REVISIONS.R1, bays: 6.5 })).toContain('whole number');
    expect(checkParameters({ ...REVISIONS.R1, storeyHeight: Number.NaN })).toContain('storeyHeight');
  });
});

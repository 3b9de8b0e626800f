import { readIfc, takeOffIfc } from '../takeoff/read-model.ts';
import { wrapIfc } from '../testing/small-file.ts';

/** Furniture that shows one map of a box 2 x 1 x 0.5 m: each by its own operator, so that it may be turned or mirrored. */
const mapped = (operators: readonly string[], styled: readonly number[] = []): Uint8Array => {
  const lines = [
    '#100=IFCCARTESIANPOINT((0.,0.));',
    '#101=IFCAXIS2PLACEMENT2D(#100,$);',
    '#102=IFCRECTANGLEPROFILEDEF(.AREA.,$,#101,2.,1.);',
    '#103=IFCCARTESIANPOINT((0.,0.,0.));',
    '#104=IFCAXIS2PLACEMENT3D(#103,$,$);',
    '#105=IFCDIRECTION((0.,0.,1.));',
    '#106=IFCEXTRUDEDAREASOLID(#102,#104,#105,0.5);',
    "#107=IFCSHAPEREPRESENTATION(#9,'Body','SweptSolid',(#106));",
    '#108=IFCREPRESENTATIONMAP(#104,#107);',
    '#109=IFCDIRECTION((0.,1.,0.));',
    '#110=IFCCARTESIANPOINT((3.,0.,0.));',
    '#111=IFCCOLOURRGB($,0.5,0.5,0.5);',
    '#112=IFCSURFACESTYLERENDERING(#111,0.,$,$,$,$,$,$,.FLAT.);',
    "#113=IFCSURFACESTYLE('Oiled oak',.BOTH.,(#112));",
  ];
  operators.forEach((operator, i) => {
    const n = 200 + i * 10;
    lines.push(
      `#${n}=IFCCARTESIANTRANSFORMATIONOPERATOR3D(${operator});`,
      `#${n + 1}=IFCMAPPEDITEM(#108,#${n});`,
      `#${n + 2}=IFCSHAPEREPRESENTATION(#9,'Body','MappedRepresentation',(#${n + 1}));`,
      `#${n + 3}=IFCPRODUCTDEFINITIONSHAPE($,$,(#${n + 2}));`,
      `#${n + 4}=IFCFURNISHINGELEMENT('f${i}',$,'Bench ${i}',$,$,#3,#${n + 3},$);`,
      ...(styled.includes(i) ? [`#${n + 5}=IFCSTYLEDITEM(#${n + 1},(#113),$);`] : []),
    );
  });
  return new TextEncoder().encode(wrapIfc(lines.join('\n')));
};
const AS_DRAWN = '$,$,#103,$,$';
const TURNED = '#109,$,#103,$,$';
const MOVED = '$,$,#110,$,$';

const bodiesOf = (bytes: Uint8Array) => {
  const read = readIfc(bytes);
  if (!read.ok) throw new Error(read.problem.message);
  return read.value.elements.map((e) => e.body);
};

describe('what shows one map', () => {
  it('is one body where it is placed alike, and another where it is turned or moved', () => {
    const [a, b, turned, again, moved] = bodiesOf(mapped([AS_DRAWN, AS_DRAWN, TURNED, TURNED, MOVED]));
    expect(b).toBe(a);
    expect(again).toBe(turned);
    expect(turned).not.toBe(a);
    expect(moved?.solids[0]?.placement[3]).toBe(3);
    expect(a?.solids[0]?.placement[3]).toBe(0);
  });

  it('keeps the style that one of them is given for itself', async () => {
    const read = await takeOffIfc(mapped([AS_DRAWN, AS_DRAWN, AS_DRAWN], [1]));
    if (!read.ok) throw new Error(read.problem.message);
    const styles = read.value.elements.map((e) => [...new Set(e.faces.map((f) => f.style))]);
    expect(styles).toEqual([[], ['Oiled oak'], []]);
  });

  it('has the figures of the drawing wherever it is placed: 1 m3, 2 x 1 x 0.5 m, and its own box', async () => {
    const read = await takeOffIfc(mapped([AS_DRAWN, TURNED, MOVED, AS_DRAWN]));
    if (!read.ok) throw new Error(read.problem.message);
    for (const e of read.value.elements) {
      const figure = (name: string) => e.quantities.find((q) => q.name === name)?.value;
      expect([figure('Length'), figure('Width'), figure('Height'), figure('GrossVolume')]).toEqual([2, 1, 0.5, 1]);
      expect(e.sketch?.areaM2).toBeCloseTo(2 * (2 * 1 + 2 * 0.5 + 1 * 0.5), 9);
    }
    expect(read.value.elements.map((e) => e.box?.map((c) => Math.round(c * 1e6) / 1e6))).toEqual([
      [-1, -0.5, 0, 1, 0.5, 0.5],
      [-0.5, -1, 0, 0.5, 1, 0.5],
      [2, -0.5, 0, 4, 0.5, 0.5],
      [-1, -0.5, 0, 1, 0.5, 0.5],
    ]);
    for (const [i, x] of [0, 0, 3, 0].entries()) expect(read.value.elements[i]?.sketch?.centre[0]).toBeCloseTo(x, 12);
  });
});

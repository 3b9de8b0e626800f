import { measureProfile, measureSignedAreaM2 } from '@tally/core';
import { openSmallFile } from '../testing/open-small-file.ts';
import { CurveReader } from './curves.ts';
import { PlacementReader } from './placements.ts';
import { ProfileReader } from './profiles.ts';

/** Readers of a small file whose lengths are in millimetres and angles in degrees. */
function open(data: string) {
  const file = openSmallFile(data);
  const placements = new PlacementReader(file, 0.001);
  const curves = new CurveReader(file, placements, Math.PI / 180);
  return { placements, curves, profiles: new ProfileReader(file, placements, curves) };
}
const point = (id: number, x: number, y: number) => `#${id}=IFCCARTESIANPOINT((${x.toFixed(1)},${y.toFixed(1)}));`;
const areaOf = (data: string, id: number) => {
  const placed = open(data).profiles.read(id);
  return placed && measureProfile(placed.profile).areaM2;
};
const outlineArea = (data: string, id: number) => {
  const outline = open(data).curves.readOutline(id);
  return outline && Math.abs(measureSignedAreaM2(outline));
};

describe('profiles of the standard kinds, millimetres', () => {
  it.each([
    ['RECTANGLE', '200.,300.', 0.06],
    // Less four corners of radius 20: 4 x (1 - π/4) x 0.02².
    ['ROUNDEDRECTANGLE', '200.,300.,20.', 0.06 - 4 * (1 - Math.PI / 4) * 0.0004],
    ['RECTANGLEHOLLOW', '100.,60.,5.,$,$', 0.1 * 0.06 - 0.09 * 0.05],
    ['CIRCLE', '150.', Math.PI * 0.0225],
    ['CIRCLEHOLLOW', '100.,10.', Math.PI * (0.01 - 0.0081)],
    ['ELLIPSE', '200.,100.', Math.PI * 0.02],
    // 2 x 100 x 10 + 180 x 6 = 3080 mm2
    ['ISHAPE', '100.,200.,6.,10.,$,$,$', 0.00308],
    // 100 x 10 + 90 x 8 = 1720 mm2
    ['TSHAPE', '100.,100.,8.,10.,$,$,$,$,$', 0.00172],
    // 2 x 50 x 9 + (140 - 18) x 7 = 1754 mm2
    ['USHAPE', '140.,50.,7.,9.,$,$,$', 0.001754],
    // 10 x (80 + 120 - 10) = 1900 mm2
    ['LSHAPE', '120.,80.,10.,$,$,$', 0.0019],
    // Equal legs where no second is given: 8 x (2 x 90 - 8) = 1376 mm2
    ['LSHAPE', '90.,$,8.,$,$,$', 0.001376],
    // Flanges that slope by 8° keep their thickness in the middle of what stands out.
    ['ISHAPE', '100.,200.,6.,10.,$,$,8.', 0.00308],
    // Below 100 x 10, above 60 x 8, web 182 x 6: 1000 + 480 + 1092 mm2
    ['ASYMMETRICISHAPE', '100.,200.,6.,10.,$,60.,8.,$,$,$,$,$,$', 0.002572],
    // 2 x 80 x 10 + 180 x 8 = 3040 mm2
    ['ZSHAPE', '200.,80.,8.,10.,$,$', 0.00304],
    // A sheet of 3 mm along 97 + 2 x 47 + 2 x 18.5 mm on its middle: 228 x 3 mm2
    ['CSHAPE', '100.,50.,3.,20.,$', 0.000684],
    // (400 + 200) / 2 x 100 mm2
    ['TRAPEZIUM', '400.,200.,100.,50.', 0.03],
  ])('%s %s', (kind, sizes, area) =>
    expect(areaOf(`#100=IFC${kind}PROFILEDEF(.AREA.,'P',$,${sizes});`, 100)).toBeCloseTo(area, 9),
  );
  it.each([
    ['RECTANGLE', '0.,300.', 'a side of nothing'],
    ['CIRCLE', '-1.', 'a radius below 0'],
    ['LSHAPE', '100.,50.,8.,$,$,4.', 'a sloping leg, whose thickness the standard leaves open'],
    ['CRANERAILASHAPE', '100.,50.,3.,20.,5.,5.,5.,5.,5.,5.', 'a kind whose formula is not known'],
  ])('leaves %s %s to the mesh: %s', (kind, sizes) =>
    expect(areaOf(`#100=IFC${kind}PROFILEDEF(.AREA.,'P',$,${sizes});`, 100)).toBeNull(),
  );
  it('keeps where it lies', () => {
    const data = `${point(90, 500, 250)}\n#91=IFCAXIS2PLACEMENT2D(#90,$);\n#100=IFCCIRCLEPROFILEDEF(.AREA.,$,#91,150.);`;
    const { position } = open(data).profiles.read(100)!;
    expect([position[3], position[7]]).toEqual([0.5, 0.25]);
  });
});

describe('profiles by their outline', () => {
  const square = [point(20, 0, 0), point(21, 1000, 0), point(22, 1000, 1000), point(23, 0, 1000)].join('\n');
  it('a closed polyline, and one that is closed by its last edge', () => {
    expect(outlineArea(`${square}\n#30=IFCPOLYLINE((#20,#21,#22,#23,#20));`, 30)).toBeCloseTo(1, 12);
    expect(outlineArea(`${square}\n#30=IFCPOLYLINE((#20,#21,#22,#23));`, 30)).toBeCloseTo(1, 12);
    expect(outlineArea(`${square}\n#30=IFCPOLYLINE((#20,#21));`, 30)).toBeNull();
  });
  it('a hole is taken out: 1 m2 less a circle of 0.2 m', () => {
    const data = `${square}
#30=IFCPOLYLINE((#20,#21,#22,#23,#20));
${point(40, 500, 500)}
#41=IFCAXIS2PLACEMENT2D(#40,$);
#42=IFCCIRCLE(#41,200.);
#100=IFCARBITRARYPROFILEDEFWITHVOIDS(.AREA.,$,#30,(#42));`;
    expect(areaOf(data, 100)).toBeCloseTo(1 - Math.PI * 0.04, 9);
  });
  it('an elliptic hole is taken out: 1 m2 less π x 0.2 x 0.1', () => {
    const data = `${square}\n#30=IFCPOLYLINE((#20,#21,#22,#23,#20));\n#42=IFCELLIPSE($,200.,100.);\n#100=IFCARBITRARYPROFILEDEFWITHVOIDS(.AREA.,$,#30,(#42));`;
    expect(areaOf(data, 100)).toBeCloseTo(1 - Math.PI * 0.02, 4);
  });
  it('a hole that cannot be read leaves all of it to the mesh', () => {
    const data = `${square}\n#30=IFCPOLYLINE((#20,#21,#22,#23,#20));\n#42=IFCOFFSETCURVE2D(#30,100.,.F.);\n#100=IFCARBITRARYPROFILEDEFWITHVOIDS(.AREA.,$,#30,(#42));`;
    expect(areaOf(data, 100)).toBeNull();
  });
  it('an indexed curve with an arc: a square of 1 m with half a circle over one side', () => {
    const data = `#29=IFCCARTESIANPOINTLIST2D(((0.,0.),(1000.,0.),(1000.,1000.),(500.,1500.),(0.,1000.)));
#30=IFCINDEXEDPOLYCURVE(#29,(IFCLINEINDEX((1,2,3)),IFCARCINDEX((3,4,5)),IFCLINEINDEX((5,1))),$);`;
    expect(outlineArea(data, 30)).toBeCloseTo(1 + Math.PI / 8, 9);
  });
  it('an indexed curve that names a point there is not is none', () => {
    const data = `#29=IFCCARTESIANPOINTLIST2D(((0.,0.),(1.,0.)));\n#30=IFCINDEXEDPOLYCURVE(#29,(IFCLINEINDEX((1,7))),$);`;
    expect(outlineArea(data, 30)).toBeNull();
  });
  it('a trimmed circle by degrees, closed by a line: a quarter of 1 m', () => {
    const data = `#40=IFCCARTESIANPOINT((0.,0.));
#41=IFCAXIS2PLACEMENT2D(#40,$);
#42=IFCCIRCLE(#41,1000.);
#43=IFCTRIMMEDCURVE(#42,(IFCPARAMETERVALUE(0.)),(IFCPARAMETERVALUE(90.)),.T.,.PARAMETER.);
${point(44, 1000, 0)}
${point(45, 0, 1000)}
#46=IFCPOLYLINE((#45,#40,#44));
#47=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#43);
#48=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#46);
#49=IFCCOMPOSITECURVE((#47,#48),.F.);`;
    expect(outlineArea(data, 49)).toBeCloseTo(Math.PI / 4, 9);
    // Run the other way round, against the sense of its curve, it is the same piece.
    const turned = data.replace('#47=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.', '#47=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.F.').replace('(#45,#40,#44)', '(#44,#40,#45)'); // biome-ignore format: one change
    expect(outlineArea(turned.replace('((#47,#48)', '((#48,#47)'), 49)).toBeCloseTo(Math.PI / 4, 9);
  });
  it('a line cut by its parameters is as long as they say', () => {
    const data = `#40=IFCCARTESIANPOINT((100.,0.));
#41=IFCDIRECTION((0.,2.));
#42=IFCVECTOR(#41,1000.);
#43=IFCLINE(#40,#42);
#44=IFCTRIMMEDCURVE(#43,(IFCPARAMETERVALUE(0.5)),(IFCPARAMETERVALUE(3.)),.T.,.PARAMETER.);`;
    expect(open(data).curves.readLine(44)).toEqual([
      [0.1, 0.5],
      [0.1, 3],
    ]);
  });
  it('a curve that holds itself ends, and is none', () => {
    const data = `#48=IFCCOMPOSITECURVESEGMENT(.CONTINUOUS.,.T.,#49);\n#49=IFCCOMPOSITECURVE((#48),.F.);`;
    expect(outlineArea(data, 49)).toBeNull();
  });
});

describe('placements', () => {
  it('add up from the outermost to the innermost, turned', () => {
    const data = `${point(20, 1000, 0)}
#21=IFCCARTESIANPOINT((0.,0.,3000.));
#22=IFCDIRECTION((0.,1.,0.));
#23=IFCAXIS2PLACEMENT3D(#21,#11,#22);
#24=IFCLOCALPLACEMENT($,#23);
#25=IFCCARTESIANPOINT((2000.,0.,0.));
#26=IFCAXIS2PLACEMENT3D(#25,$,$);
#27=IFCLOCALPLACEMENT(#24,#26);`;
    const m = open(data).placements.readObject(27);
    // 2 m along the x of the outer one, which is the world's y, 3 m up.
    expect([m[3], m[7], m[11]].map((v) => Number(v.toFixed(9)))).toEqual([0, 2, 3]);
  });
  it('that refer to each other in a circle are read as the origin', () => {
    const m = open('#27=IFCLOCALPLACEMENT(#28,#2);\n#28=IFCLOCALPLACEMENT(#27,#2);').placements.readObject(27);
    expect([m[3], m[7], m[11]]).toEqual([0, 0, 0]);
  });
  it('tell an operator that scales, and mirror where the axes say so', () => {
    const read = (axes: string, scale: string) =>
      open(
        `#40=IFCDIRECTION((0.,-1.,0.));\n#41=IFCCARTESIANTRANSFORMATIONOPERATOR3D($,${axes},#1,${scale},$);`,
      ).placements.readOperator(41);
    expect(read('$', '2.')).toMatchObject({ isScaled: true });
    expect(read('$', '1.')).toMatchObject({ isScaled: false });
    expect(read('#40', '$').matrix[5]).toBe(-1);
  });
});

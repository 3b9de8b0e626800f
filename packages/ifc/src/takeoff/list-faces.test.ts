import { buildElementTable, type Face, sumFaces } from '@tally/core';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import { wrapIfc } from '../testing/small-file.ts';
import { takeOffIfc } from './read-model.ts';

async function takeFaces(text: string): Promise<(name: string) => readonly Face[]> {
  const read = await takeOffIfc(new TextEncoder().encode(text));
  if (!read.ok) throw new Error(read.problem.message);
  return (name) => read.value.elements.find((e) => e.name === name)!.faces;
}
const face = (style: string, look: Face['look'], area: number) => ({ style, look, area: expect.closeTo(area, 4) });

/** An upright box from (x, y, z) as extruded item `n`, with the records n + 1 … n + 5 behind it. */
const box = (n: number, [x, y, z]: number[], [dx, dy, dz]: number[]) => `
#${n + 1}=IFCCARTESIANPOINT((${x! + dx! / 2},${y! + dy! / 2}));
#${n + 2}=IFCAXIS2PLACEMENT2D(#${n + 1},$);
#${n + 3}=IFCRECTANGLEPROFILEDEF(.AREA.,$,#${n + 2},${dx},${dy});
#${n + 4}=IFCCARTESIANPOINT((0.,0.,${z}));
#${n + 5}=IFCAXIS2PLACEMENT3D(#${n + 4},$,$);
#${n}=IFCEXTRUDEDAREASOLID(#${n + 3},#${n + 5},#11,${dz});`;
const style = (n: number, item: number, name: string, isOld = false) => `
#${n + 1}=IFCCOLOURRGB($,1.,0.2,0.);
#${n + 2}=IFCSURFACESTYLERENDERING(#${n + 1},$,$,$,$,$,$,$,.FLAT.);
#${n + 3}=IFCSURFACESTYLE(${name},.BOTH.,(#${n + 2}));
#${n + 4}=IFCPRESENTATIONSTYLEASSIGNMENT((#${n + 3}));
#${n}=IFCSTYLEDITEM(#${item},(#${isOld ? n + 4 : n + 3}),$);`;
const shape = (n: number, items: string) => `
#${n + 1}=IFCSHAPEREPRESENTATION(#9,'Body','Any',(${items}));
#${n}=IFCPRODUCTDEFINITIONSHAPE($,$,(#${n + 1}));`;

describe('faces by surface style', () => {
  it('of the boathouse: a wall, a window, the coated top of the pier', async () => {
    const faces = await takeFaces(writeBoathouse(REVISIONS.R1));
    // 4.8 x 3.6 with a window of 1.2 x 1.2; both sides.
    expect(faces('Outer wall north G2')).toContainEqual(face('Oiled cladding', 'side', 2 * 15.84));
    // Its top is 0.8 x 0.8; the tapering sides are 4 trapezia of (1.6 + 0.8) / 2 x sqrt(9.16).
    expect(faces('Mooring pier')).toEqual(
      expect.arrayContaining([
        face('Non-slip coat', 'top', 0.64),
        face('Concrete formed', 'bottom', 2.56),
        face('Concrete formed', 'side', 4 * 1.2 * Math.sqrt(9 + 0.16)),
      ]),
    );
    // A window of 1.2 x 1.2 m: its pane of 1.06 x 1.06 m, 40 mm thick, has two faces and upright edges.
    expect(faces('Window outer.north.0.1.1')).toContainEqual(
      face('Clear glass', 'side', 2 * 1.06 ** 2 + 2 * 1.06 * 0.04),
    );
  });

  it('of a wall drawn as two skins with an opening through both', async () => {
    const faces = await takeFaces(
      wrapIfc(`${box(20, [0, 0, 0], [5, 0.2, 3])}${box(30, [0, 0.2, 0], [5, 0.1, 3])}
${style(40, 20, "'Block'")}${style(50, 30, "'Render'", true)}${shape(60, '#20,#30')}
#70=IFCWALL('w',$,'Wall',$,$,#3,#60,$,$);${box(80, [2, -0.1, 0.5], [1, 0.5, 2])}${shape(90, '#80')}
#93=IFCOPENINGELEMENT('o',$,'O',$,$,#3,#90,$,$);
#94=IFCRELVOIDSELEMENT('v',$,$,$,#70,#93);`),
    );
    // Render: two sides of 15 - 2, two ends of 0.3, two jambs of 0.2; its top of 0.5 and the sill of 0.1.
    expect(faces('Wall')).toEqual(
      expect.arrayContaining([
        face('Render', 'side', 26 + 0.6 + 0.4),
        face('Render', 'top', 0.6),
        face('Block', 'side', 26 + 1.2 + 0.8),
        face('Block', 'bottom', 1 + 0.2),
      ]),
    );
  });

  it('of a face set with a map of colours, and of a style without a name: the colour names them', async () => {
    const corners = [0, 1].flatMap((z) => ['0.,0.', '2.,0.', '2.,1.', '0.,1.'].map((xy) => `(${xy},${z}.)`));
    const faces = await takeFaces(
      wrapIfc(`#20=IFCCARTESIANPOINTLIST3D((${corners.join()}));
#21=IFCTRIANGULATEDFACESET(#20,$,.T.,((1,3,2),(1,4,3),(5,6,7),(5,7,8),(1,2,6),(1,6,5),(2,3,7),(2,7,6),(3,4,8),(3,8,7),(4,1,5),(4,5,8)),$);
#22=IFCCOLOURRGBLIST(((1.,0.,0.),(0.,1.,0.)));
#23=IFCINDEXEDCOLOURMAP(#21,$,#22,(1,1,2,2,1,1,1,1,1,1,1,1));${shape(30, '#21')}
#40=IFCBUILDINGELEMENTPROXY('x',$,'Box',$,$,#3,#30,$,$);${box(50, [5, 0, 0], [1, 1, 2])}${style(60, 50, '$')}${shape(70, '#50')}
#80=IFCCOLUMN('c',$,'Post',$,$,#3,#70,$,$);`),
    );
    expect(faces('Box')).toEqual(
      expect.arrayContaining([face('#00ff00', 'top', 2), face('#ff0000', 'side', 6), face('#ff0000', 'bottom', 2)]),
    );
    expect(faces('Post')).toContainEqual(face('#ff3300', 'side', 8));
  });

  it('add up by name, with wildcards and by the way they look', async () => {
    const read = await takeOffIfc(new TextEncoder().encode(writeBoathouse(REVISIONS.R1)));
    if (!read.ok) throw new Error(read.problem.message);
    const row = read.value.elements.findIndex((e) => e.name === 'Mooring pier');
    const table = buildElementTable(read.value.elements);
    expect(sumFaces(table, row, 'non-slip*', null)).toBeCloseTo(0.64, 6);
    expect(sumFaces(table, row, 'Concrete formed', 'bottom')).toBeCloseTo(2.56, 6);
    expect(sumFaces(table, row, 'Non-slip coat', 'side')).toBeNull();
  });
});

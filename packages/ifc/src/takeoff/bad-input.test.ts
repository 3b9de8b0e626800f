import { wrapIfc } from '../testing/small-file.ts';
import { takeOffIfc } from './read-model.ts';

/** An extruded polygon as shape #52. */
const prism = (corners: readonly (readonly [number, number])[], depth: string) =>
  `${corners.map(([x, y], i) => `#${30 + i}=IFCCARTESIANPOINT((${x}.,${y}.));`).join('\n')}
#40=IFCPOLYLINE((${corners.map((_, i) => `#${30 + i}`).join()},#30));
#41=IFCARBITRARYCLOSEDPROFILEDEF(.AREA.,$,#40);
#50=IFCEXTRUDEDAREASOLID(#41,#2,#11,${depth});
#51=IFCSHAPEREPRESENTATION(#9,'Body','SweptSolid',(#50));
#52=IFCPRODUCTDEFINITIONSHAPE($,$,(#51));
`;
const RECTANGLE = [[0, 0], [4, 0], [4, 3], [0, 3]] as const; // biome-ignore format: one outline

async function take(data: string) {
  const read = await takeOffIfc(new TextEncoder().encode(wrapIfc(data)));
  if (!read.ok) throw new Error(read.problem.message);
  const figures = read.value.elements.map((e) => Object.fromEntries(e.quantities.map((q) => [q.name, q.value])));
  return { codes: read.value.findings.map((f) => f.code), findings: read.value.findings, figures };
}

describe('what a file should not hold', () => {
  it('an outline that crosses itself: told, counted, not measured', async () => {
    const bowTie = [[0, 0], [4, 3], [4, 0], [0, 2]] as const; // biome-ignore format: one outline
    const { codes, figures } = await take(`${prism(bowTie, '2.')}#60=IFCSLAB('s',$,'S',$,$,#3,#52,$,.FLOOR.);`);
    expect(codes).toContain('profile-crosses-itself');
    expect(figures).toEqual([{ Count: 1 }]);
  });
  it('a keyhole outline, which only touches itself, is measured', async () => {
    // 4 x 4 m with a hole of 1 x 1 m, drawn as one line that goes in and out along x = y.
    const keyhole = [[0, 0], [4, 0], [4, 4], [0, 4], [0, 0], [1, 1], [1, 2], [2, 2], [2, 1], [1, 1]] as const; // biome-ignore format: one outline
    const { codes, figures } = await take(`${prism(keyhole, '0.5')}#60=IFCSLAB('s',$,'S',$,$,#3,#52,$,.FLOOR.);`);
    expect(codes).not.toContain('profile-crosses-itself');
    expect(figures[0]!.GrossVolume).toBeCloseTo(7.5, 6);
  });
  it('a negative height: the volume is unknown', async () => {
    const { codes, figures } = await take(`${prism(RECTANGLE, '-2.')}#60=IFCWALL('w',$,'W',$,$,#3,#52,$,$);`);
    expect(codes).toContain('volume-not-positive');
    expect(figures[0]).not.toHaveProperty('NetVolume');
  });
  it('an entity that no schema has: told by name, the rest is read', async () => {
    const { findings, figures } = await take(
      `${prism(RECTANGLE, '2.')}#60=IFCNEWTHING('n',$,'N',$,$,#3,#52,$);#61=IFCWALL($,$,$,$,$,#3,#52,$,$);`,
    );
    expect(findings.find((f) => f.code === 'entity-unknown')!.message).toContain('IFCNEWTHING');
    expect(figures).toHaveLength(1);
    expect(figures[0]!.NetVolume).toBeCloseTo(24, 6);
  });
  it('a room without a body: no shape, no figure, no 0', async () => {
    const { codes, figures } = await take(`#60=IFCSPACE('s',$,'Room',$,$,#3,$,$,.ELEMENT.,.INTERNAL.,$);`);
    expect(codes).toEqual(expect.arrayContaining(['no-geometry', 'room-without-finish']));
    expect(figures).toEqual([{ Count: 1 }]);
  });
  it('a wall without IsExternal is outer where rooms lie on one side only', async () => {
    // A wall of 4 x 0.3 x 2 m along y = 0 with a room of 4 x 3 m on one side.
    const wall = [[0, -1], [4, -1], [4, 0], [0, 0]] as const; // biome-ignore format: one outline
    const room = `#70=IFCCARTESIANPOINT((2.,1.5));#71=IFCAXIS2PLACEMENT2D(#70,$);#72=IFCRECTANGLEPROFILEDEF(.AREA.,$,#71,4.,3.);
#73=IFCEXTRUDEDAREASOLID(#72,#2,#11,2.);#74=IFCSHAPEREPRESENTATION(#9,'Body','SweptSolid',(#73));#75=IFCPRODUCTDEFINITIONSHAPE($,$,(#74));
#80=IFCSPACE('r',$,'Room',$,$,#3,#75,$,.ELEMENT.,.INTERNAL.,$);`;
    const { figures } = await take(`${prism(wall, '2.')}#60=IFCWALL('w',$,'W',$,$,#3,#52,$,$);${room}`);
    expect(figures[0]).toMatchObject({ OuterSideArea: expect.closeTo(8, 6), InnerSideArea: expect.closeTo(8, 6) });
  });
});

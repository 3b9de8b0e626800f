import { wrapIfc } from '../testing/small-file.ts';
import { takeOffIfc } from './read-model.ts';

/** Records of a closed body by its faces; corners are given by number. */
function brep(first: number, corners: readonly string[], faces: readonly (readonly number[])[]): string {
  let n = first;
  const lines: string[] = [];
  const add = (text: string) => {
    lines.push(`#${n}=${text};`);
    return n++;
  };
  const points = corners.map((c) => add(`IFCCARTESIANPOINT((${c}))`));
  const made = faces.map((face) => {
    const loop = add(`IFCPOLYLOOP((${face.map((i) => `#${points[i]}`).join()}))`);
    return add(`IFCFACE((#${add(`IFCFACEOUTERBOUND(#${loop},.T.)`)}))`);
  });
  const shell = add(`IFCCLOSEDSHELL((${made.map((f) => `#${f}`).join()}))`);
  const body = add(`IFCFACETEDBREP(#${shell})`);
  const representation = add(`IFCSHAPEREPRESENTATION(#9,'Body','Brep',(#${body}))`);
  add(`IFCPRODUCTDEFINITIONSHAPE($,$,(#${representation}))`);
  return lines.join('\n');
}

describe('a roof drawn as one body by its faces', () => {
  it('hipped over 10 x 6 m at 45°, 0.2 m thick at the eaves', async () => {
    // An upstand of 0.2 m all round below the slopes; ridge from (3, 3) to (7, 3), 3 m above the eaves.
    const corners = [0, 0.2].flatMap((z) =>
      ['0.,0.', '10.,0.', '10.,6.', '0.,6.'].map((xy) => `${xy},${z.toFixed(1)}`),
    );
    const faces = [
      [3, 2, 1, 0],
      [0, 1, 5, 4], [1, 2, 6, 5], [2, 3, 7, 6], [3, 0, 4, 7],
      [4, 5, 9, 8], [6, 7, 8, 9], [7, 4, 8], [5, 6, 9],
    ]; // biome-ignore format: one body
    const data = brep(100, [...corners, '3.,3.,3.2', '7.,3.,3.2'], faces);
    const shape = 100 + data.split('\n').length - 1;
    const read = await takeOffIfc(
      new TextEncoder().encode(wrapIfc(`${data}\n#900=IFCROOF('r',$,'Roof',$,$,#3,#${shape},$,.HIP_ROOF.);`)),
    );
    if (!read.ok) throw new Error(read.problem.message);
    const [roof] = read.value.elements;
    const figures = Object.fromEntries(roof!.quantities.map((q) => [q.name, q]));
    const near = (value: number) => ({ value: expect.closeTo(value, 4), exactness: 'mesh' });
    expect(figures).toMatchObject({
      SlopedArea: near(60 * Math.SQRT2),
      EavesLength: near(32),
      RidgeLength: near(4),
      HipLength: near(4 * Math.sqrt(27)),
      ValleyLength: near(0),
      VergeLength: near(0),
    });
  });
});

describe('a room drawn as one body by its faces', () => {
  it('L-shaped, 4 x 3 m less a corner of 2 x 1 m, 2.5 m high', async () => {
    const plan = ['0.,0.', '4.,0.', '4.,2.', '2.,2.', '2.,3.', '0.,3.'];
    const corners = ['0.', '2.5'].flatMap((z) => plan.map((xy) => `${xy},${z}`));
    const sides = plan.map((_, i) => [i, (i + 1) % 6, ((i + 1) % 6) + 6, i + 6]);
    const data = brep(100, corners, [[5, 4, 3, 2, 1, 0], [6, 7, 8, 9, 10, 11], ...sides]);
    const shape = 100 + data.split('\n').length - 1;
    const read = await takeOffIfc(
      new TextEncoder().encode(
        wrapIfc(`${data}\n#900=IFCSPACE('s',$,'Room',$,$,#3,#${shape},$,.ELEMENT.,.INTERNAL.,$);`),
      ),
    );
    if (!read.ok) throw new Error(read.problem.message);
    const figures = Object.fromEntries(read.value.elements[0]!.quantities.map((q) => [q.name, q.value]));
    const near = (value: number) => expect.closeTo(value, 4);
    expect(figures).toMatchObject({
      NetFloorArea: near(10),
      GrossPerimeter: near(14),
      NetPerimeter: near(14),
      GrossWallArea: near(35),
      Height: near(2.5),
      NetVolume: near(25),
    });
    expect(read.value.site.roomPlans).toHaveLength(1);
  });
});

import { ModelWriter } from '../testing/model-writer.ts';

/** A wall with records of its own: `#W` stands for the wall. */
async function readWall(records: (w: ModelWriter, wall: number) => void) {
  const w = new ModelWriter();
  const wall = w.element('IFCWALL', [w.extrude(w.rectangle(4, 0.2), 3)], ',$');
  records(w, wall);
  return (await w.take()).elements[0]!;
}
const give = (w: ModelWriter, wall: number, sets: string) => w.add(`IFCRELDEFINESBYPROPERTIES('d',$,$,$,(#${wall}),${sets})`); // biome-ignore format: one line
const set = (w: ModelWriter, name: string, ...properties: number[]) => w.add(`IFCPROPERTYSET('${name}',$,'${name}',$,(${properties.map((p) => `#${p}`).join()}))`); // biome-ignore format: one line

describe('properties as files have them', () => {
  it('a list in a unit of its own; a range by its bounds, by its set point; one side only', async () => {
    const e = await readWall((w, wall) => {
      const mm = w.add('IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.)');
      const list = w.add(`IFCPROPERTYLISTVALUE('Spacings',$,(IFCLENGTHMEASURE(300.),IFCLENGTHMEASURE(450.)),#${mm})`);
      const range = w.add('IFCPROPERTYBOUNDEDVALUE($,$,IFCREAL(20.),IFCREAL(10.),$,$)'.replace('($', "('Range'"));
      const point = w.add("IFCPROPERTYBOUNDEDVALUE('Point',$,IFCREAL(20.),IFCREAL(10.),$,IFCREAL(12.))");
      const most = w.add("IFCPROPERTYBOUNDEDVALUE('Most',$,IFCREAL(20.),$,$,$)");
      give(w, wall, `#${set(w, 'Own', list, range, point, most)}`);
    });
    expect(e.properties.Own).toEqual({
      Spacings: '0.3, 0.45',
      Range: '10 to 20',
      'Range.Lower': 10,
      'Range.Upper': 20,
      Point: 12,
      'Point.Lower': 10,
      'Point.Upper': 20,
      Most: 'up to 20',
      'Most.Upper': 20,
    });
  });
  it('several sets given at once', async () => {
    const e = await readWall((w, wall) => {
      const value = (name: string) => w.add(`IFCPROPERTYSINGLEVALUE('${name}',$,IFCLABEL('x'),$)`);
      const [a, b] = [set(w, 'A', value('One')), set(w, 'B', value('Two'))];
      give(w, wall, `IFCPROPERTYSETDEFINITIONSET((#${a},#${b}))`);
    });
    expect(e.properties).toMatchObject({ A: { One: 'x' }, B: { Two: 'x' } });
  });
  it('properties of the material, without its density; whose they are where there are several', async () => {
    const material = (w: ModelWriter, name: string) => {
      const id = w.add(`IFCMATERIAL('${name}',$,$)`);
      const fire = w.add("IFCPROPERTYSINGLEVALUE('Reaction',$,IFCLABEL('A1'),$)");
      const density = w.add("IFCPROPERTYSINGLEVALUE('MassDensity',$,IFCMASSDENSITYMEASURE(1800.),$)");
      w.add(`IFCMATERIALPROPERTIES('Pset_Fire',$,(#${fire},#${density}),#${id})`);
      return id;
    };
    const one = await readWall((w, wall) => void w.add(`IFCRELASSOCIATESMATERIAL('m',$,$,$,(#${wall}),#${material(w, 'Brick')})`)); // biome-ignore format: one record
    expect(one.properties).toEqual({ Pset_Fire: { Reaction: 'A1' } });
    const two = await readWall((w, wall) => {
      const list = w.add(`IFCMATERIALLIST((#${material(w, 'Brick')},#${material(w, 'Lime')}))`);
      w.add(`IFCRELASSOCIATESMATERIAL('m',$,$,$,(#${wall}),#${list})`);
    });
    expect(Object.keys(two.properties)).toEqual(['Brick: Pset_Fire', 'Lime: Pset_Fire']);
  });
  it('a code of a reference, of the one above it, and none of a system as a whole', async () => {
    const codes = (records: (w: ModelWriter) => number) =>
      readWall((w, wall) => void w.add(`IFCRELASSOCIATESCLASSIFICATION('c',$,$,$,(#${wall}),#${records(w)})`)).then((e) => e.codes); // biome-ignore format: one line
    const system = (w: ModelWriter) => w.add("IFCCLASSIFICATION('Publisher','2019','2019-01-01','Elements',$,$,$)");
    expect(await codes((w) => w.add(`IFCCLASSIFICATIONREFERENCE($,'B2010','Walls',#${system(w)},$,$)`))).toEqual([
      'B2010',
    ]);
    expect(
      await codes((w) => {
        const above = w.add(`IFCCLASSIFICATIONREFERENCE($,'B20',$,#${system(w)},$,$)`);
        return w.add(`IFCCLASSIFICATIONREFERENCE($,$,'Walls to the river',#${above},$,$)`);
      }),
    ).toEqual(['B20']);
    expect(await codes(system)).toEqual([]);
  });
  it('what layers are for, and where they lie from the reference line', async () => {
    const e = await readWall((w, wall) => {
      const layer = (name: string, use: string) =>
        w.add(`IFCMATERIALLAYER(#${w.add(`IFCMATERIAL('${name}',$,$)`)},${w.len(0.1)},$,$,$,'${use}',$)`);
      const layers = w.add(
        `IFCMATERIALLAYERSET((#${layer('Brick', 'LoadBearing')},#${layer('Wool', 'Insulation')}),$,$)`,
      );
      const usage = w.add(`IFCMATERIALLAYERSETUSAGE(#${layers},.AXIS2.,.POSITIVE.,${w.len(-0.1)},$)`);
      w.add(`IFCRELASSOCIATESMATERIAL('m',$,$,$,(#${wall}),#${usage})`);
    });
    expect(e.layers.map((l) => [l.material, l.function])).toEqual([
      ['Brick', 'LoadBearing'],
      ['Wool', 'Insulation'],
    ]);
  });
});

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  assignElementKeys,
  buildElementTable,
  explainElement,
  groupPlan,
  type ModelElement,
  readTemplate,
  runPipeline,
  templateToBasis,
} from '@tally/core';
import { nameToGlobalId, REVISIONS, writeBoathouse } from '@tally/demo';
import { type ModelTakeoff, takeOffIfc } from './read-model.ts';
import { sliceElement } from './slice-element.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const R1 = writeBoathouse(REVISIONS.R1);
async function take(text: string, stallMs?: number): Promise<ModelTakeoff> {
  const read = await takeOffIfc(bytes(text), { stallMs });
  if (!read.ok) throw new Error(read.problem.message);
  return read.value;
}
const named = (t: ModelTakeoff, name: string) => t.elements.find((e) => e.name === name)!;
const figures = (e: ModelElement, basis = 'measured') =>
  Object.fromEntries(e.quantities.filter((q) => q.basis === basis).map((q) => [q.name, q.value]));
const near = (value: number) => expect.closeTo(value, 4);

describe('the boathouse', () => {
  let r1: ModelTakeoff;
  beforeAll(async () => {
    r1 = await take(R1);
  });

  it('is read whole', () => {
    expect(r1.elements.length).toBeGreaterThanOrEqual(300);
    expect(r1.model).toMatchObject({ schema: 'IFC4', units: { lengthName: 'mm', length: 0.001 } });
  });

  it('shows its planted faults and nothing else', () => {
    const codes = r1.findings.map((f) => f.code);
    expect([...new Set(codes)].sort()).toEqual([
      'coincident',
      'density-missing',
      'duplicate-global-id',
      'floor-without-room',
      'no-storey',
      'overlap',
      'room-without-finish',
      'stated-differs',
    ]);
    const count = (code: string) => codes.filter((c) => c === code).length;
    expect([count('coincident'), count('no-storey'), count('room-without-finish')]).toEqual([1, 1, 4]);
    // The frame stands in the walls, which is told between classes only; the stair has no room on the upper floor.
    const overlaps = r1.findings.filter((f) => f.code === 'overlap');
    expect(new Set(overlaps.map((f) => f.severity))).toEqual(new Set(['notice']));
    expect(r1.findings.find((f) => f.code === 'floor-without-room')!.message).toContain('Upper floor 13.18 m2');
    expect(r1.findings.find((f) => f.code === 'coincident')!.globalIds).toHaveLength(2);
    expect(r1.findings.find((f) => f.code === 'stated-differs')!.message).toContain(
      'NetSideArea 158.4 stated, 15.84 measured',
    );
  });

  it('a wall with a window: identity, layers, opening', () => {
    const wall = named(r1, 'Outer wall north G2');
    // 4.8 x 3.6 = 17.28 m2; the window takes 1.2 x 1.2 = 1.44.
    expect(figures(wall)).toMatchObject({
      Length: near(4.8),
      Height: near(3.6),
      Width: near(0.3),
      GrossSideArea: near(17.28),
      NetSideArea: near(15.84),
      NetVolume: near(4.752),
    });
    expect(figures(wall, 'stated')).toMatchObject({ NetSideArea: near(15.84), Length: near(4.8) });
    expect(wall).toMatchObject({
      ifcClass: 'IfcWall',
      typeName: 'Outer wall timber-clad 300',
      storey: 'Ground floor',
      codes: ['B2010'],
      properties: { Pset_WallCommon: { IsExternal: true, FireRating: 'EI30' } },
    });
    expect(wall.layers.map((l) => [l.material, l.thickness])).toEqual([
      ['Larch boards', near(0.025)],
      ['Battens and cavity', near(0.035)],
      ['Wood fibre board', near(0.04)],
      ['Timber frame insulated', near(0.185)],
      ['Gypsum board', near(0.015)],
    ]);
    expect(wall.layers.reduce((sum, l) => sum + l.volume!, 0)).toBeCloseTo(4.752, 6);
    expect(wall.openings).toEqual([
      {
        globalId: expect.any(String),
        width: near(1.2),
        height: near(1.2),
        area: near(1.44),
        perimeter: near(4.8),
        sill: near(0.9),
        filledBy: named(r1, 'Window outer.north.0.1.1').globalId,
      },
    ]);
    expect(named(r1, 'Window outer.north.0.1.1')).toMatchObject({ host: wall.globalId, storey: 'Ground floor' });
  });

  it.each<[string, Record<string, number>]>([
    // I 200 x 200 x 9 x 15 r 18: 7.530e-3 + (4 - pi) x 3.24e-4 = 7.8081e-3 m2; 6.6 m; 7850 kg/m3.
    ['Column 1A', { Length: 6.6, CrossSectionArea: 0.0078081, NetVolume: 0.0515336, Weight: 404.5389 }],
    ['Entrance column', { Length: 3.6, CrossSectionArea: Math.PI * 0.175 ** 2, NetVolume: Math.PI * 0.175 ** 2 * 3.6 }],
    // Drain of 0.6 m in the second bay: 69.12 - pi 0.09.
    ['Ground slab bay 2', { GrossArea: 69.12, NetArea: 69.12 - Math.PI * 0.09, Depth: 0.37, Perimeter: 38.4 }],
    ['Strip 1', { Length: 3.4, Width: 0.6, Height: 0.4, NetVolume: 0.816 }],
    // Run of the roof: (7.2 + 0.6) x sqrt(1 + 0.25) = 8.72067 m.
    ['Roof south 1', { GrossArea: 8.720665 * 4.8, Depth: 0.3 }],
    // The rooflight takes 1.18 x 1.4.
    ['Roof north 2', { NetArea: 8.720665 * 4.8 - 1.652 }],
    ['Gable west', { GrossSideArea: 24.48, NetVolume: 7.344, Length: 14.4, Height: 3.4 }],
    // The same gable cut by two planes: exact box x share of the mesh.
    ['Gable east', { GrossSideArea: 24.48, NetVolume: 7.344, Length: 14.4, Height: 3.4 }],
    ['Boat hall', { NetFloorArea: 14.15 * 14.1, GrossPerimeter: 56.5, Height: 3.4 }],
    ['Boat-bay door outer.south.0.0', { Width: 3.6, Height: 3, Area: 10.8, Perimeter: 13.2 }],
    ['Locker A1', { Length: 0.5, Width: 0.3, Height: 1.8, NetVolume: 0.27 }],
  ])('%s measures as by hand', (name, expected) => {
    expect(figures(named(r1, name))).toMatchObject(
      Object.fromEntries(Object.entries(expected).map(([k, v]) => [k, near(v)])),
    );
  });

  it('rooms, storeys, roof and junctions as by hand', () => {
    // 2 x (14.15 + 14.1) x 3.4 = 192.1; three boat doors 3.6 x 3, doors 1.8 and 0.9 x 2.1 in the
    // block wall, two north windows 1.2 x 1.2: 32.4 + 5.67 + 2.88.
    const hall = figures(named(r1, 'Boat hall'));
    expect(hall).toMatchObject({
      GrossWallArea: near(192.1),
      NetWallArea: near(192.1 - 40.95),
      NetPerimeter: near(56.5 - 10.8 - 2.7),
      // Boards of 15 mm on the three outer walls, none on the block wall: 14.165 x 14.13 m.
      StructuralFloorArea: near(14.165 * 14.13),
      StructuralPerimeter: near(56.59),
      StructuralWallArea: near(56.59 * 3.4 - 40.95),
    });
    expect(named(r1, 'Boat hall').finishes).toEqual({
      floor: 'Sealed screed',
      wall: null,
      ceiling: null,
      skirting: null,
    });
    // Six bays of 4.8 x 14.4 m; upstairs the panels without the stair well.
    expect(r1.storeys).toMatchObject([
      { name: 'Foundations', elevation: near(-0.8), gfa: null },
      { name: 'Ground floor', elevation: 0, gfa: near(414.72), gfaMethod: 'slabs' },
      { name: 'Upper floor', elevation: near(3.6), gfa: near(397.44), gfaMethod: 'slabs' },
      { name: 'Roof', elevation: near(6.6), gfa: null },
    ]);
    // Two slopes of 8.720665 m over six bays.
    expect(figures(named(r1, 'Main roof'))).toMatchObject({
      SlopedArea: near(2 * 8.720665 * 28.8),
      EavesLength: near(57.6),
      RidgeLength: near(28.8),
      VergeLength: near(4 * 8.720665),
      HipLength: 0,
      ValleyLength: 0,
    });
    expect(figures(named(r1, 'Roof south 1')).Pitch).toBeCloseTo(26.5651, 4);
    // Whole and parts: the stair weighs what its flights and landing weigh.
    const parts = r1.elements.filter((e) => e.parent === named(r1, 'Main stair').globalId);
    expect(figures(named(r1, 'Main stair')).NetVolume).toBeCloseTo(
      parts.reduce((sum, p) => sum + figures(p).NetVolume!, 0),
      9,
    );
    // Sums over walls are the whole; the gables, one partition and the river wall end free.
    const sum = (name: string) => r1.elements.reduce((total, e) => total + (figures(e)[name] ?? 0), 0);
    expect([sum('Corners'), sum('Tees'), sum('Crosses'), sum('FreeEnds')]).toEqual([11, 29, 0, 7]);
    expect(r1.junctions.total).toEqual({ corners: 11, tees: 29, crosses: 0, freeEnds: 7 });
  });

  it('what stands around the house, as by hand', async () => {
    // Quarter circle of 6 m radius: 3 pi long, 0.3 thick, 1.2 high.
    expect(figures(named(r1, 'River wall'))).toMatchObject({
      Length: near(3 * Math.PI),
      Width: near(0.3),
      GrossSideArea: near(3.6 * Math.PI),
      NetVolume: near(1.08 * Math.PI),
      FreeEnds: 2,
    });
    // Frustum of 1.6 and 0.8 m sides, 3 m: 3 / 3 x (2.56 + 0.64 + 1.28) = 4.48 m3.
    expect(figures(named(r1, 'Mooring pier')).NetVolume).toBeCloseTo(4.48, 4);
    // At the levels of foundations and ground floor it is 0.2 and 1 m up (and 1 mm): 1.6 - 0.8 x height / 3 wide.
    const [low, side] = [1.6 - (0.8 * 0.201) / 3, 1.6 - (0.8 * 1.001) / 3] as const;
    const pier = await sliceElement(bytes(R1), r1, named(r1, 'Mooring pier').globalId);
    expect(pier).toMatchObject({
      value: [
        { storey: 'Foundations', area: expect.closeTo(low * low, 4) },
        { storey: 'Ground floor', area: expect.closeTo(side * side, 4), perimeter: expect.closeTo(4 * side, 4) },
      ],
    });
    // Hipped over 6 x 4 m at 45°: ridge 2, four hips of 2 x sqrt 3, eaves 20, 24 x sqrt 2 of slopes.
    expect(figures(named(r1, 'Shelter roof'))).toMatchObject({
      RidgeLength: near(2),
      HipLength: near(8 * Math.sqrt(3)),
      EavesLength: near(20),
      VergeLength: near(0),
      SlopedArea: near(24 * Math.SQRT2),
    });
    expect(figures(named(r1, 'Porch roof'))).toMatchObject({ NetArea: near(11.52), EdgesArea: near(3.6) });
    // Tube 48.3 x 3.2: pi x (0.02415^2 - 0.02095^2) x 6 m x 7850 kg/m3.
    expect(figures(named(r1, 'Slipway railing 1')).Weight).toBeCloseTo(
      Math.PI * (0.02415 ** 2 - 0.02095 ** 2) * 6 * 7850,
      4,
    );
  });

  it('a gable cut above the eaves', async () => {
    // At 1 mm above its foot the gable is 14.4 - 2 x 0.001 / slope wide and 0.3 thick.
    const slices = await sliceElement(bytes(R1), r1, named(r1, 'Gable east').globalId);
    if (!slices.ok) throw new Error(slices.problem.message);
    const width = 14.4 - (2 * 0.001 * 7.2) / 3.4;
    expect(slices.value).toEqual([
      {
        storey: 'Roof',
        elevation: near(6.6),
        area: expect.closeTo(width * 0.3, 3),
        perimeter: expect.closeTo(2 * (width + 0.3), 3),
      },
    ]);
    expect((await sliceElement(bytes(R1), r1, 'none')).ok).toBe(false);
    // The round column stands on the ground floor: exact, not by chords.
    const column = await sliceElement(bytes(R1), r1, named(r1, 'Entrance column').globalId);
    expect(column).toMatchObject({ value: [{ storey: 'Ground floor', area: near(Math.PI * 0.175 ** 2) }] });
  });

  it('parts sit on the storey of their whole; zones and rooms are read', () => {
    expect(named(r1, 'Landing')).toMatchObject({ parent: named(r1, 'Main stair').globalId, storey: 'Ground floor' });
    expect(named(r1, 'Showers A').zones).toEqual(['Wet areas']);
    expect(named(r1, 'Club room').properties).toEqual({
      Class: { PredefinedType: 'INTERNAL' },
      Pset_SpaceCoveringRequirements: { FloorCovering: 'Oak boards', WallCovering: 'Paint' },
    });
  });

  it('follows one wall from the file to the plan', () => {
    const template = readTemplate(JSON.parse(readFileSync(join(__dirname, '../../../../demo/template.json'), 'utf8')));
    if (!template.ok) throw new Error(template.problem.message);
    const basis = templateToBasis(template.value);
    const built = buildElementTable(r1.elements);
    const table = { ...built, keys: assignElementKeys(null, built, 1).keys };
    const plan = runPipeline(basis, [{ sourceId: 'model', table }]);
    const key = table.keys[r1.elements.indexOf(named(r1, 'Block wall G4'))]!;
    const explained = explainElement(plan, key)!;
    // Block wall G4: (7.2 - 0.15) x 3.4 = 23.97 m2, no opening.
    // Blocks 239.7 + 4 % = 249.288 x 3.15 = 785.2572; mortar 23.97 x 22 / 25 = 21.0936 + 6 % = 22.359216 x 6.40 = 143.0989824;
    // ties 59.925 + 5 % = 62.92125 x 0.38 = 23.910075; mason 17.9775 x 46.10 = 828.76275.
    // Both sides, 47.94 m2: primer 5.7528 l + 5 % x 7.20 = 43.491168; two coats of lime wash 13.4232 l + 5 % x 4.10 = 57.786876;
    // painter 47.94 / 11 x 2 = 8.716364 h x 39.70 = 346.039636.
    expect(explained.lines.map((l) => [l.code, Number((l.amount! / 1e6).toFixed(6))])).toEqual([
      ['M-BLK', 785.2572],
      ['M-MOR', 143.098982],
      ['M-TIE', 23.910075],
      ['L-MAS', 828.76275],
      ['M-PRIM', 43.491168],
      ['M-COAT', 57.786876],
      ['L-PNT', 346.039636],
    ]);
    expect(explained).toMatchObject({ state: 'priced', amount: 2_228_346_687 });
    const storeys = groupPlan(plan, ['storey'], basis);
    expect(storeys.minor).toBe(groupPlan(plan, ['section', 'type'], basis).minor);
    expect(plan.counts).toEqual({ priced: 415, leftOut: 10, unpriced: 16, partly: 0 });
  });
});

/** The id of the record of an element by its key in the demo. */
const recordOf = (text: string, key: string) =>
  Number(new RegExp(`#(\\d+)=\\w+\\('${nameToGlobalId(`heron-wharf/${key}`).replaceAll('$', '\\$')}'`).exec(text)![1]);
const replaceRecord = (text: string, id: number, change: (record: string) => string) =>
  text.replace(new RegExp(`^#${id}=.*$`, 'm'), change);

describe('damaged files', () => {
  it('a cut-off file gives what it holds, and says so', async () => {
    const cut = await take(R1.slice(0, R1.length * 0.6));
    expect(cut.findings[0]).toMatchObject({ code: 'file-truncated', severity: 'error' });
  });
  it('a record with missing arguments costs its element the shape only', async () => {
    const shape = Number(/IFCSHAPEREPRESENTATION\(#\d+,'Body','SweptSolid',\(#\d+\)\);/.exec(R1)!.index);
    const id = Number(/#(\d+)=$/.exec(R1.slice(0, shape))![1]);
    const broken = await take(replaceRecord(R1, id, () => `#${id}=IFCSHAPEREPRESENTATION(#1,'Body','SweptSolid');`));
    expect(broken.elements.length).toBe(441);
    expect(broken.findings.map((f) => f.code)).toEqual(expect.arrayContaining(['file-record-damaged', 'no-geometry']));
  });
  it('a boolean that refers to itself ends quickly', async () => {
    const id = Number(/#(\d+)=IFCBOOLEANCLIPPINGRESULT/.exec(R1)![1]);
    const start = Date.now();
    const looped = await take(
      replaceRecord(R1, id, (r) => r.replace(/#\d+,#(\d+)\);$/, `#${id},#$1);`)),
      3000,
    );
    expect(Date.now() - start).toBeLessThan(30_000);
    expect(looped.findings.find((f) => f.code === 'file-record-damaged')!.message).toContain('refers to itself');
    expect(figures(named(looped, 'Gable east')).NetVolume).toBeUndefined();
  });
  it('placements in a circle, missing units, duplicate ids: told, not fatal', async () => {
    const id = Number(/#(\d+)=IFCLOCALPLACEMENT\(\$/.exec(R1)![1]);
    const circle = await take(replaceRecord(R1, id, (r) => r.replace('($', `(#${id}`)));
    expect(circle.findings.some((f) => f.message.includes('circle'))).toBe(true);
    const unitless = await take(R1.replace(/=IFCUNITASSIGNMENT\(.*\);/, '=IFCUNITASSIGNMENT(());'));
    expect(unitless.findings.map((f) => f.code)).toContain('unit-assumed');
    const doubled = await take(R1.replace('ENDSEC;\nEND-ISO', '#1=IFCDIRECTION((1.,0.));\nENDSEC;\nEND-ISO'));
    expect(doubled.findings.map((f) => f.code)).toContain('file-duplicate-id');
  });
  it('an element without shape or storey, and one with a negative stated volume', async () => {
    const wall = recordOf(R1, 'outer/north/0/1');
    const bare = await take(
      replaceRecord(R1, wall, (r) => r.replace(/^(#\d+=IFCWALL\('[^']*',#\d+,'[^']*',\$,\$,#\d+,)#\d+/, '$1$')),
    );
    expect(bare.findings.map((f) => f.code)).toContain('no-geometry');
    const negative = await take(
      R1.replace("IFCQUANTITYVOLUME('NetVolume',$,$,4.752,$)", "IFCQUANTITYVOLUME('NetVolume',$,$,-4.752,$)"),
    );
    expect(negative.findings.map((f) => f.code)).toContain('volume-not-positive');
  });
  it('a name of 200,000 signs is only a name', async () => {
    const long = await take(R1.replace("'Block wall G4'", `'${'x'.repeat(200_000)}'`));
    expect(long.findings.map((f) => f.code)).not.toContain('geometry-stalled');
    expect(figures(named(long, 'Gable east')).NetVolume).toBeCloseTo(7.344, 4);
  });
  it('random damage never throws and never hangs', async () => {
    let seed = 12345;
    const random = (n: number) => {
      seed = (seed * 1103515245 + 12345) % 2 ** 31;
      return seed % n;
    };
    const small = writeBoathouse(REVISIONS.R3);
    for (let i = 0; i < 6; i++) {
      const at = 2000 + random(small.length - 4000);
      const hurt =
        i % 3 === 0
          ? small.slice(0, at) + small.slice(at + 1 + random(40))
          : i % 3 === 1
            ? `${small.slice(0, at)}#${random(5000)}${small.slice(at + 3)}`
            : small.slice(0, at) + String.fromCharCode(33 + random(90)) + small.slice(at + 1);
      const read = await takeOffIfc(bytes(hurt), { stallMs: 1500 });
      expect(read.ok ? read.value.elements.length : read.problem.message.length).toBeGreaterThan(0);
    }
  });
});

describe('other units and schemas', () => {
  it('an IFC2X3 file in feet: a wall 10 x 1 x 8 ft', async () => {
    const text = `ISO-10303-21;
HEADER;
FILE_SCHEMA(('IFC2X3'));
ENDSEC;
DATA;
#1=IFCCARTESIANPOINT((0.,0.,0.));
#2=IFCAXIS2PLACEMENT3D(#1,$,$);
#3=IFCLOCALPLACEMENT($,#2);
#10=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);
#11=IFCMEASUREWITHUNIT(IFCLENGTHMEASURE(0.3048),#10);
#12=IFCDIMENSIONALEXPONENTS(1,0,0,0,0,0,0);
#13=IFCCONVERSIONBASEDUNIT(#12,.LENGTHUNIT.,'FOOT',#11);
#14=IFCUNITASSIGNMENT((#13));
#15=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,$,#2,$);
#16=IFCPROJECT('p',$,'P',$,$,$,$,(#15),#14);
#20=IFCCARTESIANPOINT((5.,0.));
#21=IFCAXIS2PLACEMENT2D(#20,$);
#22=IFCRECTANGLEPROFILEDEF(.AREA.,$,#21,10.,1.);
#23=IFCDIRECTION((0.,0.,1.));
#24=IFCEXTRUDEDAREASOLID(#22,#2,#23,8.);
#25=IFCSHAPEREPRESENTATION(#15,'Body','SweptSolid',(#24));
#26=IFCPRODUCTDEFINITIONSHAPE($,$,(#25));
#30=IFCWALLSTANDARDCASE('w',$,'Wall',$,'Brick wall',#3,#26,'T1');
#31=IFCPROPERTYSINGLEVALUE('Length',$,IFCLENGTHMEASURE(10.),$);
#32=IFCPROPERTYSET('s',$,'Custom',$,(#31));
#33=IFCRELDEFINESBYPROPERTIES('r',$,$,$,(#30),#32);
ENDSEC;
END-ISO-10303-21;`;
    const model = await take(text);
    expect(model.model.units).toMatchObject({ lengthName: 'ft', length: 0.3048 });
    const wall = named(model, 'Wall');
    expect(wall).toMatchObject({
      ifcClass: 'IfcWallStandardCase',
      typeName: 'Brick wall',
      tag: 'T1',
      storey: null,
      properties: { Custom: { Length: near(3.048) } },
    });
    expect(figures(wall)).toMatchObject({
      Length: near(3.048),
      Height: near(2.4384),
      NetSideArea: near(3.048 * 2.4384),
      NetVolume: near(3.048 * 2.4384 * 0.3048),
    });
  });
});

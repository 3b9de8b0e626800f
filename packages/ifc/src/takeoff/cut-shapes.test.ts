import type { Vector2, Vector3 } from '@tally/core';
import { ModelWriter, PLAIN } from '../testing/model-writer.ts';

const near = (value: number, share = 0.005) => ({
  asymmetricMatch: (found: number) => Math.abs(found - value) <= share * Math.abs(value) + 1e-9,
  toString: () => `within ${share * 100} % of ${value}`,
});
const figuresOf = async (w: ModelWriter, index = 0) => {
  const { elements, findings, site, storeys } = await w.take();
  const measured = elements[index]!.quantities.filter((q) => q.basis === 'measured');
  return {
    elements,
    site,
    storeys,
    findings,
    codes: findings.map((f) => f.code),
    figures: Object.fromEntries(measured.map((q) => [q.name, q.value])),
    exactness: Object.fromEntries(measured.map((q) => [q.name, q.exactness])),
  };
};
const box = (w: ModelWriter, x: number, y: number, z: number, at: Vector3 = [0, 0, 0]) =>
  w.extrude(w.rectangle(x, y), z, w.axis3(at));

describe('profiles that are cut: exact figure x what is left of it, both meshed alike', () => {
  /** Cuts off what lies above 1 m of a solid 4 m high. */
  const cut = (w: ModelWriter, profile: number) => {
    const plane = w.add(`IFCPLANE(#${w.axis3([0, 0, 1], [0, 0, 1])})`);
    const half = w.add(`IFCHALFSPACESOLID(#${plane},.F.)`);
    return w.add(`IFCBOOLEANCLIPPINGRESULT(.DIFFERENCE.,#${w.extrude(profile, 4)},#${half})`);
  };
  const fillet = (4 - Math.PI) * 0.018 ** 2;
  it.each<[string, (w: ModelWriter) => number, number]>([
    ['I with fillets', (w) => w.add(`IFCISHAPEPROFILEDEF(.AREA.,$,#${w.axis2()},0.2,0.2,0.009,0.015,0.018,$,$)`), 2 * 0.2 * 0.015 + 0.17 * 0.009 + fillet],
    ['I with rounded edges', (w) => w.add(`IFCISHAPEPROFILEDEF(.AREA.,$,#${w.axis2()},0.2,0.2,0.009,0.015,0.018,0.005,$)`), 2 * 0.2 * 0.015 + 0.17 * 0.009 + fillet - (4 - Math.PI) * 0.005 ** 2],
    ['hollow', (w) => w.add(`IFCRECTANGLEHOLLOWPROFILEDEF(.AREA.,$,#${w.axis2()},0.15,0.1,0.01,0.01,0.02)`), 0.15 * 0.1 - 0.13 * 0.08 - (4 - Math.PI) * (0.02 ** 2 - 0.01 ** 2)],
    ['L with fillet', (w) => w.add(`IFCLSHAPEPROFILEDEF(.AREA.,$,#${w.axis2()},0.12,0.08,0.01,0.012,0.006,$)`), 0.01 * 0.19 + (1 - Math.PI / 4) * (0.012 ** 2 - 2 * 0.006 ** 2)],
    ['Z', (w) => w.add(`IFCZSHAPEPROFILEDEF(.AREA.,$,#${w.axis2()},0.2,0.08,0.008,0.01,$,$)`), 2 * 0.08 * 0.01 + 0.18 * 0.008],
    ['round', (w) => w.circle(0.25), Math.PI * 0.0625],
    ['square', (w) => w.rectangle(0.3, 0.2), 0.06],
  ])('%s', async (name, profile, areaM2) => {
    const isCurved = !['Z', 'square'].includes(name);
    const w = new ModelWriter();
    w.element('IFCCOLUMN', [cut(w, profile(w))], ',$');
    const { figures, exactness } = await figuresOf(w);
    expect(figures.NetVolume).toEqual(near(areaM2));
    expect(figures).toMatchObject({ Length: near(1), CrossSectionArea: near(areaM2, 1e-4) });
    expect(exactness).toMatchObject({ NetVolume: isCurved ? 'mesh' : 'exact', CrossSectionArea: 'exact' });
  }); // biome-ignore format: one table
});

describe('openings', () => {
  it('drawn by their faces are measured as those that are swept', async () => {
    const w = new ModelWriter();
    const wall = w.element('IFCWALL', [box(w, 6, 0.3, 3)], ',$');
    w.opening(wall, [w.prismFaces([[-0.5, -0.4], [0.5, -0.4], [0.5, 0.4], [-0.5, 0.4]], 2)]); // biome-ignore format: one record
    const { figures, elements, codes } = await figuresOf(w);
    expect(elements[0]!.openings[0]).toMatchObject({ width: near(1), height: near(2), area: near(2), perimeter: near(6), sill: 0 }); // biome-ignore format: one opening
    expect(figures).toMatchObject({ GrossSideArea: near(18), NetSideArea: near(16), SidesArea: near(32), EndsArea: near(1.8), BottomArea: near(1.5), NetVolume: near(4.8) }); // biome-ignore format: one wall
    expect(codes).not.toContain('opening-not-measured');
  });
  it('that are splayed have no one size; their wall is measured with them cut out', async () => {
    const w = new ModelWriter();
    const wall = w.element('IFCWALL', [box(w, 6, 0.4, 3)], ',$');
    // 1 x 1 m outside, 2 x 1 m inside, from 1 m up.
    const outline: Vector2[] = [[-0.5, -0.2], [0.5, -0.2], [1, 0.2], [-1, 0.2]]; // biome-ignore format: one outline
    w.opening(wall, [w.prismFaces(outline, 1, ([x, y, z]) => [x, y, z + 1])]);
    const { figures, elements, codes } = await figuresOf(w);
    expect(codes).toContain('opening-not-measured');
    expect(elements[0]!.openings[0]).toMatchObject({ width: null, height: null });
    // Sides 18 - 1 and 18 - 2, body 7.2 - 1.5 x 0.4.
    expect(figures).toMatchObject({ SidesArea: near(33), NetVolume: near(6.6) });
  });
  it('in a curved wall: as wide as they are, both sides by what is left', async () => {
    const w = new ModelWriter();
    const [r, t, turn] = [5, 0.3, Math.PI / 2];
    const wall = w.element('IFCWALL', [w.extrude(w.sector(r + t, r, turn), 3)], ',$');
    const [cos, sin] = [Math.cos(turn / 2), Math.sin(turn / 2)];
    // A box of 1 m across and 2 m high in the middle of the wall, drawn along the radius.
    const frame = w.axis3([4.5 * cos, 4.5 * sin, 1], [cos, sin, 0], [0, 0, 1]);
    w.opening(wall, [w.extrude(w.rectangle(2, 1), 1.5, frame)]);
    const { figures, elements } = await figuresOf(w);
    expect(elements[0]!.openings[0]).toMatchObject({ width: near(1), height: near(2), area: near(2) });
    // On each side the chord of 1 m cuts out an arc of 2·asin(0.5 / radius).
    const arc = (radius: number) => 2 * radius * Math.asin(0.5 / radius);
    const sides = (2 * r + t) * turn * 3 - 2 * (arc(r) + arc(r + t));
    expect(figures).toMatchObject({ Length: near((r + t / 2) * turn, 1e-3), SidesArea: near(sides), NetSideArea: near(sides / 2), EndsArea: near(1.8) }); // biome-ignore format: one wall
  });
  it('beside a hole of the profile of a slab: both are taken out', async () => {
    const w = new ModelWriter();
    const square = (x: number, y: number, s: number): Vector2[] => [[x, y], [x + s, y], [x + s, y + s], [x, y + s]]; // biome-ignore format: one outline
    const slab = w.element('IFCSLAB', [w.extrude(w.outline(square(0, 0, 8), [square(1, 1, 2)]), 0.2)], ',$');
    w.opening(slab, [box(w, 1, 1, 1, [6, 6, -0.5])]);
    // A second one that sticks out over the edge by half.
    w.opening(slab, [box(w, 1, 1, 1, [8, 4, -0.5])]);
    const { figures, exactness } = await figuresOf(w);
    expect(figures).toMatchObject({ GrossArea: near(60, 1e-6), NetArea: near(58.5, 1e-6), TopArea: near(58.5, 1e-6), NetVolume: near(11.7, 1e-6) }); // biome-ignore format: one slab
    expect(exactness.NetArea).toBe('exact');
  });
  it('larger than their wall leave nothing, and no figure below nothing', async () => {
    const w = new ModelWriter();
    const wall = w.element('IFCWALL', [box(w, 4, 0.3, 3)], ',$');
    w.opening(wall, [box(w, 10, 1, 9, [0, 0, -1])]);
    const { figures, codes } = await figuresOf(w);
    expect(figures).toMatchObject({ GrossVolume: near(3.6) });
    expect(figures).not.toHaveProperty('NetVolume');
    expect(codes).toContain('volume-not-positive');
  });
});

describe('rooms', () => {
  it('under a roof: its floor, its true walls', async () => {
    const w = new ModelWriter();
    // 4 x 3 m, 1 m high at the eaves and 3 m at the ridge along the middle of the 4 m.
    const gable: Vector2[] = [[0, 0], [4, 0], [4, 1], [2, 3], [0, 1]]; // biome-ignore format: one gable
    w.space([w.prismFaces(gable, 3, ([x, y, z]) => [x, 3 - z, y])]);
    const { figures } = await figuresOf(w);
    // Gables 4 x 1 + 4 x 2 / 2 = 8 each, knee walls 3 each.
    expect(figures).toMatchObject({ NetFloorArea: near(12), GrossWallArea: near(22), GrossPerimeter: near(14), GrossCeilingArea: near(12), NetVolume: near(24) }); // biome-ignore format: one room
  });
  it('with columns in it: their edges are edges of the room', async () => {
    const square = (x: number, y: number, s: number): Vector2[] => [[x, y], [x + s, y], [x + s, y + s], [x, y + s]]; // biome-ignore format: one outline
    const w = new ModelWriter();
    w.space([w.extrude(w.outline(square(0, 0, 6), [square(1, 1, 0.4), square(4, 4, 0.4)]), 3)]);
    const { figures, site } = await figuresOf(w);
    expect(figures).toMatchObject({ NetFloorArea: near(35.68, 1e-6), GrossPerimeter: near(27.2, 1e-6), GrossWallArea: near(81.6, 1e-6), NetPerimeter: near(27.2, 1e-6) }); // biome-ignore format: one room
    expect(site.roomPlans![0]!.holes).toHaveLength(2);
  });
  it('of two bodies: one floor, no wall between them', async () => {
    const w = new ModelWriter();
    w.space([box(w, 4, 3, 2.5, [2, 1.5, 0]), box(w, 2, 3, 2.5, [5, 1.5, 0])]);
    const { figures } = await figuresOf(w);
    expect(figures).toMatchObject({ NetFloorArea: near(18, 1e-6), GrossPerimeter: near(18, 1e-6), GrossWallArea: near(45, 1e-6), NetVolume: near(45, 1e-6) }); // biome-ignore format: one room
    // One part lower than the other: above it is wall.
    const stepped = new ModelWriter();
    stepped.space([box(stepped, 4, 3, 3, [2, 1.5, 0]), box(stepped, 2, 3, 2, [5, 1.5, 0])]);
    const second = await figuresOf(stepped);
    expect(second.figures).toMatchObject({ NetFloorArea: near(18), GrossPerimeter: near(18), GrossWallArea: near(11 * 3 + 7 * 2 + 3), NetVolume: near(48) }); // biome-ignore format: one room
  });
  it('a niche takes from the room on its side only', async () => {
    const w = new ModelWriter();
    const wall = w.element('IFCWALL', [box(w, 6, 0.4, 3)], ',$');
    // 1 m wide, 2 m high, 0.1 m deep into the side of y = 0.2; the opening reaches far out of the wall.
    w.opening(wall, [box(w, 1, 1.1, 2, [0, 0.65, 0])]);
    w.space([box(w, 6, 4, 3, [0, 2.2, 0])]);
    w.space([box(w, 6, 4, 3, [0, -2.2, 0])]);
    const { elements } = await figuresOf(w);
    const of = (i: number, name: string) => elements[i]!.quantities.find((q) => q.name === name)!.value;
    expect([of(1, 'NetWallArea'), of(1, 'NetPerimeter')]).toEqual([near(58), near(19)]);
    expect([of(2, 'NetWallArea'), of(2, 'NetPerimeter')]).toEqual([near(60), near(20)]);
  });
  it('areas drawn for counting and groups of rooms do not double the floor', async () => {
    const w = new ModelWriter();
    const [a, b] = [w.space([box(w, 4, 3, 3)]), w.space([box(w, 4, 3, 3, [4, 0, 0])])];
    const group = w.space([box(w, 8, 3, 3, [2, 0, 0])], '.COMPLEX.,.INTERNAL.');
    w.add(`IFCRELAGGREGATES('g',$,$,$,#${group},(#${a},#${b}))`);
    const { storeys, codes } = await figuresOf(w);
    expect(storeys[0]).toMatchObject({ gfa: near(24), gfaMethod: 'spaces' });
    expect(codes).not.toContain('rooms-overlap');
    const gross = new ModelWriter();
    gross.space([box(gross, 4, 3, 3)]);
    gross.space([box(gross, 4.4, 3.4, 3)], '.ELEMENT.,.GFA.');
    const second = await figuresOf(gross);
    expect(second.storeys[0]).toMatchObject({ gfa: near(4.4 * 3.4), gfaMethod: 'gross-spaces' });
    expect(second.codes.filter((c) => c === 'room-without-finish')).toHaveLength(1);
  });
});

describe('walls that are drawn by a face', () => {
  it('meet as those that are drawn by their middle: the axis moves to the middle of the body', async () => {
    const w = new ModelWriter();
    // A long wall of 0.4 m whose axis runs along its face, and one that ends at the other face.
    w.element('IFCWALL', [w.extrude(w.rectangle(8, 0.4, [4, 0.2]), 3)], ',$', { axis: [[0, 0], [8, 0]] }); // biome-ignore format: one record
    w.element('IFCWALL', [w.extrude(w.rectangle(0.4, 3, [4.2, 1.9]), 3)], ',$', { axis: [[4, 0.4], [4, 3.4]] }); // biome-ignore format: one record
    const { elements } = await figuresOf(w);
    const count = (i: number, name: string) => elements[i]!.quantities.find((q) => q.name === name)!.value;
    expect([count(0, 'Tees') + count(1, 'Tees'), count(0, 'FreeEnds'), count(1, 'FreeEnds')]).toEqual([1, 2, 1]);
  });
});

describe('roofs', () => {
  it('a slab that belongs to no roof has edges of its own; a roof of one body its pitch and each slope', async () => {
    const w = new ModelWriter({
      ...PLAIN,
      frame: { at: [0, 0, 0], z: [0, -Math.SQRT1_2, Math.SQRT1_2], x: [1, 0, 0] },
    });
    w.element('IFCSLAB', [w.extrude(w.rectangle(10, 4), 0.2)], ',.ROOF.');
    const { figures } = await figuresOf(w);
    expect(figures).toMatchObject({ Pitch: near(45), SlopedArea: near(40), EavesLength: near(10), RidgeLength: near(10), VergeLength: near(8) }); // biome-ignore format: one roof
    const whole = new ModelWriter();
    const gable: Vector2[] = [[0, 0], [6, 0], [3, 3]]; // biome-ignore format: one gable
    whole.element('IFCROOF', [whole.prismFaces(gable, 10, ([x, y, z]) => [x, 10 - z, y])], ',.GABLE_ROOF.');
    const second = await figuresOf(whole);
    expect(second.figures).toMatchObject({ Pitch: near(45), SlopedArea: near(60 * Math.SQRT2), RidgeLength: near(10), GrossArea: near(60 * Math.SQRT2) }); // biome-ignore format: one roof
    expect(second.site.roofSlopes).toEqual([
      expect.objectContaining({ pitch: near(45), area: near(30 * Math.SQRT2) }),
      expect.objectContaining({ pitch: near(45), area: near(30 * Math.SQRT2) }),
    ]);
  });
});

describe('storeys', () => {
  it('of one name in two buildings are two storeys', async () => {
    const w = new ModelWriter();
    const slabs = [0, 20].map((x) => w.element('IFCSLAB', [box(w, 10, 10, 0.2, [x, 0, -0.2])], ',.FLOOR.'));
    const text = w.finish().replace(/#\d+=IFCRELCONTAINED.*\n/, '');
    const own = ['A', 'B'].map((name, i) => `#${9000 + i}=IFCBUILDING('b${i}',$,'House ${name}',$,$,$,$,$,.ELEMENT.,$,$,$);
#${9010 + i}=IFCBUILDINGSTOREY('l${i}',$,'Level 1',$,$,$,$,$,.ELEMENT.,0.);
#${9020 + i}=IFCRELAGGREGATES('r${i}',$,$,$,#${9000 + i},(#${9010 + i}));
#${9030 + i}=IFCRELCONTAINEDINSPATIALSTRUCTURE('k${i}',$,$,$,(#${slabs[i]}),#${9010 + i});`).join('\n'); // biome-ignore format: records
    w.finish = () => text.replace('ENDSEC;\nEND-ISO', `${own}\nENDSEC;\nEND-ISO`);
    const { storeys, elements } = await figuresOf(w);
    expect(storeys.filter((s) => s.gfa !== null).map((s) => [s.name, s.gfa])).toEqual([
      ['Level 1 (House A)', near(100)],
      ['Level 1 (House B)', near(100)],
    ]);
    expect(elements.map((e) => e.storey)).toEqual(['Level 1 (House A)', 'Level 1 (House B)']);
  });
});

describe('numbers and directions that no building has', () => {
  it.each<[string, (w: ModelWriter) => void, string]>([
    ['a coordinate of 1e300', (w) => void w.element('IFCWALL', [w.extrude(w.outline([[0, 0], [1e300, 0], [1e300, 1], [0, 1]]), 3)], ',$'), 'size-out-of-range'],
    ['a wall 300 km long', (w) => void w.element('IFCWALL', [box(w, 3e5, 0.2, 3)], ',$'), 'size-out-of-range'],
    ['a sweep along a direction without length', (w) => void w.element('IFCWALL', [w.extrude(w.rectangle(4, 0.2), 3, undefined, [0, 0, 0])], ',$'), 'file-record-damaged'],
    ['a body of one triangle', (w) => void w.element('IFCBUILDINGELEMENTPROXY', [w.brep([[[0, 0, 0], [1, 0, 0], [0, 1, 0]]])], ',$'), 'open-body'],
  ])('%s: told, counted, no volume', async (_, write, code) => {
    const w = new ModelWriter();
    write(w);
    const { codes, figures } = await figuresOf(w);
    expect(codes).toContain(code);
    expect(figures.Count).toBe(1);
    expect(figures).not.toHaveProperty('NetVolume');
  }); // biome-ignore format: one table
});

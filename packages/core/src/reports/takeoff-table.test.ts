import fc from 'fast-check';
import { buildElementTable, type ElementTable } from '../elements/element-table.ts';
import { applyProjectLayer } from '../elements/project-layer.ts';
import { NO_ADDITIONS } from '../testing/no-additions.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { listTakeoffFields } from './takeoff-fields.ts';
import { buildTakeoffTable, type TakeoffSpec } from './takeoff-table.ts';

const layer = (material: string, thickness: number, area: number) => ({
  material,
  thickness,
  position: 0,
  area,
  volume: area * thickness,
  weight: null,
});
const wall = (globalId: string, storey: string, area: number) =>
  sampleElement({
    globalId,
    name: globalId,
    storey,
    typeName: 'Lined 100',
    materials: ['Board', 'Quilt'],
    quantities: { NetSideArea: area, Width: 0.1 },
    layers: [layer('Board', 0.0125, area), layer('Quilt', 0.075, area), layer('Board', 0.0125, area)],
  });
const room = (globalId: string, floor: string | null, area: number) =>
  sampleElement({
    globalId,
    name: globalId,
    ifcClass: 'IfcSpace',
    typeName: null,
    quantities: { NetFloorArea: area },
    finishes: { floor, wall: null, ceiling: null, skirting: null },
  });
const built = buildElementTable([wall('w1', 'Ground', 10), wall('w2', 'Ground', 12), wall('w3', 'Upper', 8), room('Hall', 'Oak', 20), room('Store', null, 5)]); // biome-ignore format: one list
const table = { ...built, keys: Int32Array.of(1, 2, 3, 4, 5) };
const build = (spec: Partial<TakeoffSpec>, tables: ElementTable[] = [table]) =>
  buildTakeoffTable(tables, listTakeoffFields(tables, spec.row ?? 'element'), {
    row: 'element',
    scope: null,
    columns: ['name'],
    groups: [],
    sort: null,
    isBundled: false,
    ...spec,
  });
const shown = (t: ReturnType<typeof build>) => t.lines.map((l) => [l.kind === 'group' ? l.label : '', ...l.cells]);

describe('takeoff tables', () => {
  it('group, add up and sort', () => {
    const t = build({
      scope: { field: 'class', op: 'is', value: 'IfcWall' },
      columns: ['name', 'q:NetSideArea', 'q:Width'],
      groups: ['storey'],
      sort: { field: 'q:NetSideArea', isDescending: true },
    });
    expect(shown(t)).toEqual([
      ['Ground', null, 22, null],
      ['', 'w2', 12, 0.1],
      ['', 'w1', 10, 0.1],
      ['Upper', null, 8, null],
      ['', 'w3', 8, 0.1],
    ]);
    expect(t.totals).toEqual([null, 30, null]);
    expect(t.lines[0]!.keys).toEqual([1, 2]);
  });
  it('bundle what reads the same', () => {
    const t = build({
      scope: { field: 'class', op: 'is', value: 'IfcWall' },
      columns: ['type', 'q:Width', 'count', 'q:NetSideArea'],
      isBundled: true,
    });
    expect(shown(t)).toEqual([['', 'Lined 100', 0.1, 3, 30]]);
    expect(t.lines[0]!.keys).toEqual([1, 2, 3]);
  });
  it('list layers one by one, materials with what they amount to', () => {
    expect(build({ row: 'layer', columns: ['name'] }).lines).toHaveLength(9);
    const t = build({ row: 'material', columns: ['layer.material', 'layer.area', 'layer.volume'] });
    // Board twice on 30 m2: 60 m2 x 0.0125; quilt 30 x 0.075.
    expect(shown(t)).toEqual([
      ['', 'Board', 60, expect.closeTo(0.75, 9)],
      ['', 'Quilt', 30, expect.closeTo(2.25, 9)],
    ]);
  });
  it('rooms by finish, with "none assigned" as a group of its own', () => {
    const t = build({ row: 'room', columns: ['name', 'q:NetFloorArea'], groups: ['finish:floor'] });
    expect(shown(t).filter(([label]) => label)).toEqual([
      ['none assigned', null, 5],
      ['Oak', null, 20],
    ]);
  });
  it('follow finishes, attributes and material names given in the project', () => {
    const layered = applyProjectLayer(table, {
      ...NO_ADDITIONS,
      attributes: new Map([[1, { Penetrations: 3 }]]),
      finishes: new Map([[5, { floor: 'Oak' }]]),
      zones: new Map([[4, ['Public']]]),
      materials: [{ name: 'Gypsum board', synonyms: ['board'], density: 800 }],
    });
    const rooms = build({ row: 'room', columns: ['q:NetFloorArea', 'zone'], groups: ['finish:floor'] }, [layered]);
    expect(shown(rooms)[0]).toEqual(['Oak', 25, null]);
    const walls = build({ columns: ['property:Added.Penetrations'], scope: { field: 'property', of: 'Penetrations', op: 'range', min: 2 } }, [layered]); // biome-ignore format: one call
    expect(shown(walls)).toEqual([['', 3]]);
    expect(shown(build({ row: 'material', columns: ['layer.material', 'layer.area'] }, [layered]))[0]).toEqual([
      '',
      'Gypsum board',
      60,
    ]);
  });
  it('list faces by style and look', () => {
    const faces = [
      { style: 'Render', look: 'side' as const, area: 12 },
      { style: 'Render', look: 'top' as const, area: 0.5 },
      { style: 'Oil', look: 'side' as const, area: 12 },
    ];
    const styled = buildElementTable([sampleElement({ globalId: 'f1', faces }), sampleElement({ globalId: 'f2' })]);
    const t = build({ row: 'face', columns: ['face.look', 'face.area'], groups: ['face.style'] }, [styled]);
    expect(shown(t)).toEqual([
      ['Oil', null, 12],
      ['', 'side', 12],
      ['Render', null, 12.5],
      ['', 'side', 12],
      ['', 'top', 0.5],
    ]);
    const oiled = build({ scope: { field: 'style', op: 'is', value: 'oil' }, columns: ['globalId'] }, [styled]);
    expect(shown(oiled)).toEqual([['', 'f1']]);
  });
  it('print columns that add up', () => {
    const thirds = buildElementTable(
      [1, 2, 3, 4].map((i) => wall(`t${i}`, i < 4 ? 'Ground' : 'Upper', 10 + 1 / 3)),
      Int32Array.of(1, 2, 3, 4),
    );
    const t = build({ columns: ['q:NetSideArea'], groups: ['storey'], stepOf: () => 0.01 }, [thirds]);
    // 41.3333 in all: 31.00 and 10.33; the three of 31.00 are 10.34, 10.33, 10.33.
    const near = (v: number) => expect.closeTo(v, 9);
    expect(t.totals).toEqual([near(41.33)]);
    expect(t.lines.map((l) => l.cells[0])).toEqual([31, 10.34, 10.33, 10.33, 10.33, 10.33].map(near));
    // In square feet without decimals: 444.91 is 445 in all, 334 and 111; the three are 112, 111, 111.
    const feet = build({ columns: ['q:NetSideArea'], groups: ['storey'], stepOf: () => 0.3048 ** 2 }, [thirds]);
    expect(feet.lines.map((l) => Math.round((l.cells[0] as number) / 0.3048 ** 2))).toEqual([
      334, 112, 111, 111, 111, 111,
    ]);
  });
  it('add up to the same total under every grouping, bundled or not', () => {
    const fields = ['storey', 'type', 'name', 'class', 'material'];
    fc.assert(
      fc.property(fc.subarray(fields), fc.boolean(), (groups, isBundled) => {
        const t = build({ columns: ['count', 'q:NetSideArea', 'q:NetFloorArea'], groups, isBundled });
        expect(t.totals).toEqual([5, 30, 25]);
        const top = t.lines.filter((l) => l.level === 0);
        expect(top.reduce((sum, l) => sum + (l.cells[0] as number), 0)).toBe(5);
      }),
    );
  });
});

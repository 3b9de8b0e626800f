import { diffElements } from '../changes/diff-elements.ts';
import { checkElements, checkStated, checkStatedRows, reportMissingDensities } from '../checks/check-elements.ts';
import { bundleFindings } from '../checks/finding-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { isClassOrSubtype, listProductClasses, properClassName } from './class-hierarchy.ts';
import { listEffectiveQuantities } from './effective-quantities.ts';
import { buildElementTable, findRow, readElement } from './element-table.ts';
import { assignElementKeys } from './identity.ts';
import { readGlobalId, relateElements } from './relations.ts';
import { decodeElementTable, encodeElementTable } from './table-codec.ts';

const wall = sampleElement({
  globalId: 'w1',
  name: 'Wall 1',
  quantities: { NetSideArea: 12, NetVolume: 3.6 },
  properties: { Pset_WallCommon: { IsExternal: true, FireRating: 'EI60' } },
});
const second = sampleElement({
  globalId: 'w2',
  name: 'Wall 2',
  storey: null,
  materials: ['Brick', 'Plaster'],
  layers: [{ material: 'Brick', thickness: 0.2, position: 0, area: 10, volume: 2, weight: null }],
});

describe('what elements belong to', () => {
  const stair = sampleElement({ globalId: 's', name: 'Stair', ifcClass: 'IfcStair' });
  const flight = sampleElement({ globalId: 'f', name: 'Flight', ifcClass: 'IfcStairFlight', parent: 's' });
  const door = sampleElement({ globalId: 'd', name: 'Door', ifcClass: 'IfcDoor', host: 'w1', parent: 'elsewhere' });
  it('is told by our own keys, and by 0 where it is not in the table', () => {
    const table = buildElementTable([stair, flight, door, wall], Int32Array.of(7, 8, -3, 12));
    const { wholes, hosts } = relateElements(table);
    expect([...wholes]).toEqual([0, 7, 0, 0]);
    expect([...hosts]).toEqual([0, 0, 12, 0]);
    expect(relateElements({ ...table })).toBe(relateElements(table));
    // Other keys (the same file in another project) are other relations.
    expect([...relateElements({ ...table, keys: Int32Array.of(70, 80, 30, 120) }).wholes]).toEqual([0, 70, 0, 0]);
  });
  it('names by GlobalId only what comes from a model', () => {
    const table = buildElementTable([wall], Int32Array.of(1));
    expect(readGlobalId(table, 0)).toBe('w1');
    for (const kind of ['list', 'hand', 'allowance'] as const)
      expect(readGlobalId({ ...table, origin: { kind } }, 0)).toBeNull();
  });
  it('is read from tables that have the identity under its older name', () => {
    const { identity, ...rest } = buildElementTable([stair, flight], Int32Array.of(7, 8));
    const older = { ...rest, globalId: identity } as unknown as Parameters<typeof encodeElementTable>[0];
    const decoded = decodeElementTable(encodeElementTable(older));
    if (!decoded.ok) throw new Error(decoded.problem.message);
    expect(readElement(decoded.value, 1)).toEqual(flight);
    expect([...relateElements(decoded.value).wholes]).toEqual([0, 7]);
    expect('globalId' in decoded.value).toBe(false);
  });
});

describe('element tables', () => {
  it('give back every element as it was, also after packing', () => {
    const table = buildElementTable([wall, second], Int32Array.of(7, 9));
    expect([0, 1].map((r) => readElement(table, r))).toEqual([wall, second]);
    const decoded = decodeElementTable(encodeElementTable(table));
    if (!decoded.ok) throw new Error(decoded.problem.message);
    expect([0, 1].map((r) => readElement(decoded.value, r))).toEqual([wall, second]);
    expect([...decoded.value.keys]).toEqual([7, 9]);
    expect(decodeElementTable(new Uint8Array([1, 2, 3])).ok).toBe(false);
  });
  it('is read from the version before, which had no faces; a later one is refused', () => {
    const { faces: _faces, wallAxes: _axes, ...older } = buildElementTable([wall, second]);
    const bytes = encodeElementTable(older as Parameters<typeof encodeElementTable>[0]);
    bytes[3] = 2;
    const decoded = decodeElementTable(bytes);
    if (!decoded.ok) throw new Error(decoded.problem.message);
    expect(decoded.value.wallAxes).toEqual([]);
    expect(readElement(decoded.value, 1).faces).toEqual([]);
    bytes[3] = 9;
    expect(decodeElementTable(bytes)).toMatchObject({ ok: false, problem: { code: 'table-format' } });
  });
  it('finds rows by halving', () => {
    const rows = Int32Array.of(1, 4, 8, 9);
    expect([1, 4, 8, 9, 0, 5, 12].map((r) => findRow(rows, r))).toEqual([0, 1, 2, 3, -1, -1, -1]);
  });
  it('uses the measured figure, else the stated one', () => {
    const stated = sampleElement({
      globalId: 'a',
      stated: { NetSideArea: 99, GrossFloorArea: 5 },
      quantities: { NetSideArea: 12 },
    });
    const columns = listEffectiveQuantities(
      buildElementTable([stated, sampleElement({ globalId: 'b', stated: { NetSideArea: 7 } })]),
    );
    expect([...columns.get('netsidearea')!.values]).toEqual([12, 7]);
    expect(columns.get('grossfloorarea')!.values[0]).toBe(5);
  });
});

describe('identity', () => {
  const tableOf = (...ids: string[]) => buildElementTable(ids.map((globalId) => sampleElement({ globalId })));
  it('keeps the key of a known GlobalId and gives new ones to the others', () => {
    const first = tableOf('a', 'b', 'b');
    const before = { ...first, keys: assignElementKeys(null, first, 1).keys };
    expect([...before.keys]).toEqual([1, 2, 3]);
    expect(assignElementKeys(before, tableOf('b', 'c', 'b', 'a', 'b'), 4)).toMatchObject({
      keys: Int32Array.of(2, 4, 3, 1, 5),
      matched: 3,
      nextKey: 6,
    });
  });
  it('finds the key of an element again that was away for a revision', () => {
    const [r1, r2, r3] = [tableOf('a', 'b', 'c'), tableOf('a', 'd'), tableOf('c', 'd', 'b', 'e')];
    const first = assignElementKeys(null, r1, 1);
    const second = assignElementKeys({ ...r1, keys: first.keys }, r2, first.nextKey, first.known);
    expect([...second.keys]).toEqual([1, 4]);
    const third = assignElementKeys({ ...r2, keys: second.keys }, r3, second.nextKey, second.known);
    // Known from the revision before is d alone; b and c come back as they were.
    expect(third).toMatchObject({ keys: Int32Array.of(3, 4, 2, 5), matched: 1, nextKey: 6 });
    expect([...third.known.keys]).toEqual([['a', 1], ['b', 2], ['c', 3], ['d', 4], ['e', 5]]); // biome-ignore format: five keys
  });
  it('says what came, went and changed', () => {
    const before = buildElementTable(
      [sampleElement({ globalId: 'a', quantities: { NetSideArea: 10 } }), sampleElement({ globalId: 'b' })],
      Int32Array.of(1, 2),
    );
    const after = buildElementTable(
      [
        sampleElement({ globalId: 'a', typeName: 'Other', quantities: { NetSideArea: 12 } }),
        sampleElement({ globalId: 'c' }),
      ],
      Int32Array.of(1, 3),
    );
    expect(diffElements(before, after)).toEqual({
      added: [1],
      removed: [1],
      changed: [
        {
          key: 1,
          row: 0,
          quantities: { NetSideArea: [10, 12] },
          attributes: { type: ['Wall type', 'Other'] },
          movedM: 0,
          isIdentified: false,
        },
      ],
    });
  });
  it('takes rounding of the exporter for no change', () => {
    const at = (v: number) =>
      buildElementTable([sampleElement({ globalId: 'a', quantities: { Length: v } })], Int32Array.of(1));
    expect(diffElements(at(4.8), at(4.8000001)).changed).toEqual([]);
  });
});

describe('class hierarchy', () => {
  it('follows the standard, over the renaming of building elements', () => {
    expect(isClassOrSubtype('IfcWallStandardCase', 'ifcwall')).toBe(true);
    expect(isClassOrSubtype('IfcWall', 'IfcBuildingElement')).toBe(true);
    expect(isClassOrSubtype('IfcWall', 'IfcBuiltElement')).toBe(true);
    expect(isClassOrSubtype('IfcWall', 'IfcSlab')).toBe(false);
    expect(properClassName('IFCWALLSTANDARDCASE')).toBe('IfcWallStandardCase');
    expect(listProductClasses()).toContain('IfcSpace');
  });
});

describe('checks', () => {
  const codes = (elements: Parameters<typeof checkElements>[0]) => checkElements(elements).map((f) => f.code);
  const box = [0, 0, 0, 1, 1, 1] as const;
  it('finds a repeated id, a lost element, twins and a wrong stated figure, and nothing in a sound model', () => {
    expect(codes([wall, { ...second, storey: 'Ground floor' }])).toEqual([]);
    expect(codes([wall, wall])).toEqual(['duplicate-global-id']);
    expect(codes([wall, second])).toEqual(['no-storey']);
    expect(
      codes([
        { ...wall, box },
        { ...wall, globalId: 'x', box: [0, 0, 0, 1, 1, 1.0001] },
      ]),
    ).toEqual(['coincident']);
    expect(
      codes([sampleElement({ globalId: 'a', quantities: { NetSideArea: 12 }, stated: { NetSideArea: 120 } })]),
    ).toEqual(['stated-differs']);
    expect(
      codes([sampleElement({ globalId: 'a', quantities: { NetSideArea: 12 }, stated: { NetSideArea: 12.05 } })]),
    ).toEqual([]);
  });
  it('compares stated with measured figures within the tolerance of the project, over a table as over a list', () => {
    const elements = [
      sampleElement({
        globalId: 'a',
        quantities: { NetSideArea: 12, Length: 4 },
        stated: { NetSideArea: 12.3, Length: 4 },
      }),
      sampleElement({ globalId: 'b', quantities: { NetSideArea: 12 }, stated: { NetSideArea: 12.05 } }),
      sampleElement({ globalId: 'c', quantities: { NetSideArea: 12 } }),
    ];
    const table = buildElementTable(elements);
    const found = (share: number) => checkStatedRows(table, share).flatMap((f) => f.globalIds);
    // 2.5 % and 0.42 % off.
    expect([found(0.03), found(0.01), found(0.004)]).toEqual([[], ['a'], ['a', 'b']]);
    expect(checkStatedRows(table, 0.01)).toEqual(checkStated(elements, 0.01));
  });
  it('reports a missing density element by element, the material being what they have in common', () => {
    const found = reportMissingDensities(new Map([['Quilt', ['a', 'b']]]));
    expect(found).toMatchObject([
      { code: 'density-missing', globalIds: ['a'], cause: 'Quilt' },
      { code: 'density-missing', globalIds: ['b'], cause: 'Quilt' },
    ]);
    expect(bundleFindings(found)).toMatchObject([{ code: 'density-missing', cause: 'Quilt', findings: found }]);
  });
});

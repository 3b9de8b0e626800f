import { correctFacts } from '../elements/corrected-facts.ts';
import { buildElementTable } from '../elements/element-table.ts';
import { runPipeline } from '../pipeline.ts';
import { sampleBasis, sampleItem } from '../testing/sample-basis.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { checkTable, keepConsequential, readConsequences } from './check-live.ts';
import { type Finding, findingKey, formerFindingKey, keyFindings } from './finding.ts';

const room = sampleElement({
  globalId: 'room',
  ifcClass: 'IfcSpace',
  quantities: { NetFloorArea: 12 },
  finishes: { floor: null, wall: null, ceiling: null, skirting: null },
});
const wall = (globalId: string, ifcClass = 'IfcWall') =>
  sampleElement({ globalId, ifcClass, quantities: { GrossVolume: 2, NetSideArea: 10 }, box: [0, 0, 0, 4, 0.2, 3] });
const table = buildElementTable([wall('a'), wall('b', 'IfcColumn'), room], Int32Array.of(11, 12, 13), {
  storeys: [{ name: 'Ground floor', elevation: 0, gfa: null, gfaMethod: null }],
  sharedBodies: [{ a: 0, b: 1, sharedM3: 0.5, smallerM3: 2 }],
});
const usual = { statedShare: 0.01 };
const check = (facts = new Map(), thresholds: Parameters<typeof checkTable>[3] = usual) =>
  checkTable(correctFacts(table, facts), table, { facts, given: new Map() }, thresholds);

describe('what is checked as the project sees it', () => {
  it('each finding hangs on the keys of its elements', () => {
    expect(check().map((f) => [f.code, f.keys])).toEqual([
      ['overlap', [11, 12]],
      ['room-without-finish', [13]],
    ]);
  });
  it('thresholds are the project’s', () => {
    // They share 25 % of the smaller.
    expect(check(new Map(), { ...usual, overlapShare: 0.3 }).map((f) => f.code)).toEqual(['room-without-finish']);
  });
  it('a finish given here clears the room, whoever else has none', () => {
    const given = {
      ...table,
      finishes: { ...table.finishes, floor: { pool: ['Oak'], index: Int32Array.of(-1, -1, 0) } },
    };
    expect(checkTable(given, table, { facts: new Map(), given: new Map() }, usual).map((f) => f.code)).toEqual([
      'overlap',
    ]);
  });
  it('a storey given here places what the file has in none', () => {
    const lost = buildElementTable([sampleElement({ globalId: 'a', storey: null })], Int32Array.of(11));
    const found = (facts: Map<number, { storey: string }>) =>
      checkTable(correctFacts(lost, facts), lost, { facts, given: new Map() }, usual).map((f) => f.code);
    expect([found(new Map()), found(new Map([[11, { storey: 'Attic' }]]))]).toEqual([['no-storey'], []]);
  });
  it('a correction that the file has come up with is told', () => {
    expect(check(new Map([[11, { storey: 'ground  FLOOR' }]])).map((f) => [f.code, f.keys])).toContainEqual(['given-as-in-file', [11]]); // biome-ignore format: one call
    expect(check(new Map([[11, { storey: 'Cellar' }]])).map((f) => f.code)).not.toContain('given-as-in-file');
  });
});

describe('findings without a consequence', () => {
  const items = [sampleItem('M', 'm3', '100'), sampleItem('A', 'm2', '10')];
  const plan = (item: string, driver: string) => {
    const basis = sampleBasis(items, [], {});
    return runPipeline(
      { ...basis, assemblies: [], rules: [{ ...basis.rules[0]!, assembly: undefined, item, driver }] },
      [{ sourceId: 's', table }],
    );
  };
  const overlap = check().find((f) => f.code === 'overlap')!;
  const open: Finding = { code: 'open-body', severity: 'warning', message: 'open', globalIds: ['room'], keys: [13] };
  const kept = (item: string, driver: string) =>
    keepConsequential([overlap, open], readConsequences(plan(item, driver).parts[0]!)).map((f) => f.code);

  it('are left out: a shared volume where areas are priced, an open body whose volume nobody asks for', () => {
    expect(kept('A', 'NetSideArea')).toEqual(['open-body']);
    expect(kept('M', 'GrossVolume')).toEqual(['overlap', 'open-body']);
  });
  it('an open body matters where a line is not known for it', () => {
    const priced = plan('A', 'NetSideArea').parts[0]!;
    expect([...readConsequences(priced).troubled]).toEqual([13]);
  });
});

describe('the key of a finding', () => {
  const [one] = keyFindings([{ code: 'no-storey', severity: 'warning', message: 'm', globalIds: ['x'] }], () => [5]);
  it('is its code and the keys of its elements; one more element of the kind changes nothing', () => {
    expect(findingKey(one!)).toBe('no-storey/5');
    expect(formerFindingKey(one!)).toBe(findingKey({ ...one!, keys: undefined }));
    expect(formerFindingKey(one!)).not.toBe(findingKey(one!));
  });
});

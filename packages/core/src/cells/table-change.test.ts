import { buildElementTable } from '../elements/element-table.ts';
import { applyProjectLayer, type ProjectLayer } from '../elements/project-layer.ts';
import { NO_ADDITIONS } from '../testing/no-additions.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { TableChange } from './table-change.ts';

const layer = { thickness: 0.2, position: 0, area: 10, volume: 2, weight: null };
const plain = buildElementTable(
  [
    sampleElement({ globalId: 'a', quantities: { NetSideArea: 10, NetVolume: 2 }, layers: [{ material: 'Brick', ...layer }], properties: { P: { Rating: 'EI30' } } }),
    sampleElement({ globalId: 'b', quantities: { NetSideArea: 20, NetVolume: 4 }, layers: [{ material: 'Block', ...layer }] }),
    sampleElement({ globalId: 'c', quantities: { NetSideArea: 30 } }),
  ],
  Int32Array.of(1, 2, 3),
); // biome-ignore format: one element each
const seen = (part: Partial<ProjectLayer> = {}) => applyProjectLayer(plain, { ...NO_ADDITIONS, ...part });
const rows = (after: ReturnType<typeof seen>, ...fields: Parameters<TableChange['rowsOf']>[0]) => {
  const marks = TableChange.between(seen(), after)!.rowsOf(fields);
  return marks && [...marks];
};

describe('how a table differs from the one before', () => {
  it('is nothing where nothing was added', () => {
    expect(rows(seen(), '*')).toBeNull();
    expect(rows(seen(), 'q:netsidearea', 'p:rating', 't:type', 'parts', 'room')).toBeNull();
  });
  it('is told by the field: an attribute, one that is a figure, one that stands over the file', () => {
    const attributed = seen({ attributes: new Map([[2, { Grade: 'A', NetSideArea: '25 m2' }]]) });
    expect(rows(attributed, 'p:grade')).toEqual([0, 1, 0]);
    expect(rows(attributed, 'p:added.grade')).toEqual([0, 1, 0]);
    expect(rows(attributed, 'q:netsidearea')).toEqual([0, 1, 0]);
    expect(rows(attributed, 'p:rating', 'q:netvolume', 'parts')).toBeNull();
    expect(rows(attributed, '*')).toEqual([0, 1, 0]);
  });
  it('is told of corrected texts, of rooms left out by nobody', () => {
    expect(rows(seen({ facts: new Map([[3, { typeName: 'Other' }]]) }), 't:type')).toEqual([0, 0, 1]);
    expect(rows(seen({ leftOut: new Set([1]) }), '*')).toBeNull();
  });
  it('is told of layers whose material or weight is another', () => {
    const materials = [{ name: 'Brick', density: 1800 }];
    expect(rows(seen({ materials }), 'parts')).toEqual([1, 0, 0]);
    expect(rows(seen({ materials }), 'q:netsidearea')).toBeNull();
  });
  it('cannot be told of tables of other elements', () => {
    const others = { ...plain, keys: Int32Array.of(1, 2, 4) };
    expect(TableChange.between(plain, others)).toBeNull();
  });
});

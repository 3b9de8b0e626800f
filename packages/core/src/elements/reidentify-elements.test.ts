import fc from 'fast-check';
import { sampleElement } from '../testing/sample-element.ts';
import { buildElementTable } from './element-table.ts';
import { assignElementKeys, sayIdentities } from './identity.ts';
import type { Box, ModelElement } from './model-element.ts';

type Shape = { readonly id: string; readonly at: readonly [number, number, number]; readonly size?: readonly [number, number, number] } & Partial<Pick<ModelElement, 'name' | 'typeName' | 'tag' | 'ifcClass' | 'materials' | 'storey'>>; // biome-ignore format: one record

const COLUMN = [0.3, 0.3, 3] as const;

/** A column, or whatever is said, that stands at a place. */
const shape = ({ id, at, size = COLUMN, ...more }: Shape): ModelElement =>
  sampleElement({
    globalId: id,
    ifcClass: 'IfcColumn',
    name: 'Column 300',
    typeName: 'Column 300x300',
    materials: ['Concrete'],
    box: [...at, at[0] + size[0], at[1] + size[1], at[2] + size[2]] as unknown as Box,
    quantities: { GrossVolume: size[0] * size[1] * size[2] },
    ...more,
  });
const tableOf = (shapes: readonly Shape[]) => buildElementTable(shapes.map(shape));
/** Two revisions: keys of the first are 1, 2, 3 ... */
function revise(before: readonly Shape[], after: readonly Shape[]) {
  const first = tableOf(before);
  const keyed = { ...first, keys: assignElementKeys(null, first, 1).keys };
  return { before: keyed, ...assignElementKeys(keyed, tableOf(after), before.length + 1) };
}
const grid = (columns: number, rows: number): Shape[] =>
  Array.from({ length: columns * rows }, (_, i) => ({ id: `o${i}`, at: [5 * (i % columns), 6 * Math.floor(i / columns), 0] as const })); // biome-ignore format: one list
const renewed = (shapes: readonly Shape[], step = [0, 0, 0]): Shape[] =>
  shapes.map((s, i) => ({ ...s, id: `n${i}`, at: s.at.map((x, a) => x + step[a]!) as unknown as Shape['at'] }));

describe('elements that came back under other ids', () => {
  it('are known by their places, though one of a row of equal columns is gone', () => {
    const all = grid(10, 4);
    const left = all.filter((_, i) => i !== 13);
    const { keys, matched, rematched, identified } = revise(all, renewed(left));
    expect([...keys]).toEqual(left.map((s) => all.indexOf(s) + 1));
    expect({ matched, rematched }).toEqual({ matched: 0, rematched: 39 });
    expect([...identified!.sure]).toEqual(Array(39).fill(1));
  });
  it('are known though the whole model stands elsewhere', () => {
    const all = grid(7, 5);
    const left = all.filter((_, i) => i !== 0);
    const { keys } = revise(all, renewed(left, [120.5, -40, 3.2]));
    expect([...keys]).toEqual(left.map((s) => all.indexOf(s) + 1));
  });
  it('are known by place, not by a running number that moved on', () => {
    const all = grid(8, 1).map((s, i) => ({ ...s, name: `Column ${i + 1}` }));
    const left = all.filter((_, i) => i !== 3);
    const { keys } = revise(
      all,
      renewed(left).map((s, i) => ({ ...s, name: `Column ${i + 1}` })),
    );
    expect([...keys]).toEqual([1, 2, 3, 5, 6, 7, 8]);
  });
  it('are known by a name of their own, where they were moved and made longer', () => {
    const wall = { size: [6, 0.1, 3], ifcClass: 'IfcWall', typeName: 'Partition 100' } as const;
    const before: Shape[] = [
      { ...wall, id: 'a', at: [0, 0, 0], name: 'Partition G6' },
      { ...wall, id: 'b', at: [0, 4, 0], name: 'Partition G7' },
      { ...wall, id: 'k', at: [20, 0, 0], name: 'Kept' },
    ];
    const after: Shape[] = [
      { ...wall, id: 'c', at: [0, 5, 0], size: [9, 0.1, 3], name: 'Partition G7' },
      { ...wall, id: 'd', at: [0, 0, 0], name: 'Partition G6', typeName: 'Partition 100 acoustic' },
      { ...wall, id: 'k', at: [20, 0, 0], name: 'Kept' },
    ];
    expect([...revise(before, after).keys]).toEqual([2, 1, 3]);
  });
  it('are asked about where two are equally alike', () => {
    const twice: Shape[] = [
      { id: 'a', at: [0, 0, 0] },
      { id: 'b', at: [0, 0, 0] },
    ];
    const { keys, rematched, identified } = revise(twice, renewed(twice));
    expect([...keys]).toEqual([3, 4]);
    expect(rematched).toBe(0);
    expect([...identified!.was].sort()).toEqual([1, 1, 2, 2]);
    expect([...identified!.margin]).toEqual([0, 0, 0, 0]);
  });
  it('are none of another building', () => {
    const { identified, rematched } = revise(
      grid(5, 5),
      Array.from({ length: 9 }, (_, i) => ({ id: `x${i}`, at: [3.1 * i + 200, 71, 0] as const, size: [4 + i / 7, 0.24, 2.5] as const, name: `Wall ${i}`, typeName: 'Wall 240', materials: ['Brick'] })), // biome-ignore format: one list
    );
    expect(rematched).toBe(0);
    expect(identified).toBeUndefined();
  });
  it('are not guessed where a row of equal columns stands elsewhere and it cannot be told by how much', () => {
    // Nine of ten, moved by half a bay: by 2.5 m one way, or the other.
    const all = grid(10, 1);
    const { rematched } = revise(all, renewed(all.slice(1), [-2.5, 0, 0]));
    expect(rematched).toBe(0);
  });
  it('are all paired rightly, whatever goes and wherever all of it goes', () => {
    const spot = fc.record({ x: fc.integer({ min: 0, max: 12 }), y: fc.integer({ min: 0, max: 12 }), z: fc.integer({ min: 0, max: 3 }), kind: fc.constantFrom('A', 'B', 'C') }); // biome-ignore format: one record
    fc.assert(
      fc.property(
        fc.uniqueArray(spot, { selector: ({ x, y, z }) => `${x}/${y}/${z}`, minLength: 12, maxLength: 60 }),
        fc.integer({ min: 0, max: 11 }),
        fc.tuple(fc.integer({ min: -900, max: 900 }), fc.integer({ min: -900, max: 900 })),
        (spots, gone, [dx, dy]) => {
          // A building has corners that nothing else has: two cores that tell where it stands.
          const cores: Shape[] = [1, 2].map((n) => ({ id: `core${n}`, at: [40 * n, -7, 0], size: [5 + n, 4, 12], typeName: `Core ${n}` })); // biome-ignore format: one list
          const all: Shape[] = [...cores, ...spots.map(({ x, y, z, kind }, i) => ({ id: `o${i}`, at: [x * 1.7, y * 2.3, z * 3.4] as const, typeName: kind }))]; // biome-ignore format: one list
          const left = all.filter((_, i) => i !== gone + 2);
          const { keys } = revise(all, renewed(left, [dx / 7, dy / 7, 0]));
          expect([...keys]).toEqual(left.map((s) => all.indexOf(s) + 1));
        },
      ),
      { seed: 16, numRuns: 200 },
    );
  });
});

describe('what people said about identities', () => {
  const twice: Shape[] = [
    { id: 'a', at: [0, 0, 0] },
    { id: 'b', at: [0, 0, 0] },
  ];
  it('is followed: a doubtful one is that of before, a sure one is none of before', () => {
    const { keys, identified } = revise([...twice, { id: 's', at: [9, 0, 0] }], renewed([...twice, { id: 's', at: [9, 0, 0] }])); // biome-ignore format: one call
    const table = { ...tableOf(renewed(twice).concat({ id: 'x', at: [9, 0, 0] })), keys, identified };
    expect([...keys]).toEqual([4, 5, 3]);
    expect([...sayIdentities(table, new Map([[4, 2]])).keys]).toEqual([2, 5, 3]);
    expect([...sayIdentities(table, new Map([[6, null]])).keys]).toEqual([4, 5, 6]);
    // Two that are said to be the same: the first is.
    expect([...sayIdentities(table, new Map([[4, 2], [5, 2]])).keys]).toEqual([2, 5, 3]); // biome-ignore format: one call
    // Said of each other in a circle: nothing is changed.
    expect([...sayIdentities(table, new Map([[4, 5], [5, 4]])).keys]).toEqual([4, 5, 3]); // biome-ignore format: one call
  });
  it('is kept over the revisions after', () => {
    const second = revise([{ id: 's', at: [9, 0, 0] }], [{ id: 't', at: [9, 0, 0] }]);
    expect([...second.keys]).toEqual([1]);
    const r2 = { ...tableOf([{ id: 't', at: [9, 0, 0] }]), keys: second.keys, identified: second.identified };
    const third = assignElementKeys(r2, tableOf([{ id: 'q', at: [1, 1, 0], name: 'Other', typeName: 'Other', materials: [] }, { id: 't', at: [9, 0, 0] }]), second.nextKey, second.known); // biome-ignore format: one call
    const r3 = { ...tableOf([{ id: 'q', at: [1, 1, 0] }, { id: 't', at: [9, 0, 0] }]), keys: third.keys, identified: third.identified }; // biome-ignore format: one table
    expect([...third.keys]).toEqual([3, 1]);
    expect([...sayIdentities(r3, new Map([[2, null]])).keys]).toEqual([3, 2]);
  });
  it('an element that comes back while another was taken for it is asked about', () => {
    const second = revise([{ id: 's', at: [9, 0, 0] }], [{ id: 't', at: [9, 0, 0] }]);
    const r2 = { ...tableOf([{ id: 't', at: [9, 0, 0] }]), keys: second.keys, identified: second.identified };
    const third = assignElementKeys(r2, tableOf([{ id: 's', at: [9, 0, 0] }, { id: 't', at: [9, 0, 0] }]), second.nextKey, second.known); // biome-ignore format: one call
    expect([...third.keys]).toEqual([3, 1]);
    expect([...third.identified!.rows]).toEqual([0, 1]);
    expect([...third.identified!.sure]).toEqual([0, 1]);
  });
});

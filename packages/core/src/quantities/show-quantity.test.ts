import { buildElementTable } from '../elements/element-table.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { placesOfCount, showQuantity } from './show-quantity.ts';

/** A box from the origin: faces outwards, two triangles each, in the order bottom, top, south, north, west, east. */
function box(x: number, y: number, z: number): TriangleMesh {
  const positions = [0, 0, 0, x, 0, 0, x, y, 0, 0, y, 0, 0, 0, z, x, 0, z, x, y, z, 0, y, z];
  const quads = [[0, 3, 2, 1], [4, 5, 6, 7], [0, 1, 5, 4], [2, 3, 7, 6], [3, 0, 4, 7], [1, 2, 6, 5]]; // biome-ignore format: six faces
  return { positions, indices: quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]) };
}
const [BOTTOM, TOP, SOUTH, NORTH, WEST, EAST] = [0, 6, 12, 18, 24, 30].map((at) => [at, at + 3]) as number[][];
const faces = (name: string, mesh: TriangleMesh) => {
  const shown = showQuantity(name, mesh);
  return shown?.kind === 'faces' ? shown.triangles : shown;
};

describe('what of a shape a figure belongs to', () => {
  // 5 m long, 0.2 m thick, 3 m high; and a slab of 5 m x 4 m x 0.2 m.
  const [wall, slab] = [box(5, 0.2, 3), box(5, 4, 0.2)];
  it('of a wall: one side, the ends, the foot', () => {
    expect([SOUTH, NORTH]).toContainEqual(faces('NetSideArea', wall));
    expect(faces('GrossCrossSectionArea', wall)).toEqual([...WEST!, ...EAST!]);
    expect(faces('Perimeter', wall)).toEqual(BOTTOM);
    expect(faces('NetVolume', wall)).toHaveLength(12);
  });
  it('of a slab: what looks up; what stands upright has its area at its side', () => {
    expect(faces('NetArea', slab)).toEqual(TOP);
    expect([SOUTH, NORTH]).toContainEqual(faces('Area', wall));
  });
  it('lengths are lines through the middle, along, across and up', () => {
    const line = (name: string) => {
      const shown = showQuantity(name, wall);
      return shown?.kind === 'line' ? [shown.from, shown.to].map((p) => p.map((c) => Number(c.toFixed(6)))).sort((a, b) => a[0]! - b[0]! || a[1]! - b[1]! || a[2]! - b[2]!) : null; // biome-ignore format: one line
    };
    expect(line('Length')).toEqual([[0, 0.1, 1.5], [5, 0.1, 1.5]]); // biome-ignore format: two places
    expect(line('Width')).toEqual([[2.5, 0, 1.5], [2.5, 0.2, 1.5]]); // biome-ignore format: two places
    expect(line('Height')).toEqual([[2.5, 0.1, 0], [2.5, 0.1, 3]]); // biome-ignore format: two places
  });
  it('is nothing for a name that says nothing of a shape, or a shape without faces', () => {
    expect(showQuantity('Penetrations', wall)).toBeNull();
    expect(showQuantity('NetSideArea', { positions: [], indices: [] })).toBeNull();
  });
});

it('counted junctions are where they were found, half way up their wall; each is with the wall it is counted with', () => {
  const table = buildElementTable([sampleElement({ globalId: 'a', box: [0, 0, 1, 5, 0.2, 4] }), sampleElement({ globalId: 'b' })], undefined, {
    junctions: [
      { kind: 'corner', at: [0, 0.1], owner: 0, walls: [0, 1] },
      { kind: 'corner', at: [5, 0.1], owner: 1, walls: [0, 1] },
      { kind: 'tee', at: [2, 0.1], owner: 0, walls: [0, 1] },
    ],
  }); // biome-ignore format: two walls
  expect(placesOfCount(table, 0, 'Corners')).toEqual([[0, 0.1, 2.5]]);
  expect(placesOfCount(table, 0, 'Tees')).toEqual([[2, 0.1, 2.5]]);
  expect(placesOfCount(table, 0, 'FreeEnds')).toEqual([]);
  expect(placesOfCount(table, 0, 'Count')).toEqual([]);
});

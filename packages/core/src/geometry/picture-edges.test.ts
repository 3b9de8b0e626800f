import { meshSweptSolid } from './mesh-solid.ts';
import type { PictureChunk } from './picture-chunk.ts';
import { listPictureEdges } from './picture-edges.ts';
import type { TriangleMesh } from './triangle-mesh.ts';
import { IDENTITY } from './vector.ts';

/** A chunk of shapes, each an element of its row. */
function makeChunk(shapes: readonly (readonly [row: number, mesh: TriangleMesh])[]): PictureChunk {
  const elements: PictureChunk['elements'][number][] = [];
  const positions: number[] = [];
  const indices: number[] = [];
  for (const [row, mesh] of shapes) {
    const firstVertex = positions.length / 3;
    elements.push({ row, firstVertex, vertexCount: mesh.positions.length / 3, firstIndex: indices.length, indexCount: mesh.indices.length }); // biome-ignore format: one element
    positions.push(...Array.from(mesh.positions));
    indices.push(...Array.from(mesh.indices, (i) => i + firstVertex));
  }
  const count = positions.length / 3;
  return {
    origin: [0, 0, 0],
    elements,
    positions: Float32Array.from(positions),
    colours: new Uint8Array(count * 4),
    indices: Uint32Array.from(indices),
  };
}
const solid = (profile: Parameters<typeof meshSweptSolid>[0]['profile'], depth: number) =>
  meshSweptSolid({ profile, placement: IDENTITY, direction: [0, 0, 1], depth }, 24);
const lengthOf = ({ positions }: { positions: Float32Array }) => {
  let sum = 0;
  for (let i = 0; i < positions.length; i += 6)
    sum += Math.hypot(positions[i + 3]! - positions[i]!, positions[i + 4]! - positions[i + 1]!, positions[i + 5]! - positions[i + 2]!); // biome-ignore format: one length
  return sum;
};

describe('edges of a picture', () => {
  it('of a box are its twelve, whatever triangles its faces are made of', () => {
    const edges = listPictureEdges(makeChunk([[7, solid({ kind: 'rectangle', x: 4, y: 0.2, radius: 0 }, 3)]]));
    expect(edges.rows).toEqual(new Float32Array(24).fill(7));
    // Four of each: 4 + 0.2 + 3 m.
    expect(lengthOf(edges)).toBeCloseTo(28.8, 5);
  });
  it('of a round column are its two rims: chords of one curve are no edges', () => {
    const edges = listPictureEdges(makeChunk([[0, solid({ kind: 'circle', radius: 0.2 }, 3)]]));
    // 24 chords above, 24 below.
    expect(edges.positions.length / 6).toBe(48);
  });
  it('of a sheet that ends are its outline, of elements each its own', () => {
    const sheet: TriangleMesh = {
      positions: Float64Array.of(0, 0, 0, 2, 0, 0, 2, 1, 0, 0, 1, 0),
      indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
    };
    const edges = listPictureEdges(makeChunk([[3, sheet], [5, sheet]])); // biome-ignore format: two elements
    expect([...edges.rows]).toEqual([...new Array(8).fill(3), ...new Array(8).fill(5)]);
    expect(lengthOf(edges)).toBeCloseTo(12, 6);
  });
  it('of triangles without area, or none, are none', () => {
    const line: TriangleMesh = {
      positions: Float64Array.of(0, 0, 0, 1, 0, 0, 2, 0, 0),
      indices: Uint32Array.of(0, 1, 2),
    };
    expect(listPictureEdges(makeChunk([[0, line]])).positions).toHaveLength(0);
    expect(listPictureEdges(makeChunk([])).rows).toHaveLength(0);
  });
});

import type { Opening, QuantityMethod } from '../elements/model-element.ts';
import { type SweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import type { Vector3 } from '../geometry/vector.ts';
import { type FaceAreas, type FaceDirections, measureMeshFaces, measureSweptFaces } from './face-areas.ts';
import type { MeasureContext } from './measure-groups.ts';
import type { MeasureGroup } from './quantity-names.ts';

/**
 * Adds the faces of an element by the way they look. Of a straight solid they are exact, of others summed over the mesh. What
 * an opening takes from a wall's sides, and from its bottom where it reaches down to it, is deducted; reveals are not counted.
 */
export function addFaces(
  { add, measures, normal, deductedM2 }: MeasureContext,
  group: MeasureGroup,
  openings: readonly Opening[],
  up: Vector3,
  single: SweptSolid | null,
  mesh: TriangleMesh | null,
): void {
  if (group === 'filler' || group === 'space') return;
  const method: QuantityMethod = single ? (openings.length > 0 ? 'swept-openings' : 'swept') : 'mesh';
  const put = (name: string, value: number) => add(name, { value, method });
  const find = (directions: FaceDirections): FaceAreas | null =>
    single ? measureSweptFaces(single, directions) : mesh ? measureMeshFaces(mesh, directions) : null;
  // A mesh has its openings cut out already; a solid whose openings are not exact would give wrong faces.
  if (single && openings.length > 0 && deductedM2 === null) return;
  switch (group) {
    case 'wall': {
      const faces = find({ up, across: normal ?? acrossOf(measures) });
      if (!faces) return;
      const widthM = Math.min(measures.max[0] - measures.min[0], measures.max[1] - measures.min[1]);
      const atFloor = openings.filter((o) => o.sill !== null && o.sill < TOLERANCE.touch);
      const cutM2 = single ? atFloor.reduce((sum, o) => sum + (o.width ?? 0) * widthM, 0) : 0;
      put('SidesArea', faces.sidesM2 - 2 * (single ? (deductedM2 ?? 0) : 0));
      put('EndsArea', faces.endsM2);
      put('TopArea', faces.topM2);
      put('BottomArea', faces.bottomM2 - cutM2);
      return;
    }
    case 'slab': {
      const faces = find({ up: single ? sweptDirection(single) : up });
      if (!faces) return;
      const open = single ? (deductedM2 ?? 0) : 0;
      put('TopArea', faces.topM2 - open);
      put('BottomArea', faces.bottomM2 - open);
      put('EdgesArea', faces.sidesM2);
      return;
    }
    case 'linear': {
      const faces = find({ up, along: single ? sweptDirection(single) : alongOf(measures) });
      if (!faces) return;
      put('SidesArea', faces.sidesM2);
      put('TopArea', faces.topM2);
      put('BottomArea', faces.bottomM2);
      put('EndsArea', faces.endsM2);
      return;
    }
    case 'footing': {
      const faces = find({ up });
      if (!faces) return;
      put('SidesArea', faces.sidesM2);
      put('TopArea', faces.topM2);
      put('BottomArea', faces.bottomM2);
    }
  }
}

type Extents = MeasureContext['measures'];

function acrossOf({ min, max }: Extents): Vector3 {
  return max[0] - min[0] >= max[1] - min[1] ? [0, 1, 0] : [1, 0, 0];
}

function alongOf({ min, max }: Extents): Vector3 {
  const size = [0, 1, 2].map((k) => max[k]! - min[k]!);
  const longest = size.indexOf(Math.max(...size));
  return [longest === 0 ? 1 : 0, longest === 1 ? 1 : 0, longest === 2 ? 1 : 0];
}

import { measureEdgesM } from '../geometry/formed-solid.ts';
import { listPlaneOutlines } from '../geometry/plane-outlines.ts';
import { uniteFigures } from '../geometry/polygon-union.ts';
import { measureSweptSolid, sweptDirection } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import type { TriangleMesh } from '../geometry/triangle-mesh.ts';
import type { Figure } from '../geometry/union-area.ts';
import { distanceBetween, type Vector2, type Vector3 } from '../geometry/vector.ts';
import type { Measured } from './element-body.ts';
import { type MeasureContext, sizeOf, sumAreas } from './measure-context.ts';

/** What is steeper than 70° is a wall of a room; below that it is its ceiling, a slope of the roof among them. */
const UPRIGHT = Math.cos((70 * Math.PI) / 180);

/**
 * Measures a room by its body: its floor is what looks down, its walls what stands upright, its boundary the edge of the floor with
 * the columns and courts in it.
 */
export function measureSpace({ add, shape }: MeasureContext): void {
  const [, , height] = sizeOf(shape);
  const { solid } = shape;
  const isUpright =
    solid !== null && Math.abs(sweptDirection(solid)[2]) > 1 - TOLERANCE.parallel && 1 - Math.abs(solid.direction[2]) < TOLERANCE.parallel; // biome-ignore format: one test
  const exact = (value: number): Measured => ({ value, method: 'swept', exactness: 'exact' });
  add('Height', {
    value: height,
    method: isUpright ? 'swept' : 'mesh',
    exactness: isUpright ? 'exact' : shape.extentsExactness,
  });
  if (isUpright) {
    const { areaM2 } = measureSweptSolid(solid);
    const edges = measureEdgesM(solid.profile);
    add('NetFloorArea', exact(areaM2));
    add('GrossCeilingArea', exact(areaM2));
    add('GrossPerimeter', exact(edges));
    add('GrossWallArea', exact(edges * height));
  } else {
    const view = shape.grossFaces();
    if (view) {
      const as = (value: number): Measured => ({ value, method: view.method, exactness: view.exactness });
      const floors = view.facets.filter((f) => f.normal[2] < -UPRIGHT);
      const ceilings = view.facets.filter((f) => f.normal[2] > UPRIGHT);
      add('NetFloorArea', as(sumAreas(floors)));
      // Level as its floor, whatever the roof does above it.
      add('GrossCeilingArea', as(ceilings.reduce((sum, f) => sum + f.areaM2 * f.normal[2], 0))); // biome-ignore format: one sum
      add('GrossWallArea', as(sumAreas(view.facets.filter((f) => Math.abs(f.normal[2]) <= UPRIGHT))));
      const perimeter = measureBoundary(view.mesh, shape.extents.min[2]);
      if (perimeter !== null) add('GrossPerimeter', as(perimeter));
    }
  }
  add('NetVolume', shape.net);
}

/** Length of the edges of the flat floors at the bottom of a body, m; null if it has none. Pieces side by side have none between them. */
function measureBoundary(mesh: TriangleMesh, bottomM: number): number | null {
  const flat = (ring: readonly Vector3[]) => ring.map(([x, y]): Vector2 => [x, y]);
  const floors = listPlaneOutlines(mesh, (n) => n[2] < -0.999, true).filter(
    ({ outline }) => outline[0]![2] - bottomM < TOLERANCE.joint,
  );
  if (floors.length === 0) return null;
  const figures = floors.map((f): Figure => [flat(f.outline), ...(f.holes ?? []).map(flat)]);
  const run = (ring: readonly Vector2[]) =>
    ring.reduce((sum, p, i) => sum + distanceBetween(p, ring[(i + 1) % ring.length]!), 0);
  return (figures.length > 1 ? uniteFigures(figures) : figures).flat().reduce((sum, ring) => sum + run(ring), 0);
}

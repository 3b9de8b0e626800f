import type { Opening } from '../elements/model-element.ts';
import type { Facet } from '../geometry/facets.ts';
import { dot, type Vector3 } from '../geometry/vector.ts';
import type { BodyShape, FaceView } from './body-shape.ts';
import type { Measured } from './element-body.ts';

/** Notes a figure under a quantity name; what is not known is left out. */
export type AddFigure = (name: string, figure: Measured | null | undefined) => void;

/** What the measuring of one group of classes works with. */
export interface MeasureContext {
  readonly add: AddFigure;
  readonly shape: BodyShape;
  /** Area that openings take out of the face square to `normal`, m2; null if only a mesh can tell. */
  readonly deductedM2: number | null;
  readonly normal: Vector3 | null;
  readonly openings: readonly Opening[];
  /** Sum of the layer thicknesses, m, if the element is layered. */
  readonly layersM: number | null;
}

/** A face looks a way if its normal is within 45° of it. */
export const TOWARDS = Math.SQRT1_2;

/** Extents of a body along its own axes, m. */
export function sizeOf({ extents: { min, max } }: BodyShape): Vector3 {
  return [max[0] - min[0], max[1] - min[1], max[2] - min[2]];
}

/** Faces lie in one plane if they do within this, m. */
const IN_PLANE_M = 2e-3;

/**
 * Tells faces of a body with openings cut out that are faces of it without openings too; the others are reveals. True for all while
 * the faces without openings are not known.
 */
export function isOnFaces(view: FaceView | null): (facet: Facet) => boolean {
  if (!view) return () => true;
  return (f) =>
    view.facets.some(
      (g) => dot(f.normal, g.normal) > 0.999 && Math.abs(dot(f.centre, g.normal) - g.offsetM) < IN_PLANE_M,
    );
}

/** Sum of the areas of faces, m2. */
export const sumAreas = (facets: readonly Facet[]): number => facets.reduce((sum, f) => sum + f.areaM2, 0);

/** How far a body reaches along a direction, m. */
export function reachAlong({ mesh: { positions, indices } }: FaceView, axis: Vector3): number {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < indices.length; i++) {
    const p = indices[i]! * 3;
    const at = positions[p]! * axis[0] + positions[p + 1]! * axis[1] + positions[p + 2]! * axis[2];
    if (at < low) low = at;
    if (at > high) high = at;
  }
  return high - low;
}

import type { Facet } from '../geometry/facets.ts';
import { measureSweptSolid } from '../geometry/swept-solid.ts';
import { TOLERANCE } from '../geometry/tolerances.ts';
import type { FaceView } from './body-shape.ts';
import { isCurved, type Measured } from './element-body.ts';
import { measureSweptFaces } from './face-areas.ts';
import { type AddFigure, type MeasureContext, sizeOf, sumAreas, TOWARDS } from './measure-context.ts';

/** Longer and shorter side on plan, height, volumes. */
function addSizes({ add, shape }: MeasureContext): void {
  const [dx, dy, dz] = sizeOf(shape);
  const as = (value: number): Measured => ({
    value,
    method: shape.extentsExactness === 'exact' ? (shape.formed ? 'formed' : 'swept') : 'mesh',
    exactness: shape.extentsExactness,
  });
  add('Length', as(Math.max(dx, dy)));
  add('Width', as(Math.min(dx, dy)));
  add('Height', as(dz));
  add('GrossVolume', shape.gross);
  add('NetVolume', shape.net);
}

const figureOf = (view: FaceView, facets: readonly Facet[]): Measured => ({
  value: sumAreas(facets),
  method: view.method,
  exactness: view.exactness,
});

/** Measures a footing by its body. */
export function measureFooting(c: MeasureContext): void {
  const { add, shape } = c;
  addSizes(c);
  const { solid } = shape;
  const exact = (value: number): Measured => ({ value, method: 'swept', exactness: 'exact' });
  if (solid && isCurved(solid)) {
    const faces = measureSweptFaces(solid, { up: [0, 0, 1] });
    add('SidesArea', exact(faces.sidesM2));
    add('TopArea', exact(faces.topM2));
    add('BottomArea', exact(faces.bottomM2));
    add('OuterSurfaceArea', exact(measureSweptSolid(solid).lateralAreaM2));
    return;
  }
  const view = shape.grossFaces();
  if (!view) return;
  const { facets } = view;
  const sides = facets.filter((f) => Math.abs(f.normal[2]) <= TOWARDS);
  add('SidesArea', figureOf(view, sides));
  add('TopArea', figureOf(view, facets.filter((f) => f.normal[2] > TOWARDS))); // biome-ignore format: one line
  add('BottomArea', figureOf(view, facets.filter((f) => f.normal[2] < -TOWARDS))); // biome-ignore format: one line
  // Which of its faces are ends only the sweep tells: of a footing by faces the outer surface is not known.
  if (solid) add('OuterSurfaceArea', exact(measureSweptSolid(solid).lateralAreaM2));
}

/** Measures a body of no class of its own: its sizes, volumes and whole surface. */
export function measureOther(c: MeasureContext): void {
  const { add, shape } = c;
  addSizes(c);
  const { solid, formed } = shape;
  if (formed)
    add('OuterSurfaceArea', { value: formed.lateralM2 + formed.endsM2, method: 'formed', exactness: 'exact' });
  else if (solid) {
    const { lateralAreaM2, areaM2 } = measureSweptSolid(solid);
    add('OuterSurfaceArea', { value: lateralAreaM2 + 2 * areaM2, method: 'swept', exactness: 'exact' });
  } else {
    const view = shape.grossFaces();
    if (view) add('OuterSurfaceArea', figureOf(view, view.facets));
  }
}

/** Measures doors and windows: their overall size as the element says, else that of the body. */
export function measureFiller(
  add: AddFigure,
  shape: MeasureContext['shape'] | null,
  overall: { readonly widthM: number | null; readonly heightM: number | null } | null,
): void {
  const pick = (said: number | null | undefined, size: number | undefined): Measured | null =>
    said
      ? { value: said, method: 'attribute', exactness: 'exact' }
      : shape && size && size > TOLERANCE.point
        ? { value: size, method: shape.extentsExactness === 'mesh' ? 'mesh' : 'swept', exactness: shape.extentsExactness } // biome-ignore format: one line
        : null;
  const size = shape && sizeOf(shape);
  const width = pick(overall?.widthM, size ? Math.max(size[0], size[1]) : undefined);
  const height = pick(overall?.heightM, size?.[2]);
  add('Width', width);
  add('Height', height);
  if (width && height) {
    const both = { method: width.method === height.method ? width.method : 'attribute', exactness: width.exactness === 'mesh' || height.exactness === 'mesh' ? 'mesh' : 'exact' } as const; // biome-ignore format: one record
    add('Perimeter', { value: 2 * (width.value + height.value), ...both });
    add('Area', { value: width.value * height.value, ...both });
  }
  add('NetVolume', shape?.net);
}

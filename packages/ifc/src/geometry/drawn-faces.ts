import { areaVector, lengthOf, type Matrix, normalize, transformDirection, type Vector3 } from '@tally/core';
import { asCoordinates, asNumber, asNumbers, asRef, asRefs, type StepFile } from '../step/step-file.ts';
import type { StepValue } from '../step/step-value.ts';
import type { SurfaceStyleReader } from './surface-styles.ts';

/** A face of a body that is drawn by its faces: what it is styled with, its area and the way it looks, in the element's frame. */
export interface DrawnFace {
  readonly style: string | null;
  readonly areaM2: number;
  readonly normal: Vector3;
}

/**
 * Faces of a faceted body or a face set whose faces are styled one by one; null if they are not. Holes of a face are deducted.
 * @param style what the body as a whole is styled with, for the faces that say nothing
 */
export function readDrawnFaces(
  file: StepFile,
  styles: SurfaceStyleReader,
  id: number,
  style: string | null,
  matrix: Matrix,
  metres: number,
): DrawnFace[] | null {
  const measure = (area: Vector3, own: string | null): DrawnFace => ({
    style: own ?? style,
    areaM2: lengthOf(area) * metres * metres,
    normal: normalize(transformDirection(matrix, area)),
  });
  const type = file.typeOf(id);
  if (type === 'IFCFACETEDBREP' || type === 'IFCFACETEDBREPWITHVOIDS') {
    const shell = asRef(file.attributes(id)[0]);
    const faces = shell === null ? [] : asRefs(file.attributes(shell)[0]);
    if (!faces.some((f) => styles.styleOf(f) !== null)) return null;
    return faces.map((f) => measure(measureFace(file, f), styles.styleOf(f)));
  }
  if (type === 'IFCTRIANGULATEDFACESET' || type === 'IFCPOLYGONALFACESET') {
    const colours = styles.coloursOf(id);
    if (!colours) return null;
    const a = file.attributes(id);
    const points = readPoints(file, asRef(a[0]));
    const loops = type === 'IFCTRIANGULATEDFACESET' ? readTriangles(a[3]) : readPolygons(file, asRefs(a[2]));
    return loops.map((loop, i) => measure(areaVector(loop.map((n) => points[n - 1] ?? [0, 0, 0])), colours[i] ?? null));
  }
  return null;
}

function measureFace(file: StepFile, face: number): Vector3 {
  const sum: [number, number, number] = [0, 0, 0];
  for (const bound of asRefs(file.attributes(face)[0])) {
    const loop = asRef(file.attributes(bound)[0]);
    const points = loop === null ? [] : asRefs(file.attributes(loop)[0]).map((p) => readPoint(file.attributes(p)[0]));
    const area = areaVector(points);
    // A hole's outline runs the other way; files disagree, so its area is taken off whichever way it runs.
    const isHole = !file.is(bound, 'IFCFACEOUTERBOUND') && lengthOf(sum) > 0;
    const sign = isHole && area[0] * sum[0] + area[1] * sum[1] + area[2] * sum[2] > 0 ? -1 : 1;
    for (let k = 0; k < 3; k++) sum[k]! += sign * area[k]!;
  }
  return sum;
}

const readPoint = (value: StepValue | undefined): Vector3 => asCoordinates(value ?? null);

function readPoints(file: StepFile, list: number | null): Vector3[] {
  const rows = list === null ? [] : file.attributes(list)[0];
  return Array.isArray(rows) ? rows.map((row) => readPoint(row)) : [];
}

const readTriangles = (rows: StepValue | undefined): number[][] =>
  Array.isArray(rows) ? rows.map((row) => (Array.isArray(row) ? row.map((v) => asNumber(v) ?? 0) : [])) : [];

const readPolygons = (file: StepFile, faces: readonly number[]): number[][] =>
  faces.map((f) => asNumbers(file.attributes(f)[0] ?? null));

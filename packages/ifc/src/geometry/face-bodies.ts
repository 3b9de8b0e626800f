import {
  cross,
  dot,
  type Matrix,
  meshPolygons,
  type SpacePolygon,
  type TriangleMesh,
  transformPoint,
  type Vector3,
} from '@tally/core';
import { asCoordinates, asEnum, asNumbers, asRef, asRefs, type StepFile } from '../step/step-file.ts';
import type { StepValue } from '../step/step-value.ts';

/** Kinds of bodies that are drawn by flat faces. */
export const FACE_BODIES: ReadonlySet<string> = new Set([
  'IFCFACETEDBREP',
  'IFCFACETEDBREPWITHVOIDS',
  'IFCTRIANGULATEDFACESET',
  'IFCPOLYGONALFACESET',
  'IFCSHELLBASEDSURFACEMODEL',
  'IFCFACEBASEDSURFACEMODEL',
]);

/** More corners than this are left to the mesh reader. */
const MOST_CORNERS = 400_000;

/**
 * Reads a body drawn by flat faces as triangles, metres, after a map. Null if something of it is no flat polygon or points to nothing:
 * then the mesh reader may still know.
 */
export function readFaceBody(file: StepFile, id: number, matrix: Matrix, lengthFactor: number): TriangleMesh | null {
  const faces = listFaces(file, id, new PointReader(file, lengthFactor));
  if (!faces || faces.length === 0) return null;
  const isMirrored = dot(cross([matrix[0], matrix[4], matrix[8]], [matrix[1], matrix[5], matrix[9]]), [matrix[2], matrix[6], matrix[10]]) < 0; // biome-ignore format: one determinant
  const placed = faces.map((rings) =>
    rings.map((ring) => {
      const moved = ring.map((p) => transformPoint(matrix, p));
      return isMirrored ? moved.reverse() : moved;
    }),
  );
  return meshPolygons(placed);
}

class PointReader {
  private readonly known = new Map<number, Vector3>();
  count = 0;

  constructor(
    private readonly file: StepFile,
    readonly factor: number,
  ) {}

  read(id: number): Vector3 {
    let p = this.known.get(id);
    if (!p) {
      p = this.toPoint(this.file.attributes(id)[0] ?? null);
      this.known.set(id, p);
    }
    this.count++;
    return p;
  }

  toPoint(value: StepValue): Vector3 {
    const [x, y, z] = asCoordinates(value);
    return [x * this.factor, y * this.factor, z * this.factor];
  }
}

function listFaces(file: StepFile, id: number, points: PointReader): SpacePolygon[] | null {
  const a = file.attributes(id);
  switch (file.typeOf(id)) {
    case 'IFCFACETEDBREP':
      return readShells(file, [asRef(a[0])], points);
    case 'IFCFACETEDBREPWITHVOIDS':
      return readShells(file, [asRef(a[0]), ...asRefs(a[1])], points);
    case 'IFCSHELLBASEDSURFACEMODEL':
    case 'IFCFACEBASEDSURFACEMODEL':
      return readShells(file, asRefs(a[0]), points);
    case 'IFCTRIANGULATEDFACESET': {
      const all = readPointList(file, asRef(a[0]), points);
      const renumber = Array.isArray(a[4]) ? asNumbers(a[4]) : null;
      return all && Array.isArray(a[3]) ? pickFaces(a[3].map((row) => [asNumbers(row)]), all, renumber) : null; // biome-ignore format: one line
    }
    case 'IFCPOLYGONALFACESET': {
      const all = readPointList(file, asRef(a[0]), points);
      const renumber = Array.isArray(a[3]) ? asNumbers(a[3]) : null;
      if (!all) return null;
      const rings = asRefs(a[2]).map((f) => {
        const [outer, inner] = file.attributes(f);
        const holes = file.typeOf(f) === 'IFCINDEXEDPOLYGONALFACEWITHVOIDS' && Array.isArray(inner) ? inner.map(asNumbers) : []; // biome-ignore format: one line
        return [asNumbers(outer ?? null), ...holes];
      });
      return pickFaces(rings, all, renumber);
    }
    default:
      return null;
  }
}

function readPointList(file: StepFile, list: number | null, points: PointReader): Vector3[] | null {
  const rows = list === null ? null : file.attributes(list)[0];
  return Array.isArray(rows) && rows.length <= MOST_CORNERS ? rows.map((row) => points.toPoint(row)) : null;
}

function pickFaces(
  faces: readonly (readonly (readonly number[])[])[],
  points: readonly Vector3[],
  renumber: readonly number[] | null,
): SpacePolygon[] | null {
  const out: SpacePolygon[] = [];
  for (const rings of faces) {
    const made: Vector3[][] = [];
    for (const ring of rings) {
      const picked = ring.map((n) => points[(renumber ? (renumber[n - 1] ?? 0) : n) - 1]);
      if (picked.some((p) => p === undefined)) return null;
      made.push(picked as Vector3[]);
    }
    out.push(made);
  }
  return out;
}

function readShells(file: StepFile, shells: readonly (number | null)[], points: PointReader): SpacePolygon[] | null {
  const out: SpacePolygon[] = [];
  for (const shell of shells) {
    if (shell === null) return null;
    for (const face of asRefs(file.attributes(shell)[0])) {
      const rings = readFace(file, face, points);
      if (!rings || points.count > MOST_CORNERS) return null;
      out.push(rings);
    }
  }
  return out;
}

/** Rings of a face, the outer one first; null if a bound is no polygon. */
function readFace(file: StepFile, face: number, points: PointReader): SpacePolygon | null {
  // Faces on a surface of their own may be curved.
  if (file.typeOf(face) !== 'IFCFACE') return null;
  const rings: { ring: Vector3[]; isOuter: boolean }[] = [];
  for (const bound of asRefs(file.attributes(face)[0])) {
    const [loop, orientation] = file.attributes(bound);
    const id = asRef(loop);
    if (id === null || file.typeOf(id) !== 'IFCPOLYLOOP') return null;
    const ring = asRefs(file.attributes(id)[0]).map((p) => points.read(p));
    if (ring.length < 3) continue;
    if (asEnum(orientation ?? null) === 'F') ring.reverse();
    rings.push({ ring, isOuter: file.is(bound, 'IFCFACEOUTERBOUND') });
  }
  const first = rings.findIndex((r) => r.isOuter);
  if (first > 0) rings.unshift(...rings.splice(first, 1));
  return rings.map((r) => r.ring);
}

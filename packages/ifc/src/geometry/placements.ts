import { frameToMatrix, IDENTITY, type Matrix, multiplyMatrices, type Vector3 } from '@tally/core';
import { asCoordinates, asNumber, asRef, type StepFile } from '../step/step-file.ts';
import type { StepValue } from '../step/step-value.ts';

/** Reads coordinate systems; lengths come out in metres. */
export class PlacementReader {
  private readonly objects = new Map<number, Matrix>();
  private readonly damaged = new Set<number>();

  constructor(
    private readonly file: StepFile,
    readonly lengthFactor: number,
  ) {}

  /** World matrix of an IfcObjectPlacement. A circle among placements is noted as damage and read as the origin. */
  readObject(ref: number | null): Matrix {
    const chain: number[] = [];
    const seen = new Set<number>();
    let at = ref;
    while (at !== null && !this.objects.has(at)) {
      if (seen.has(at)) {
        this.file.noteDamage(at, 'placements refer to each other in a circle');
        break;
      }
      seen.add(at);
      chain.push(at);
      at = this.file.is(at, 'IFCLOCALPLACEMENT') ? asRef(this.file.attributes(at)[0]) : null;
    }
    let matrix = at === null ? IDENTITY : (this.objects.get(at) ?? IDENTITY);
    for (const id of chain.reverse()) {
      const local = this.file.is(id, 'IFCLOCALPLACEMENT')
        ? this.readAxis(asRef(this.file.attributes(id)[1]))
        : IDENTITY;
      matrix = multiplyMatrices(matrix, local);
      this.objects.set(id, matrix);
      const [parent, axis] = this.file.attributes(id);
      const isBelow = asRef(parent ?? null) !== null && this.damaged.has(asRef(parent ?? null)!);
      if (isBelow || this.isAxisDamaged(asRef(axis ?? null))) this.damaged.add(id);
    }
    return matrix;
  }

  /** True if an object's place cannot be told, as it or what it stands in is damaged. Read it first. */
  isObjectDamaged(ref: number | null): boolean {
    return ref !== null && this.damaged.has(ref);
  }

  /** Matrix of an IfcAxis2Placement2D or 3D; the identity if there is none. */
  readAxis(ref: number | null): Matrix {
    if (ref === null) return IDENTITY;
    const a = this.file.attributes(ref);
    const origin = this.point(a[0]);
    if (this.file.typeOf(ref) === 'IFCAXIS2PLACEMENT2D') return frameToMatrix(origin, undefined, this.direction(a[1]));
    return frameToMatrix(origin, this.direction(a[1]), this.direction(a[2]));
  }

  /** A point in metres; missing coordinates are 0. */
  point(value: StepValue): Vector3 {
    const ref = asRef(value);
    if (ref === null) return [0, 0, 0];
    const p = asCoordinates(this.file.attributes(ref)[0]);
    const f = this.lengthFactor;
    return [p[0] * f, p[1] * f, p[2] * f];
  }

  /** A direction, of any length; undefined if there is none. One without length is noted as damage. */
  direction(value: StepValue): Vector3 | undefined {
    const ref = asRef(value);
    if (ref === null) return undefined;
    const d = asCoordinates(this.file.attributes(ref)[0]);
    if (d[0] * d[0] + d[1] * d[1] + d[2] * d[2] > 1e-24) return d;
    if (this.file.is(ref, 'IFCDIRECTION')) this.file.noteDamage(ref, 'it is a direction without length');
    return undefined;
  }

  /** True if a coordinate system, or one of its directions, is damaged: what stands by it stands nowhere. */
  isAxisDamaged(ref: number | null): boolean {
    if (ref === null) return false;
    if (this.file.isDamaged(ref)) return true;
    return this.file.attributes(ref).some((v) => {
      const part = asRef(v);
      return part !== null && this.file.isDamaged(part);
    });
  }

  /** Matrix of a cartesian transformation operator, and whether it scales. */
  readOperator(ref: number): { matrix: Matrix; isScaled: boolean } {
    const a = this.file.attributes(ref);
    const isFlat = this.file.is(ref, 'IFCCARTESIANTRANSFORMATIONOPERATOR2D');
    const x = this.direction(a[0]) ?? [1, 0, 0];
    const y = this.direction(a[1]);
    const z = isFlat ? undefined : this.direction(a[4]);
    const scales = [asNumber(a[3]), ...(isFlat ? [asNumber(a[4])] : [asNumber(a[5]), asNumber(a[6])])].filter(
      (s) => s !== null,
    );
    const matrix = frameToMatrix(this.point(a[2]), z ?? [0, 0, 1], x);
    const isMirrored = y !== undefined && matrix[1] * y[0] + matrix[5] * y[1] + matrix[9] * y[2] < 0;
    const mirrored = isMirrored ? (matrix.map((v, i) => (i % 4 === 1 ? -v : v)) as unknown as Matrix) : matrix;
    return { matrix: mirrored, isScaled: scales.some((s) => Math.abs(s - 1) > 1e-9) };
  }
}

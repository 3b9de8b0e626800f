import {
  clipMesh,
  type FormedSolid,
  foldText,
  formCone,
  formSphere,
  formSweptDisk,
  formSweptProfile,
  frameToMatrix,
  IDENTITY,
  invertRigid,
  type Matrix,
  meshPolygons,
  meshSweptSolid,
  moveFormed,
  multiplyMatrices,
  normalize,
  orientMesh,
  type SweptSolid,
  type TriangleMesh,
  transformPoint,
  type Vector2,
  type Vector3,
} from '@tally/core';
import { asEnum, asNumber, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';
import type { StepValue } from '../step/step-value.ts';
import { CurveReader } from './curves.ts';
import { readDrawnFaces } from './drawn-faces.ts';
import { FACE_BODIES, readFaceBody } from './face-bodies.ts';
import type { FileUnits } from './file-units.ts';
import { PlacementReader } from './placements.ts';
import { type PlacedProfile, ProfileReader } from './profiles.ts';
import {
  DAMAGED,
  type Gathering,
  hasShape,
  joinBodies,
  type MappedBody,
  merge,
  nothing,
  placeMapped,
  type ReadBody,
} from './read-body.ts';
import { revolve } from './revolved.ts';
import { SpaceCurveReader } from './space-curves.ts';
import type { SurfaceStyleReader } from './surface-styles.ts';

const DEEPEST = 40;
const NO_BODY = ['axis', 'footprint', 'box', 'profile', 'survey', 'lighting', 'clearance', 'cog', 'reference'];

/** Items that are no bodies. */
const NO_ITEMS: ReadonlySet<string> = new Set([
  'IFCPOLYLINE', 'IFCANNOTATIONFILLAREA', 'IFCTEXTLITERAL', 'IFCTEXTLITERALWITHEXTENT', 'IFCGEOMETRICCURVESET',
  'IFCBOUNDINGBOX', 'IFCCARTESIANPOINT', 'IFCINDEXEDPOLYCURVE', 'IFCCOMPOSITECURVE', 'IFCTRIMMEDCURVE', 'IFCCIRCLE',
]); // biome-ignore format: one list

/** Reads bodies of products from their shape representations, in the product's own frame, metres. */
export class BodyReader {
  readonly placements: PlacementReader;
  private readonly curves: CurveReader;
  private readonly spaceCurves: SpaceCurveReader;
  private readonly profiles: ProfileReader;
  private readonly angleFactor: number;
  private readonly items = new Map<number, ReadBody>();
  private readonly mapped = new Map<number, MappedBody>();

  constructor(
    private readonly file: StepFile,
    units: FileUnits,
    private readonly styles: SurfaceStyleReader,
  ) {
    this.placements = new PlacementReader(file, units.length);
    this.curves = new CurveReader(file, this.placements, units.angle);
    this.spaceCurves = new SpaceCurveReader(file, this.placements, units.angle);
    this.profiles = new ProfileReader(file, this.placements, this.curves);
    this.angleFactor = units.angle;
  }

  /** Body of a product definition shape; null if it has no body at all. */
  readShape(shape: number | null): ReadBody | null {
    if (shape === null) return null;
    const representations = asRefs(this.file.attributes(shape)[2]).filter((r) => this.isBody(r));
    const main = representations.filter((r) => foldText(asText(this.file.attributes(r)[1]) ?? '') === 'body');
    const chosen = main.length > 0 ? main : representations.slice(0, 1);
    if (chosen.length === 0) return this.file.isDamaged(shape) ? DAMAGED : null;
    const body = joinBodies(chosen.map((r) => this.readRepresentation(r, [])));
    return hasShape(body) ? body : null;
  }

  /** Middle line of a wall on plan from its Axis representation, in the element's frame, metres; null if there is none. */
  readAxis(shape: number | null): Vector2[] | null {
    if (shape === null) return null;
    for (const r of asRefs(this.file.attributes(shape)[2])) {
      const a = this.file.attributes(r);
      if (foldText(asText(a[1]) ?? '') !== 'axis') continue;
      for (const item of asRefs(a[3])) {
        const points = this.curves.readLine(item);
        if (points && points.length > 1) return points;
      }
    }
    return null;
  }

  private isBody(representation: number): boolean {
    const a = this.file.attributes(representation);
    if (this.file.isDamaged(representation)) return true;
    return (
      this.file.is(representation, 'IFCSHAPEREPRESENTATION') &&
      !NO_BODY.includes(foldText(asText(a[1]) ?? '')) &&
      asRefs(a[3]).length > 0
    );
  }

  private readRepresentation(id: number, trail: readonly number[]): ReadBody {
    const items = asRefs(this.file.attributes(id)[3]);
    const body = joinBodies(items.map((item) => this.readItem(item, IDENTITY, trail)));
    return this.file.isDamaged(id) && !body.isDamaged ? { ...body, isDamaged: true } : body;
  }

  /** One item; of a map that is shown alike many times the very same body. */
  private readItem(id: number, matrix: Matrix, trail: readonly number[]): ReadBody {
    if (trail.includes(id) || trail.length > DEEPEST) {
      this.file.noteDamage(id, 'it refers to itself through its operands');
      return DAMAGED;
    }
    const kept = matrix === IDENTITY ? this.items.get(id) : undefined;
    if (kept) return kept;
    const isMapped = this.file.typeOf(id) === 'IFCMAPPEDITEM';
    const read = isMapped ? this.readMappedItem(id, matrix, [...trail, id]) : this.gather(id, matrix, [...trail, id]);
    const style = this.styles.styleOf(id);
    const isPlain = style === null || read.items.every((item) => item.style !== null);
    const styled = isPlain
      ? read
      : { ...read, items: read.items.map((item) => ({ ...item, style: item.style ?? style })) };
    const body = this.file.isDamaged(id) && !styled.isDamaged ? { ...styled, isDamaged: true } : styled;
    if (matrix === IDENTITY) this.items.set(id, body);
    return body;
  }

  private gather(id: number, matrix: Matrix, trail: readonly number[]): ReadBody {
    const own = nothing();
    this.gatherKind(id, matrix, own, trail);
    return own;
  }

  private gatherItem(id: number, matrix: Matrix, into: Gathering, trail: readonly number[]): void {
    merge(into, this.readItem(id, matrix, trail));
  }

  private readMappedItem(id: number, matrix: Matrix, trail: readonly number[]): ReadBody {
    const a = this.file.attributes(id);
    const [map, target] = [asRef(a[0] ?? null), asRef(a[1] ?? null)];
    if (map === null || target === null) return DAMAGED;
    const [origin, shown] = this.file.attributes(map);
    const operator = this.placements.readOperator(target);
    const representation = asRef(shown ?? null);
    if (representation === null) return DAMAGED;
    if (operator.isScaled) {
      const own = nothing();
      this.addOther(id, matrix, own);
      return own;
    }
    const from = this.placements.readAxis(asRef(origin ?? null));
    const placed = multiplyMatrices(matrix, multiplyMatrices(operator.matrix, invertRigid(from)));
    return placeMapped(this.readMapped(representation, trail), placed);
  }

  private gatherKind(id: number, matrix: Matrix, into: Gathering, trail: readonly number[]): void {
    const a = this.file.attributes(id);
    switch (this.file.typeOf(id)) {
      case 'IFCEXTRUDEDAREASOLID':
        return this.gatherExtrusion(id, matrix, into);
      case 'IFCREVOLVEDAREASOLID':
        return this.gatherRevolved(id, matrix, into);
      case 'IFCSWEPTDISKSOLID':
      case 'IFCSWEPTDISKSOLIDPOLYGONAL': {
        const path = this.readDirectrix(a[0], a[3], a[4], (asNumber(a[5] ?? null) ?? 0) * this.placements.lengthFactor);
        const f = this.placements.lengthFactor;
        return this.addFormed(id, matrix, into, path && formSweptDisk(path, (asNumber(a[1]) ?? 0) * f, (asNumber(a[2]) ?? 0) * f)); // biome-ignore format: one call
      }
      case 'IFCFIXEDREFERENCESWEPTAREASOLID':
      case 'IFCSURFACECURVESWEPTAREASOLID': {
        const placed = asRef(a[0]) === null ? null : this.profiles.read(asRef(a[0])!);
        const path = placed && this.readDirectrix(a[2], a[3], a[4], 0);
        const solid = path && formSweptProfile(path, placed.profile, placed.position);
        const position = this.placements.readAxis(asRef(a[1]));
        return this.addFormed(id, multiplyMatrices(matrix, position), into, solid);
      }
      case 'IFCBLOCK':
      case 'IFCRIGHTCIRCULARCYLINDER':
      case 'IFCSPHERE':
      case 'IFCRIGHTCIRCULARCONE':
      case 'IFCRECTANGULARPYRAMID':
        return this.gatherPrimitive(id, matrix, into);
      case 'IFCBOOLEANCLIPPINGRESULT':
      case 'IFCBOOLEANRESULT': {
        const [first, second] = [asRef(a[1]), asRef(a[2])];
        if (first === null || second === null) into.isDamaged = true;
        else if (asEnum(a[0]) === 'DIFFERENCE' && this.cutByPlane(id, first, second, matrix, into, trail)) return;
        else if (asEnum(a[0]) === 'DIFFERENCE') {
          this.gatherItem(first, matrix, into, trail);
          this.checkOperand(second, into, trail);
          into.isClipped = true;
          into.items = [{ id, style: into.items[0]?.style ?? null, solid: null, faces: null }];
        } else {
          this.checkOperand(first, into, trail);
          this.checkOperand(second, into, trail);
          this.addOther(id, matrix, into);
        }
        return;
      }
      case 'IFCCSGSOLID':
        if (asRef(a[0]) === null) into.isDamaged = true;
        else this.gatherItem(asRef(a[0])!, matrix, into, trail);
        return;
      case '':
        into.isDamaged = true;
        return;
      default:
        if (FACE_BODIES.has(this.file.typeOf(id))) this.addFaces(id, matrix, into);
        else if (!NO_ITEMS.has(this.file.typeOf(id))) this.addOther(id, matrix, into);
    }
  }

  /**
   * Cuts straight solids by a half-space without bounds. False if the cut is of another kind, or what is cut is: then the mesh reader
   * knows.
   */
  private cutByPlane(
    id: number,
    first: number,
    second: number,
    matrix: Matrix,
    into: Gathering,
    trail: readonly number[],
  ): boolean {
    const kind = this.file.typeOf(second);
    if (kind !== 'IFCHALFSPACESOLID' && kind !== 'IFCBOXEDHALFSPACE') return false;
    const [surface, agreement] = this.file.attributes(second);
    const plane = asRef(surface ?? null);
    if (plane === null || this.file.typeOf(plane) !== 'IFCPLANE') return false;
    const own = nothing();
    this.gatherItem(first, matrix, own, trail);
    const isCut = own.base !== null && own.drawn.length === 1 && own.solids.length === 0;
    const isPlain = own.solids.length === 1 && own.drawn.length === 0;
    if (own.isClipped || own.hasOther || own.isDamaged || own.formed.length > 0 || !(isCut || isPlain)) return false;
    const base = own.base ?? own.solids[0]!;
    if (!(base.depth > 0)) return false;
    const axis = multiplyMatrices(matrix, this.placements.readAxis(asRef(this.file.attributes(plane)[0])));
    const z = normalize([axis[2], axis[6], axis[10]]);
    // The half-space lies where the normal points away from if the flag agrees; the other half is kept.
    const sign = asEnum(agreement ?? null) === 'F' ? 1 : -1;
    const normal: Vector3 = [z[0] * sign, z[1] * sign, z[2] * sign];
    const offsetM = normal[0] * axis[3] + normal[1] * axis[7] + normal[2] * axis[11];
    const mesh = clipMesh(own.drawn[0] ?? orientMesh(meshSweptSolid(base)), { normal, offsetM });
    into.drawn.push(mesh);
    into.base = into.drawn.length === 1 && into.solids.length === 0 ? base : null;
    into.items.push({ id, style: own.items[0]?.style ?? null, solid: null, faces: null, drawn: mesh });
    return true;
  }

  /** What a representation map shows, in its own frame: read once however many elements show it. */
  private readMapped(representation: number, trail: readonly number[]): MappedBody {
    const known = this.mapped.get(representation);
    if (known) return known;
    const mapped: MappedBody = { own: this.readRepresentation(representation, trail), placed: [] };
    this.mapped.set(representation, mapped);
    return mapped;
  }

  private readDirectrix(
    curve: StepValue | undefined,
    from: StepValue | undefined,
    to: StepValue | undefined,
    filletM: number,
  ) {
    const id = asRef(curve ?? null);
    return id === null
      ? null
      : this.spaceCurves.readDirectrix(id, asParameter(from ?? null), asParameter(to ?? null), filletM);
  }

  /** A solid by formula; one whose formula does not hold is left to the mesh. */
  private addFormed(id: number, matrix: Matrix, into: Gathering, solid: FormedSolid | null): void {
    if (!solid) return this.addOther(id, matrix, into);
    into.formed.push(matrix === IDENTITY ? solid : moveFormed(solid, matrix));
    into.items.push({ id, style: this.styles.styleOf(id), solid: null, faces: null });
  }

  private addSolid(id: number, into: Gathering, solid: SweptSolid): void {
    into.solids.push(solid);
    into.sweeps.push(id);
    into.items.push({ id, style: this.styles.styleOf(id), solid, faces: null });
  }

  private gatherRevolved(id: number, matrix: Matrix, into: Gathering): void {
    const a = this.file.attributes(id);
    const [area, axis] = [asRef(a[0]), asRef(a[2])];
    const placed = area === null ? null : this.profiles.read(area);
    const angle = (asNumber(a[3]) ?? 0) * this.angleFactor;
    if (area === null || axis === null || this.file.isDamaged(area)) {
      into.isDamaged = true;
      return;
    }
    const [location, direction] = this.file.attributes(axis);
    const at = this.placements.point(location);
    const along = this.placements.direction(direction) ?? [0, 0, 1];
    const frame = multiplyMatrices(matrix, this.placements.readAxis(asRef(a[1])));
    const made = placed && revolve(placed, frame, at, along, angle);
    if (!made) this.addOther(id, matrix, into);
    else if (made.swept) this.addSolid(id, into, made.swept);
    else this.addFormed(id, IDENTITY, into, made.formed);
  }

  private gatherPrimitive(id: number, matrix: Matrix, into: Gathering): void {
    const a = this.file.attributes(id);
    const f = this.placements.lengthFactor;
    const [x, y, z] = [1, 2, 3].map((i) => (asNumber(a[i] ?? null) ?? 0) * f) as [number, number, number];
    const frame = multiplyMatrices(matrix, this.placements.readAxis(asRef(a[0])));
    const prism = (profile: SweptSolid['profile'], at: Vector3, depth: number) =>
      this.addSolid(id, into, { profile, placement: multiplyMatrices(frame, frameToMatrix(at)), direction: [0, 0, 1], depth }); // biome-ignore format: one call
    switch (this.file.typeOf(id)) {
      case 'IFCBLOCK':
        if (x > 0 && y > 0 && z > 0) return prism({ kind: 'rectangle', x, y, radius: 0 }, [x / 2, y / 2, 0], z);
        break;
      case 'IFCRIGHTCIRCULARCYLINDER':
        if (x > 0 && y > 0) return prism({ kind: 'circle', radius: y }, [0, 0, 0], x);
        break;
      case 'IFCSPHERE':
        return this.addFormed(id, IDENTITY, into, formSphere(frame, x));
      case 'IFCRIGHTCIRCULARCONE':
        return this.addFormed(id, IDENTITY, into, formCone(frame, x, y));
      case 'IFCRECTANGULARPYRAMID':
        if (x > 0 && y > 0 && z > 0) return this.addDrawn(id, into, drawPyramid(frame, x, y, z));
    }
    this.addOther(id, matrix, into);
  }

  /** A body drawn by flat faces. */
  private addFaces(id: number, matrix: Matrix, into: Gathering): void {
    const mesh = readFaceBody(this.file, id, matrix, this.placements.lengthFactor);
    if (mesh && mesh.indices.length > 0) this.addDrawn(id, into, mesh, matrix);
    else this.addOther(id, matrix, into);
  }

  private addDrawn(id: number, into: Gathering, mesh: TriangleMesh, matrix: Matrix = IDENTITY): void {
    const style = this.styles.styleOf(id);
    const faces = readDrawnFaces(this.file, this.styles, id, style, matrix, this.placements.lengthFactor);
    into.drawn.push(mesh);
    into.items.push({ id, style, solid: null, faces, drawn: mesh });
  }

  /** A body that only a mesh can measure. */
  private addOther(id: number, matrix: Matrix, into: Gathering): void {
    const style = this.styles.styleOf(id);
    const faces = readDrawnFaces(this.file, this.styles, id, style, matrix, this.placements.lengthFactor);
    into.items.push({ id, style, solid: null, faces });
    into.hasOther = true;
  }

  /** Looks through the operand of a boolean for circles and damage; its shape itself is left to the mesh. */
  private checkOperand(id: number, into: Gathering, trail: readonly number[]): void {
    if (this.readItem(id, IDENTITY, trail).isDamaged) into.isDamaged = true;
  }

  private gatherExtrusion(id: number, matrix: Matrix, into: Gathering): void {
    const a = this.file.attributes(id);
    const area = asRef(a[0]);
    const depth = (asNumber(a[3]) ?? 0) * this.placements.lengthFactor;
    const direction = normalize(this.placements.direction(a[2]) ?? [0, 0, 1]);
    const parts = area === null ? null : this.profiles.readAll(area);
    this.placements.readAxis(asRef(a[1]));
    const isLost = [a[1], a[2]].some((v) => this.placements.isAxisDamaged(asRef(v ?? null)));
    if (area === null || this.file.isDamaged(area) || isLost) into.isDamaged = true;
    else if (!parts || Math.abs(direction[2]) < 1e-9) this.addOther(id, matrix, into);
    else {
      const frame = multiplyMatrices(matrix, this.placements.readAxis(asRef(a[1])));
      for (const part of parts) this.addSolid(id, into, extrude(part, frame, direction, depth));
    }
  }
}

/** A profile drawn straight. The profile's own position turns it in its plane: the direction is told in the profile's coordinates. */
function extrude(
  { profile, position }: PlacedProfile,
  frame: Matrix,
  [dx, dy, dz]: Vector3,
  depth: number,
): SweptSolid {
  const direction: Vector3 = [position[0] * dx + position[4] * dy, position[1] * dx + position[5] * dy, dz];
  return { profile, placement: multiplyMatrices(frame, position), direction, depth };
}

/** A parameter of a curve: a plain or typed number; null if there is none. */
const asParameter = (value: StepValue): number | null => asNumber(value);

function drawPyramid(frame: Matrix, x: number, y: number, z: number): TriangleMesh {
  const [a, b, c, d, top] = ([[0, 0, 0], [x, 0, 0], [x, y, 0], [0, y, 0], [x / 2, y / 2, z]] as Vector3[]).map((p) => transformPoint(frame, p)) as [Vector3, Vector3, Vector3, Vector3, Vector3]; // biome-ignore format: five corners
  return meshPolygons([[[d, c, b, a]], [[a, b, top]], [[b, c, top]], [[c, d, top]], [[d, a, top]]]);
}

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
  transformDirection,
  transformPoint,
  type Vector2,
  type Vector3,
} from '@tally/core';
import { asEnum, asNumber, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';
import type { StepValue } from '../step/step-value.ts';
import { CurveReader } from './curves.ts';
import { type DrawnFace, readDrawnFaces } from './drawn-faces.ts';
import { FACE_BODIES, readFaceBody } from './face-bodies.ts';
import type { FileUnits } from './file-units.ts';
import { PlacementReader } from './placements.ts';
import { type PlacedProfile, ProfileReader } from './profiles.ts';
import { revolve } from './revolved.ts';
import { SpaceCurveReader } from './space-curves.ts';
import type { SurfaceStyleReader } from './surface-styles.ts';

/** One drawn item of a body: its record, its surface style, and its faces where the file styles them one by one. */
export interface BodyItem {
  readonly id: number;
  readonly style: string | null;
  /** Null for bodies other than straight solids. */
  readonly solid: SweptSolid | null;
  /** Its triangles if it is drawn by its faces. */
  readonly drawn?: TriangleMesh | null;
  readonly faces: readonly DrawnFace[] | null;
}

/** What a representation holds: solids of each kind, whether something is cut off, whether there are bodies that must be meshed. */
export interface ReadBody {
  readonly solids: readonly SweptSolid[];
  readonly formed: readonly FormedSolid[];
  readonly drawn: readonly TriangleMesh[];
  /** Record numbers of the straight solids, in their order. */
  readonly sweeps: readonly number[];
  /** The one straight solid that the one drawn body was cut from; null if there is none, or more. */
  readonly base: SweptSolid | null;
  readonly isClipped: boolean;
  readonly hasOther: boolean;
  /** A reference circle or a damaged record was met; the mesh reader must not be given this one. */
  readonly isDamaged: boolean;
  readonly items: readonly BodyItem[];
}

const DEEPEST = 40;
const NO_BODY = ['axis', 'footprint', 'box', 'profile', 'survey', 'lighting', 'clearance', 'cog', 'reference'];

interface Gathering {
  readonly solids: SweptSolid[];
  readonly formed: FormedSolid[];
  readonly drawn: TriangleMesh[];
  readonly sweeps: number[];
  base: SweptSolid | null;
  items: BodyItem[];
  isClipped: boolean;
  hasOther: boolean;
  isDamaged: boolean;
}

const nothing = (): Gathering => ({
  solids: [],
  formed: [],
  drawn: [],
  sweeps: [],
  base: null,
  items: [],
  isClipped: false,
  hasOther: false,
  isDamaged: false,
});
const hasShape = (b: ReadBody) => b.solids.length + b.formed.length + b.drawn.length > 0 || b.hasOther || b.isDamaged;

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
  private readonly mapped = new Map<number, ReadBody>();

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
    if (chosen.length === 0) return this.file.isDamaged(shape) ? { ...nothing(), isDamaged: true } : null;
    const into: Gathering = nothing();
    for (const r of chosen) this.gatherRepresentation(r, IDENTITY, into, []);
    return hasShape(into) ? into : null;
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

  private gatherRepresentation(id: number, matrix: Matrix, into: Gathering, trail: readonly number[]): void {
    const a = this.file.attributes(id);
    if (this.file.isDamaged(id)) into.isDamaged = true;
    for (const item of asRefs(a[3])) this.gatherItem(item, matrix, into, trail);
  }

  private gatherItem(id: number, matrix: Matrix, into: Gathering, trail: readonly number[]): void {
    if (trail.includes(id) || trail.length > DEEPEST) {
      this.file.noteDamage(id, 'it refers to itself through its operands');
      into.isDamaged = true;
      return;
    }
    const kept = matrix === IDENTITY ? this.items.get(id) : undefined;
    if (kept) return merge(into, kept);
    const own: Gathering = nothing();
    this.gatherKind(id, matrix, own, [...trail, id]);
    if (this.file.isDamaged(id)) own.isDamaged = true;
    const style = this.styles.styleOf(id);
    if (style !== null) own.items = own.items.map((item) => ({ ...item, style: item.style ?? style }));
    if (matrix === IDENTITY) this.items.set(id, own);
    merge(into, own);
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
      case 'IFCMAPPEDITEM': {
        const [map, target] = [asRef(a[0]), asRef(a[1])];
        if (map === null || target === null) {
          into.isDamaged = true;
          return;
        }
        const [origin, representation] = this.file.attributes(map);
        const operator = this.placements.readOperator(target);
        if (asRef(representation) === null) into.isDamaged = true;
        else if (operator.isScaled) this.addOther(id, matrix, into);
        else {
          const from = this.placements.readAxis(asRef(origin));
          const placed = multiplyMatrices(matrix, multiplyMatrices(operator.matrix, invertRigid(from)));
          merge(into, moveBody(this.readMapped(asRef(representation)!, trail), placed));
        }
        return;
      }
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
  private readMapped(representation: number, trail: readonly number[]): ReadBody {
    const known = this.mapped.get(representation);
    if (known) return known;
    const own: Gathering = nothing();
    this.gatherRepresentation(representation, IDENTITY, own, trail);
    this.mapped.set(representation, own);
    return own;
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
    into.items.push({ id, style: null, solid: null, faces: null });
  }

  private addSolid(id: number, into: Gathering, solid: SweptSolid): void {
    into.solids.push(solid);
    into.sweeps.push(id);
    into.items.push({ id, style: null, solid, faces: null });
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
    const aside: Gathering = nothing();
    this.gatherItem(id, IDENTITY, aside, trail);
    if (aside.isDamaged) into.isDamaged = true;
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

/** The same body somewhere else. */
function moveBody(body: ReadBody, matrix: Matrix): ReadBody {
  const moved = new Map(
    body.solids.map((s): [SweptSolid, SweptSolid] => [s, { ...s, placement: multiplyMatrices(matrix, s.placement) }]),
  );
  const drawn = new Map(body.drawn.map((mesh): [TriangleMesh, TriangleMesh] => [mesh, moveTriangles(mesh, matrix)]));
  const items = body.items.map((item) => ({
    ...item,
    solid: item.solid && moved.get(item.solid)!,
    ...(item.drawn ? { drawn: drawn.get(item.drawn)! } : {}),
    faces: item.faces?.map((f) => ({ ...f, normal: transformDirection(matrix, f.normal) })) ?? null,
  }));
  const formed = body.formed.map((f) => moveFormed(f, matrix));
  const base = body.base && { ...body.base, placement: multiplyMatrices(matrix, body.base.placement) };
  return { ...body, solids: [...moved.values()], formed, drawn: [...drawn.values()], base, items };
}

/** A mesh after a map; one that mirrors turns its faces, so that they still look outward. */
export function moveTriangles({ positions, indices }: TriangleMesh, m: Matrix): TriangleMesh {
  const out = new Float64Array(positions.length);
  for (let i = 0; i < out.length; i += 3)
    out.set(transformPoint(m, [positions[i]!, positions[i + 1]!, positions[i + 2]!]), i);
  const isMirrored = m[0] * (m[5] * m[10] - m[6] * m[9]) - m[1] * (m[4] * m[10] - m[6] * m[8]) + m[2] * (m[4] * m[9] - m[5] * m[8]) < 0; // biome-ignore format: one determinant
  if (!isMirrored) return { positions: out, indices };
  const turned = Uint32Array.from(indices);
  for (let i = 0; i < turned.length; i += 3) [turned[i + 1], turned[i + 2]] = [indices[i + 2]!, indices[i + 1]!];
  return { positions: out, indices: turned };
}

function merge(into: Gathering, from: ReadBody): void {
  // A body of several items was not cut from one solid.
  const isFirst = into.solids.length + into.drawn.length + into.formed.length === 0 && !into.hasOther;
  into.base = isFirst ? from.base : from.items.length === 0 ? into.base : null;
  for (const s of from.solids) into.solids.push(s);
  for (const s of from.formed) into.formed.push(s);
  for (const d of from.drawn) into.drawn.push(d);
  for (const s of from.sweeps) into.sweeps.push(s);
  into.items.push(...from.items);
  into.isClipped ||= from.isClipped;
  into.hasOther ||= from.hasOther;
  into.isDamaged ||= from.isDamaged;
}

import {
  foldText,
  IDENTITY,
  invertRigid,
  type Matrix,
  multiplyMatrices,
  normalize,
  type SweptSolid,
  transformDirection,
  type Vector2,
} from '@tally/core';
import { type DrawnFace, readDrawnFaces } from '../reader/drawn-faces.ts';
import type { FileUnits } from '../reader/file-units.ts';
import type { SurfaceStyleReader } from '../reader/surface-styles.ts';
import { asEnum, asNumber, asRef, asRefs, asText, type StepFile } from '../step/step-file.ts';
import { CurveReader } from './curves.ts';
import { PlacementReader } from './placements.ts';
import { ProfileReader } from './profiles.ts';

/** One drawn item of a body: its record, its surface style, and its faces where the file styles them one by one. */
export interface BodyItem {
  readonly id: number;
  readonly style: string | null;
  /** Null for bodies other than straight solids. */
  readonly solid: SweptSolid | null;
  readonly faces: readonly DrawnFace[] | null;
}

/** What a representation holds: straight solids, whether something is cut off, whether there are bodies of other kinds. */
export interface ReadBody {
  readonly solids: readonly SweptSolid[];
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
  items: BodyItem[];
  isClipped: boolean;
  hasOther: boolean;
  isDamaged: boolean;
}

const nothing = (): Gathering => ({ solids: [], items: [], isClipped: false, hasOther: false, isDamaged: false });

/** Reads bodies of products from their shape representations, in the product's own frame, metres. */
export class BodyReader {
  readonly placements: PlacementReader;
  private readonly curves: CurveReader;
  private readonly profiles: ProfileReader;
  private readonly items = new Map<number, ReadBody>();
  private readonly mapped = new Map<number, ReadBody>();

  constructor(
    private readonly file: StepFile,
    units: FileUnits,
    private readonly styles: SurfaceStyleReader,
  ) {
    this.placements = new PlacementReader(file, units.length);
    this.curves = new CurveReader(file, this.placements, units.angle);
    this.profiles = new ProfileReader(file, this.placements, this.curves);
  }

  /** Body of a product definition shape; null if it has no body at all. */
  readShape(shape: number | null): ReadBody | null {
    if (shape === null) return null;
    const representations = asRefs(this.file.attributes(shape)[2]).filter((r) => this.isBody(r));
    const main = representations.filter((r) => foldText(asText(this.file.attributes(r)[1]) ?? '') === 'body');
    const chosen = main.length > 0 ? main : representations.slice(0, 1);
    if (chosen.length === 0)
      return this.file.isDamaged(shape)
        ? { solids: [], isClipped: false, hasOther: false, isDamaged: true, items: [] }
        : null;
    const into: Gathering = nothing();
    for (const r of chosen) this.gatherRepresentation(r, IDENTITY, into, []);
    return into.solids.length > 0 || into.hasOther || into.isDamaged ? into : null;
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
      case 'IFCBOOLEANCLIPPINGRESULT':
      case 'IFCBOOLEANRESULT': {
        const [first, second] = [asRef(a[1]), asRef(a[2])];
        if (first === null || second === null) into.isDamaged = true;
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
      case 'IFCPOLYLINE':
      case 'IFCANNOTATIONFILLAREA':
      case 'IFCTEXTLITERAL':
        return;
      default:
        this.addOther(id, matrix, into);
    }
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
    const placed = area === null ? null : this.profiles.read(area);
    if (area === null || this.file.isDamaged(area)) into.isDamaged = true;
    else if (!placed || !(depth > 0) || Math.abs(direction[2]) < 1e-9) this.addOther(id, matrix, into);
    else {
      const { profile, position } = placed;
      const frame = multiplyMatrices(matrix, this.placements.readAxis(asRef(a[1])));
      // The profile's own position turns it in its plane: the direction is told in the profile's coordinates.
      const placement = multiplyMatrices(frame, position);
      const [dx, dy, dz] = direction;
      const turned: SweptSolid['direction'] = [
        position[0] * dx + position[4] * dy,
        position[1] * dx + position[5] * dy,
        dz,
      ];
      const solid: SweptSolid = { profile, placement, direction: turned, depth };
      into.solids.push(solid);
      into.items.push({ id, style: null, solid, faces: null });
    }
  }
}

/** The same body somewhere else. */
function moveBody(body: ReadBody, matrix: Matrix): ReadBody {
  const moved = new Map(
    body.solids.map((s): [SweptSolid, SweptSolid] => [s, { ...s, placement: multiplyMatrices(matrix, s.placement) }]),
  );
  const items = body.items.map((item) => ({
    ...item,
    solid: item.solid && moved.get(item.solid)!,
    faces: item.faces?.map((f) => ({ ...f, normal: transformDirection(matrix, f.normal) })) ?? null,
  }));
  return { ...body, solids: [...moved.values()], items };
}

function merge(into: Gathering, from: ReadBody): void {
  into.solids.push(...from.solids);
  into.items.push(...from.items);
  into.isClipped ||= from.isClipped;
  into.hasOther ||= from.hasOther;
  into.isDamaged ||= from.isDamaged;
}

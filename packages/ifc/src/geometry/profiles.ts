import {
  drawCSection,
  drawISection,
  drawLSection,
  drawTSection,
  drawUSection,
  drawZSection,
  type Flange,
  IDENTITY,
  type Matrix,
  measureSignedAreaM2,
  multiplyMatrices,
  type Outline,
  type Profile,
  polygonToOutline,
} from '@tally/core';
import { asNumber, asRef, asRefs, type StepFile } from '../step/step-file.ts';
import type { StepValue } from '../step/step-value.ts';
import type { CurveReader } from './curves.ts';
import type { PlacementReader } from './placements.ts';

/** A profile with its own position in the plane of its solid. */
export interface PlacedProfile {
  readonly profile: Profile;
  readonly position: Matrix;
}

/** Turns x into -x: a profile seen from its other side. */
const MIRROR: Matrix = [-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];

/** Reads profile definitions; null for kinds whose exact area is not known here (they are meshed). */
export class ProfileReader {
  private readonly known = new Map<number, PlacedProfile | null>();

  constructor(
    private readonly file: StepFile,
    private readonly placements: PlacementReader,
    private readonly curves: CurveReader,
  ) {}

  read(id: number): PlacedProfile | null {
    let placed = this.known.get(id);
    if (placed === undefined) {
      placed = this.readKind(id);
      this.known.set(id, placed);
    }
    return placed;
  }

  /** The profiles that a definition is made of: one, or those of a composite; null if one of them is of no known kind. */
  readAll(id: number): PlacedProfile[] | null {
    if (this.file.typeOf(id) !== 'IFCCOMPOSITEPROFILEDEF') {
      const one = this.read(id);
      return one && [one];
    }
    const parts = asRefs(this.file.attributes(id)[2]).map((p) => this.read(p));
    return parts.length > 0 && parts.every((p) => p !== null) ? parts : null;
  }

  private readKind(id: number, depth = 0): PlacedProfile | null {
    const a = this.file.attributes(id);
    const type = this.file.typeOf(id);
    if (type === 'IFCARBITRARYCLOSEDPROFILEDEF' || type === 'IFCARBITRARYPROFILEDEFWITHVOIDS') {
      const outer = asRef(a[2]) === null ? null : this.curves.readOutline(asRef(a[2])!);
      const holes = asRefs(type === 'IFCARBITRARYPROFILEDEFWITHVOIDS' ? a[3] : null).map((c) =>
        this.curves.readOutline(c),
      );
      if (!outer || holes.some((h) => h === null) || !(Math.abs(measureSignedAreaM2(outer)) > 0)) return null;
      return { profile: { kind: 'outline', outer, holes: holes as Outline[] }, position: IDENTITY };
    }
    if (type === 'IFCCENTERLINEPROFILEDEF') {
      const thickness = (asNumber(a[3]) ?? 0) * this.placements.lengthFactor;
      const outer = asRef(a[2]) === null ? null : this.curves.readBand(asRef(a[2])!, thickness);
      return outer && { profile: { kind: 'outline', outer, holes: [], isSection: true }, position: IDENTITY };
    }
    if (type === 'IFCDERIVEDPROFILEDEF' || type === 'IFCMIRROREDPROFILEDEF') return this.readDerived(a, type, depth);
    const profile = this.readStandard(type, a);
    return profile && isUsable(profile) ? { profile, position: this.placements.readAxis(asRef(a[2])) } : null;
  }

  /** A profile moved, turned or mirrored in its plane. */
  private readDerived(a: readonly StepValue[], type: string, depth: number): PlacedProfile | null {
    const parent = asRef(a[2]);
    const base = parent === null || depth > 8 ? null : this.readKind(parent, depth + 1);
    if (!base) return null;
    const operator = asRef(a[3]);
    if (type === 'IFCMIRROREDPROFILEDEF' || operator === null)
      return { ...base, position: multiplyMatrices(MIRROR, base.position) };
    const { matrix, isScaled } = this.placements.readOperator(operator);
    return isScaled ? null : { ...base, position: multiplyMatrices(matrix, base.position) };
  }

  private readStandard(type: string, a: readonly StepValue[]): Profile | null {
    const f = this.placements.lengthFactor;
    const size = (i: number) => (asNumber(a[i] ?? null) ?? 0) * f;
    const angle = (i: number) => (asNumber(a[i] ?? null) ?? 0) * this.curves.angleFactor;
    const flange = (width: number, thickness: number, fillet: number, edge: number, slope: number): Flange => ({
      width: size(width),
      thickness: size(thickness),
      fillet: size(fillet),
      edge: size(edge),
      slope: angle(slope),
    });
    switch (type) {
      case 'IFCRECTANGLEPROFILEDEF':
        return { kind: 'rectangle', x: size(3), y: size(4), radius: 0 };
      case 'IFCROUNDEDRECTANGLEPROFILEDEF':
        return { kind: 'rectangle', x: size(3), y: size(4), radius: size(5) };
      case 'IFCRECTANGLEHOLLOWPROFILEDEF':
        return {
          kind: 'rectangle-hollow',
          x: size(3),
          y: size(4),
          thickness: size(5),
          innerRadius: size(6),
          outerRadius: size(7),
        };
      case 'IFCCIRCLEPROFILEDEF':
        return { kind: 'circle', radius: size(3) };
      case 'IFCCIRCLEHOLLOWPROFILEDEF':
        return { kind: 'circle-hollow', radius: size(3), thickness: size(4) };
      case 'IFCELLIPSEPROFILEDEF':
        return { kind: 'ellipse', a: size(3), b: size(4) };
      case 'IFCISHAPEPROFILEDEF': {
        const both = flange(3, 6, 7, 8, 9);
        return both.width > 0 ? drawISection(size(4), size(5), both, both) : null;
      }
      case 'IFCASYMMETRICISHAPEPROFILEDEF': {
        // IFC2X3 has no edges and slopes here; its further attribute is the centre of gravity.
        const isOlder = a.length < 13;
        const bottom = { ...flange(3, 6, 7, 11, 12), ...(isOlder ? { edge: 0, slope: 0 } : {}) };
        const top = { ...flange(8, 9, 10, 13, 14), ...(isOlder ? { edge: 0, slope: 0 } : {}) };
        const upper = top.thickness > 0 ? top : { ...top, thickness: bottom.thickness };
        return bottom.width > 0 && top.width > 0 ? drawISection(size(4), size(5), bottom, upper) : null;
      }
      case 'IFCTSHAPEPROFILEDEF':
        return angle(10) !== 0 ? null : drawTSection(size(3), size(5), flange(4, 6, 7, 8, 11), size(9));
      case 'IFCUSHAPEPROFILEDEF':
        return drawUSection(size(3), size(5), flange(4, 6, 7, 8, 9));
      case 'IFCZSHAPEPROFILEDEF':
        return drawZSection(size(3), size(5), flange(4, 6, 7, 8, 99));
      case 'IFCCSHAPEPROFILEDEF':
        return drawCSection(size(3), size(4), size(5), size(6), size(7));
      case 'IFCLSHAPEPROFILEDEF': {
        const width = asNumber(a[4] ?? null) === null ? size(3) : size(4);
        return angle(8) !== 0 ? null : drawLSection(size(3), width, size(5), size(6), size(7));
      }
      case 'IFCTRAPEZIUMPROFILEDEF': {
        const [bottom, top, height, offset] = [size(3), size(4), size(5), size(6)];
        const [x, y] = [-bottom / 2, height / 2];
        return { kind: 'outline', outer: polygonToOutline([[x, -y], [x + bottom, -y], [x + offset + top, y], [x + offset, y]]), holes: [] }; // biome-ignore format: outline in order
      }
      default:
        return null;
    }
  }
}

/** True if a profile is one: sides and thicknesses more than nothing, and within each other. */
function isUsable(profile: Profile): boolean {
  switch (profile.kind) {
    case 'rectangle':
      return profile.x > 0 && profile.y > 0 && profile.radius <= Math.min(profile.x, profile.y) / 2 + 1e-9;
    case 'rectangle-hollow':
      return profile.thickness > 0 && 2 * profile.thickness < Math.min(profile.x, profile.y);
    case 'circle':
      return profile.radius > 0;
    case 'circle-hollow':
      return profile.thickness > 0 && profile.thickness < profile.radius;
    case 'ellipse':
      return profile.a > 0 && profile.b > 0;
    case 'outline':
      return profile.outer.length > 1 && measureSignedAreaM2(profile.outer) > 0;
  }
}

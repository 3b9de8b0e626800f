import { IDENTITY, type Matrix, measureSignedAreaM2, type Outline, type Profile, polygonToOutline } from '@tally/core';
import { asNumber, asRef, asRefs, type StepFile } from '../step/step-file.ts';
import type { CurveReader } from './curves.ts';
import type { PlacementReader } from './placements.ts';

/** A profile with its own position in the plane of its solid. */
export interface PlacedProfile {
  readonly profile: Profile;
  readonly position: Matrix;
}

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

  private readKind(id: number): PlacedProfile | null {
    const a = this.file.attributes(id);
    const type = this.file.typeOf(id);
    const f = this.placements.lengthFactor;
    const size = (i: number) => (asNumber(a[i]) ?? 0) * f;
    if (type === 'IFCARBITRARYCLOSEDPROFILEDEF' || type === 'IFCARBITRARYPROFILEDEFWITHVOIDS') {
      const outer = asRef(a[2]) === null ? null : this.curves.readOutline(asRef(a[2])!);
      const holes = asRefs(type === 'IFCARBITRARYPROFILEDEFWITHVOIDS' ? a[3] : null).map((c) =>
        this.curves.readOutline(c),
      );
      if (!outer || holes.some((h) => h === null) || !(Math.abs(measureSignedAreaM2(outer)) > 0)) return null;
      return { profile: { kind: 'outline', outer, holes: holes as Outline[] }, position: IDENTITY };
    }
    const profile = ((): Profile | null => {
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
        case 'IFCISHAPEPROFILEDEF':
          return asNumber(a[8]) || asNumber(a[9])
            ? null
            : { kind: 'i', width: size(3), depth: size(4), web: size(5), flange: size(6), fillet: size(7) };
        case 'IFCTSHAPEPROFILEDEF':
          return a.slice(8, 12).some((v) => asNumber(v))
            ? null
            : { kind: 't', depth: size(3), width: size(4), web: size(5), flange: size(6), fillet: size(7) };
        case 'IFCUSHAPEPROFILEDEF':
          return a.slice(8, 10).some((v) => asNumber(v))
            ? null
            : { kind: 'u', depth: size(3), width: size(4), web: size(5), flange: size(6), fillet: size(7) };
        case 'IFCLSHAPEPROFILEDEF':
          return asNumber(a[8])
            ? null
            : {
                kind: 'l',
                depth: size(3),
                width: asNumber(a[4]) === null ? size(3) : size(4),
                thickness: size(5),
                fillet: size(6),
                edge: size(7),
              };
        case 'IFCTRAPEZIUMPROFILEDEF': {
          const [bottom, top, height, offset] = [size(3), size(4), size(5), size(6)];
          const [x, y] = [-bottom / 2, height / 2];
          return { kind: 'outline', outer: polygonToOutline([[x, -y], [x + bottom, -y], [x + offset + top, y], [x + offset, y]]), holes: [] }; // biome-ignore format: outline in order
        }
        default:
          return null;
      }
    })();
    return profile && isUsable(profile) ? { profile, position: this.placements.readAxis(asRef(a[2])) } : null;
  }
}

function isUsable(profile: Profile): boolean {
  switch (profile.kind) {
    case 'rectangle':
    case 'rectangle-hollow':
      return profile.x > 0 && profile.y > 0;
    case 'circle':
    case 'circle-hollow':
      return profile.radius > 0;
    case 'ellipse':
      return profile.a > 0 && profile.b > 0;
    case 'outline':
      return profile.outer.length > 1;
    default:
      return profile.width > 0 && profile.depth > 0;
  }
}

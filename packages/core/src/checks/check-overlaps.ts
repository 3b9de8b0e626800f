import Flatbush from 'flatbush';
import type { SharedBody } from '../elements/site-data.ts';
import { type CutBody, measureCommonVolume } from '../geometry/shared-volume.ts';
import type { Vector3 } from '../geometry/vector.ts';
import type { MeasureGroup } from '../quantities/quantity-names.ts';
import type { Finding } from './finding.ts';

/** A body in the model's world, metres, with what decides whether it may share room with another. */
export interface PlacedBody {
  readonly row: number;
  readonly globalId: string;
  readonly ifcClass: string;
  readonly label: string;
  readonly group: MeasureGroup;
  /** Rooms, gross areas and groups of rooms each lie over each other. */
  readonly spaceKind: string | null;
  /** GlobalIds of what it is a part of, out to the outermost. */
  readonly wholes: readonly string[];
  readonly min: Vector3;
  readonly max: Vector3;
  readonly volumeM3: number;
  /** Thickness of a wall, m; null for others. */
  readonly widthM: number | null;
  /** Its shape with what is cut out of it; null if it has no mesh. Made when asked for. */
  readonly shape: () => CutBody | null;
}

/** Pairs that share less than this part of the smaller one are not kept. */
export const LEAST_SHARED = 0.02;
/** Bodies that share more than this part of the smaller one overlap, unless the project says otherwise; joints share less. */
export const OVERLAP_SHARE = 0.2;
/** Bodies of one class that share this much of both stand in each other's place. */
export const SAME_PLACE_SHARE = 0.98;

/** Groups whose bodies must not lie in each other, whatever their class. */
const BUILT: ReadonlySet<MeasureGroup> = new Set(['wall', 'slab', 'linear', 'footing']);
/** What lies in other bodies by its nature. */
const EMBEDDED = /^Ifc(Reinforc|Tendon|Mechanical|Discrete|Fasten|VibrationIsolator)/;
/** What runs through others by its nature: only its like must not share its room. */
const RUNNING = /^Ifc(Flow|Pipe|Duct|Cable|Distribution|Covering|Railing|Plate)/;

/** True if two bodies that share room are counted twice by it. */
export function mayNotShare(a: PlacedBody, b: PlacedBody): boolean {
  if (a.group === 'filler' || b.group === 'filler') return false;
  if (EMBEDDED.test(a.ifcClass) || EMBEDDED.test(b.ifcClass)) return false;
  if (a.wholes.includes(b.globalId) || b.wholes.includes(a.globalId)) return false;
  if (a.group === 'space' || b.group === 'space') return a.group === b.group && a.spaceKind === b.spaceKind && a.spaceKind !== 'group'; // biome-ignore format: one rule
  if (a.ifcClass === b.ifcClass) return true;
  if (RUNNING.test(a.ifcClass) || RUNNING.test(b.ifcClass)) return false;
  return BUILT.has(a.group) && BUILT.has(b.group);
}

/** Pairs of bodies that share room which is counted twice by it, with the volume they share, by their full shapes. */
export function measureSharedBodies(bodies: readonly PlacedBody[]): SharedBody[] {
  if (bodies.length < 2) return [];
  const index = new Flatbush(bodies.length);
  for (const { min, max } of bodies) index.add(min[0], min[1], max[0], max[1]);
  index.finish();
  const shapes = new Map<number, CutBody | null>();
  const shapeOf = (i: number): CutBody | null => {
    if (!shapes.has(i)) shapes.set(i, bodies[i]!.shape());
    return shapes.get(i)!;
  };
  const out: SharedBody[] = [];
  for (const [i, a] of bodies.entries()) {
    for (const j of index.search(a.min[0], a.min[1], a.max[0], a.max[1])) {
      const b = bodies[j]!;
      if (j <= i || !mayNotShare(a, b)) continue;
      const smallerM3 = Math.min(a.volumeM3, b.volumeM3);
      if (sharedBoxM3(a, b) < LEAST_SHARED * smallerM3) continue;
      const [x, y] = [shapeOf(i), shapeOf(j)];
      const sharedM3 = x && y ? measureCommonVolume(x, y) : 0;
      if (sharedM3 < LEAST_SHARED * smallerM3 || isJoint(a, b, sharedM3)) continue;
      // Known within 1 or 2 %; two bodies never share more than the smaller one is.
      out.push({ a: a.row, b: b.row, sharedM3: Math.min(sharedM3, smallerM3), smallerM3 });
    }
    // Meshes of bodies to the left are not needed again.
    if (shapes.size > 20_000) shapes.clear();
  }
  return out;
}

function sharedBoxM3(a: PlacedBody, b: PlacedBody): number {
  let volume = 1;
  for (let k = 0; k < 3; k++) volume *= Math.max(0, Math.min(a.max[k]!, b.max[k]!) - Math.max(a.min[k]!, b.min[k]!));
  return volume;
}

/** Walls drawn into each other's corner share no more than thickness x thickness x height: that is how they meet. */
function isJoint(a: PlacedBody, b: PlacedBody, sharedM3: number): boolean {
  if (a.widthM === null || b.widthM === null) return false;
  const heightM = Math.min(a.max[2], b.max[2]) - Math.max(a.min[2], b.min[2]);
  return sharedM3 <= 1.1 * a.widthM * b.widthM * heightM;
}

const percent = (share: number) => `${Math.round(share * 100)} %`;
const figure = (value: number) => String(Number(value.toPrecision(3)));

/** What an overlap is told by. */
export interface SharedLabel {
  readonly globalId: string;
  readonly label: string;
  readonly ifcClass: string;
  readonly volumeM3: number;
}

/** Findings about pairs that share more than a part of the smaller one. */
export function reportOverlaps(
  shared: readonly SharedBody[],
  labelOf: (row: number) => SharedLabel,
  share = OVERLAP_SHARE,
): Finding[] {
  return shared.flatMap(({ a, b, sharedM3, smallerM3 }): Finding[] => {
    const part = sharedM3 / smallerM3;
    if (part <= share) return [];
    const [x, y] = [labelOf(a), labelOf(b)];
    const isSame = x.ifcClass === y.ifcClass && sharedM3 > SAME_PLACE_SHARE * Math.max(x.volumeM3, y.volumeM3);
    if (isSame && x.ifcClass !== 'IfcSpace')
      return [
        {
          code: 'coincident',
          severity: 'error',
          message: `${x.label} and ${y.label} stand in the same place with the same shape; they would be counted twice.`,
          globalIds: [x.globalId, y.globalId],
        },
      ];
    const isRooms = x.ifcClass === 'IfcSpace';
    return [
      {
        code: isRooms ? 'rooms-overlap' : 'overlap',
        severity: x.ifcClass === y.ifcClass ? 'warning' : 'notice',
        message: `${x.label} and ${y.label} share ${figure(sharedM3)} m3, ${percent(part)} of the smaller one${isRooms ? '' : '; it is counted twice'}.`,
        globalIds: [x.globalId, y.globalId],
        cause: [x.ifcClass, y.ifcClass].sort().join(' and '),
      },
    ];
  });
}

import { cross, normalize, type Vector3 } from '@tally/core';

/** Nearest a camera goes to the middle of what it shows, m: a screw should not fill the view. */
const NEAREST_M = 1;
/** What lies further out than so many times the middle half of everything is wide, and than these m, is far from the building. */
const [FAR_SPANS, FAR_M] = [6, 15];
/** At most this share of all may be far; more of them are the building. */
const MOST_FAR = 0.05;

/** Box of an element: [minX, minY, minZ, maxX, maxY, maxZ], m. */
export type ViewBox = readonly [number, number, number, number, number, number];

/** How a camera looks: its opening upright in degrees, width / height of its picture, and what is up for it. */
export interface CameraOpening {
  readonly fov: number;
  readonly aspect: number;
  readonly up: Vector3;
}

/** Where a camera stands, and the point in the middle of what it sees that it turns about. */
export interface CameraPlace {
  readonly position: Vector3;
  readonly target: Vector3;
}

/**
 * Place from which a camera sees boxes whole, centred, as large as its picture allows.
 *
 * Seen along the direction, a point at (x, y) and z towards the camera lies within the picture of a camera at (cx, cy) and distance d if
 * |x - cx| <= (d - z) tan(half the opening); so of the outermost x + z tan and -x + z tan the mean difference is the centre and the mean
 * sum the distance x tan.
 * @param direction unit vector from what is seen to the camera
 * @param margin 1 for edge to edge, 1.1 for a tenth more room
 * @returns null without boxes
 */
export function fitCamera(
  boxes: Iterable<ViewBox>,
  direction: Vector3,
  { fov, aspect, up }: CameraOpening,
  margin = 1,
): CameraPlace | null {
  const right = normalize(cross(up, direction));
  const upright = cross(direction, right);
  const tanUp = Math.tan((fov * Math.PI) / 360);
  const tanRight = tanUp * aspect;
  /** What is asked how far boxes reach along it: right, left, up, down as they widen with depth; near, far. */
  const axes = [
    [1, 0, tanRight],
    [-1, 0, tanRight],
    [0, 1, tanUp],
    [0, -1, tanUp],
    [0, 0, 1],
    [0, 0, -1],
  ].map(([x, y, z]) => [0, 1, 2].map((k) => right[k]! * x! + upright[k]! * y! + direction[k]! * z!));
  const reach = axes.map(() => -Infinity);
  for (const box of boxes)
    for (let n = 0; n < axes.length; n++) {
      const axis = axes[n]!;
      // The corner of the box that reaches furthest.
      let at = 0;
      for (let k = 0; k < 3; k++) at += axis[k]! * box[axis[k]! > 0 ? k + 3 : k]!;
      if (at > reach[n]!) reach[n] = at;
    }
  const [mostRight, mostLeft, highest, lowest, nearest, farthest] = reach as [number, number, number, number, number, number]; // biome-ignore format: one list
  if (nearest === -Infinity) return null;
  const middle = (nearest - farthest) / 2;
  const needed = Math.max((mostRight + mostLeft) / 2 / tanRight, (highest + lowest) / 2 / tanUp);
  const distance = middle + Math.max(NEAREST_M, (needed - middle) * margin);
  const at = (z: number): Vector3 => {
    const [x, y] = [(mostRight - mostLeft) / 2, (highest - lowest) / 2];
    return [0, 1, 2].map((k) => right[k]! * x + upright[k]! * y + direction[k]! * z) as unknown as Vector3;
  };
  return { position: at(distance), target: at(middle) };
}

/** Boxes without the few that lie far from all others: a forgotten point of the survey must not make the building small. */
export function dropFarBoxes(boxes: readonly ViewBox[]): readonly ViewBox[] {
  if (boxes.length < 8) return boxes;
  const halves = [0, 1, 2].map((axis) => {
    const middles = new Float64Array(boxes.length);
    for (let i = 0; i < boxes.length; i++) middles[i] = (boxes[i]![axis]! + boxes[i]![axis + 3]!) / 2;
    middles.sort();
    return [middles[Math.floor(middles.length / 4)]!, middles[Math.floor((middles.length * 3) / 4)]!] as const;
  });
  const reach = Math.max(FAR_M, ...halves.map(([low, high]) => (high - low) * FAR_SPANS));
  const isNear = (box: ViewBox): boolean => {
    for (let axis = 0; axis < 3; axis++) {
      const [low, high] = halves[axis]!;
      if (box[axis + 3]! < low - reach || box[axis]! > high + reach) return false;
    }
    return true;
  };
  const near = boxes.filter(isNear);
  return boxes.length - near.length <= Math.max(1, boxes.length * MOST_FAR) ? near : boxes;
}

import {
  cross,
  type FormedSolid,
  formRevolved,
  invertRigid,
  lengthOf,
  type Matrix,
  multiplyMatrices,
  normalize,
  outlineToPolygon,
  type Profile,
  profileToOutlines,
  type SweptSolid,
  transformDirection,
  transformPoint,
  type Vector2,
  type Vector3,
} from '@tally/core';
import type { PlacedProfile } from './profiles.ts';

/**
 * A profile turned about an axis in its plane. A rectangle that stands along the axis is the same as a sector of a ring drawn along
 * it: a curved wall has its sides and its thickness so. Null if the axis does not lie in the plane or runs through the profile.
 * @param frame of the plane; `at` and `along` are told in it
 */
export function revolve(
  { profile, position }: PlacedProfile,
  frame: Matrix,
  at: Vector3,
  along: Vector3,
  angle: number,
): { readonly swept: SweptSolid | null; readonly formed: FormedSolid | null } | null {
  const toProfile = invertRigid(position);
  const [p, d] = [transformPoint(toProfile, at), normalize(transformDirection(toProfile, along))];
  if (Math.abs(p[2]) > 1e-6 || Math.abs(d[2]) > 1e-6) return null;
  const placement = multiplyMatrices(frame, position);
  const axis = { at: [p[0], p[1]] as Vector2, direction: [d[0], d[1]] as Vector2 };
  const swept = drawAlongAxis(profile, placement, axis, angle);
  if (swept) return { swept, formed: null };
  const formed = formRevolved(profile, placement, axis, angle);
  return formed && { swept: null, formed };
}

/** A rectangle along the axis as a sector of a ring drawn along it; null for other profiles. */
function drawAlongAxis(
  profile: Profile,
  placement: Matrix,
  { at, direction: [dx, dy] }: { readonly at: Vector2; readonly direction: Vector2 },
  angle: number,
): SweptSolid | null {
  const { outer, holes } = profileToOutlines(profile);
  if (outer.length !== 4 || holes.length > 0 || outer.some((v) => v.sweep !== 0) || !(Math.abs(angle) > 1e-9))
    return null;
  const corners = outlineToPolygon(outer).map(([x, y]) => ({
    off: (x - at[0]) * dy - (y - at[1]) * dx,
    along: (x - at[0]) * dx + (y - at[1]) * dy,
  }));
  const [offs, alongs] = [distinct(corners.map((c) => c.off)), distinct(corners.map((c) => c.along))];
  if (offs.length !== 2 || alongs.length !== 2) return null;
  const side = offs[0]! + offs[1]! > 0 ? 1 : -1;
  const [r1, r2] = offs.map((o) => o * side).sort((a, b) => a - b) as [number, number];
  if (r1 < -1e-9) return null;
  const toFrame = (v: Vector3) => transformDirection(placement, v);
  const z = normalize(toFrame([dx, dy, 0]));
  const x = normalize(toFrame([dy * side, -dx * side, 0]));
  const y = cross(z, x);
  const foot = transformPoint(placement, [at[0] + dx * alongs[0]!, at[1] + dy * alongs[0]!, 0]);
  const sector: Matrix = [x[0], y[0], z[0], foot[0], x[1], y[1], z[1], foot[1], x[2], y[2], z[2], foot[2]];
  const depth = alongs[1]! - alongs[0]!;
  const turn = Math.min(Math.abs(angle), 2 * Math.PI);
  const solid = (made: Profile): SweptSolid => ({ profile: made, placement: sector, direction: [0, 0, 1], depth });
  if (turn > 2 * Math.PI - 1e-6)
    return solid(
      r1 < 1e-9 ? { kind: 'circle', radius: r2 } : { kind: 'circle-hollow', radius: r2, thickness: r2 - r1 },
    );
  const sign = Math.sign(angle);
  const end = (r: number) => ({ x: r * Math.cos(turn), y: sign * r * Math.sin(turn) });
  const ring = [
    { x: r2, y: 0, sweep: sign * turn },
    { ...end(r2), sweep: 0 },
    ...(r1 < 1e-9
      ? [{ x: 0, y: 0, sweep: 0 }]
      : [
          { ...end(r1), sweep: -sign * turn },
          { x: r1, y: 0, sweep: 0 },
        ]),
  ];
  return lengthOf(z) > 0.5 ? solid({ kind: 'outline', outer: ring, holes: [] }) : null;
}

/** Values that differ by more than a hair, ascending. */
function distinct(values: readonly number[]): number[] {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted.filter((v, i) => i === 0 || v - sorted[i - 1]! > 1e-6);
}

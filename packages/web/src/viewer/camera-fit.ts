import { cross, dot, normalize, type Vector3 } from '@tally/core';

/** Nearest a camera goes to the centre of what it shows, m: a screw should not fill the view. */
const NEAREST_M = 1;

/** How a camera looks: its opening upright in degrees, width / height of its picture, and what is up for it. */
export interface CameraOpening {
  readonly fov: number;
  readonly aspect: number;
  readonly up: Vector3;
}

/**
 * Distance from the centre of a box at which a camera sees all of it.
 *
 * @param size of the box along x, y, z, m
 * @param direction unit vector from the centre of the box to the camera
 * @returns m, so that the outermost corner touches the edge of the picture; at least 1 m
 */
export function distanceToSee(size: Vector3, direction: Vector3, { fov, aspect, up }: CameraOpening): number {
  const right = normalize(cross(up, direction));
  const upright = cross(direction, right);
  const tanUp = Math.tan((fov * Math.PI) / 360);
  const tanRight = tanUp * aspect;
  let distance = NEAREST_M;
  for (let corner = 0; corner < 8; corner++) {
    const at: Vector3 = [
      ((corner & 1) - 0.5) * size[0],
      (((corner >> 1) & 1) - 0.5) * size[1],
      ((corner >> 2) - 0.5) * size[2],
    ];
    const aside = Math.max(Math.abs(dot(at, right)) / tanRight, Math.abs(dot(at, upright)) / tanUp);
    distance = Math.max(distance, aside + dot(at, direction));
  }
  return distance;
}

import {
  measurePerimeterM,
  measureSignedAreaM2,
  type Outline,
  outlineToPolygon,
  polygonToOutline,
  roundCorners,
} from './outline.ts';
import { rememberRecent } from './recent.ts';
import type { Vector2 } from './vector.ts';

/**
 * A cross-section in its own plane, centred as the IFC profile of the same kind is, metres.
 * Fillet and edge radii are 0 where the file gives none.
 */
export type Profile =
  | { readonly kind: 'rectangle'; readonly x: number; readonly y: number; readonly radius: number }
  | {
      readonly kind: 'rectangle-hollow';
      readonly x: number;
      readonly y: number;
      readonly thickness: number;
      readonly outerRadius: number;
      readonly innerRadius: number;
    }
  | { readonly kind: 'circle'; readonly radius: number }
  | { readonly kind: 'circle-hollow'; readonly radius: number; readonly thickness: number }
  | { readonly kind: 'ellipse'; readonly a: number; readonly b: number }
  | {
      readonly kind: 'outline';
      readonly outer: Outline;
      readonly holes: readonly Outline[];
      /** A rolled or cold-formed section (I, L, U, Z …): it is always drawn along the member. */
      readonly isSection?: boolean;
    };

export interface ProfileMeasures {
  /** Area of material, m2, holes taken out. */
  readonly areaM2: number;
  /** Length of the outer boundary, m. */
  readonly perimeterM: number;
}

function box(x: number, y: number, radius: number): Outline {
  const [a, b] = [x / 2, y / 2];
  if (!(radius > 0)) return polygonToOutline([[-a, -b], [a, -b], [a, b], [-a, b]]); // biome-ignore format: one outline
  return roundCorners([
    { x: -a, y: -b, radius },
    { x: a, y: -b, radius },
    { x: a, y: b, radius },
    { x: -a, y: b, radius },
  ]);
}
const circle = (r: number): Outline => [
  { x: r, y: 0, sweep: Math.PI },
  { x: -r, y: 0, sweep: Math.PI },
];

/** Area that `n` rounded corners of radius r take away from (or, as fillets, add to) a sharp outline: n (1 - π/4) r². */
const cornerArea = (n: number, r: number) => n * (1 - Math.PI / 4) * r * r;
/** Length that `n` rounded corners of radius r take away from a sharp outline: n (2 - π/2) r. */
const cornerLength = (n: number, r: number) => n * (2 - Math.PI / 2) * r;

/**
 * Exact area and outer perimeter of a profile, from its formula and not from chords. Ellipse perimeter by Ramanujan.
 * @example measureProfile({kind: 'circle', radius: 0.1}) // areaM2 0.0314159, perimeterM 0.628319
 */
export function measureProfile(profile: Profile): ProfileMeasures {
  switch (profile.kind) {
    case 'rectangle': {
      const { x, y, radius } = profile;
      return { areaM2: x * y - cornerArea(4, radius), perimeterM: 2 * (x + y) - cornerLength(4, radius) };
    }
    case 'rectangle-hollow': {
      const { x, y, thickness: t, outerRadius, innerRadius } = profile;
      const inner = (x - 2 * t) * (y - 2 * t) - cornerArea(4, innerRadius);
      return {
        areaM2: x * y - cornerArea(4, outerRadius) - inner,
        perimeterM: 2 * (x + y) - cornerLength(4, outerRadius),
      };
    }
    case 'circle':
      return { areaM2: Math.PI * profile.radius ** 2, perimeterM: 2 * Math.PI * profile.radius };
    case 'circle-hollow': {
      const { radius, thickness } = profile;
      return { areaM2: Math.PI * (radius ** 2 - (radius - thickness) ** 2), perimeterM: 2 * Math.PI * radius };
    }
    case 'ellipse': {
      const { a, b } = profile;
      const h = ((a - b) / (a + b)) ** 2;
      return { areaM2: Math.PI * a * b, perimeterM: Math.PI * (a + b) * (1 + (3 * h) / (10 + Math.sqrt(4 - 3 * h))) };
    }
    case 'outline': {
      const area = (o: Outline) => Math.abs(measureSignedAreaM2(o));
      return {
        areaM2: area(profile.outer) - profile.holes.reduce((sum, hole) => sum + area(hole), 0),
        perimeterM: measurePerimeterM(profile.outer),
      };
    }
  }
}

/** The profile's outer boundary and holes as outlines, rounded where the profile is. */
export const profileToOutlines: (profile: Profile) => ProfileOutlines = rememberRecent(drawOutlines);

/** The profile's outer boundary as points, curves in chords. */
export const profileToPolygon: (profile: Profile) => readonly Vector2[] = rememberRecent((profile) =>
  outlineToPolygon(profileToOutlines(profile).outer),
);

export interface ProfileOutlines {
  readonly outer: Outline;
  readonly holes: readonly Outline[];
}

/** Chords of an ellipse, which has no arcs of one radius: its area by them is right to 0.01 %. */
const ELLIPSE_CHORDS = 256;

function drawOutlines(profile: Profile): ProfileOutlines {
  switch (profile.kind) {
    case 'rectangle':
      return { outer: box(profile.x, profile.y, profile.radius), holes: [] };
    case 'rectangle-hollow': {
      const { x, y, thickness: t, outerRadius, innerRadius } = profile;
      return { outer: box(x, y, outerRadius), holes: [box(x - 2 * t, y - 2 * t, innerRadius)] };
    }
    case 'circle':
      return { outer: circle(profile.radius), holes: [] };
    case 'circle-hollow':
      return { outer: circle(profile.radius), holes: [circle(profile.radius - profile.thickness)] };
    case 'ellipse': {
      const turn = (2 * Math.PI) / ELLIPSE_CHORDS;
      const points = Array.from(
        { length: ELLIPSE_CHORDS },
        (_, i): Vector2 => [profile.a * Math.cos(i * turn), profile.b * Math.sin(i * turn)],
      );
      return { outer: polygonToOutline(points), holes: [] };
    }
    case 'outline':
      return { outer: profile.outer, holes: profile.holes };
  }
}

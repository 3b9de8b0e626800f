import { measurePerimeterM, measureSignedAreaM2, type Outline, outlineToPolygon, polygonToOutline } from './outline.ts';
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
      readonly kind: 'i' | 't' | 'u';
      readonly width: number;
      readonly depth: number;
      readonly web: number;
      readonly flange: number;
      readonly fillet: number;
    }
  | {
      readonly kind: 'l';
      readonly width: number;
      readonly depth: number;
      readonly thickness: number;
      readonly fillet: number;
      readonly edge: number;
    }
  | { readonly kind: 'outline'; readonly outer: Outline; readonly holes: readonly Outline[] };

export interface ProfileMeasures {
  /** Area of material, m2, holes taken out. */
  readonly areaM2: number;
  /** Length of the outer boundary, m. */
  readonly perimeterM: number;
}

const box = (x: number, y: number): Outline =>
  polygonToOutline([
    [-x / 2, -y / 2],
    [x / 2, -y / 2],
    [x / 2, y / 2],
    [-x / 2, y / 2],
  ]);
const circle = (r: number): Outline => [
  { x: r, y: 0, sweep: Math.PI },
  { x: -r, y: 0, sweep: Math.PI },
];

/** Area that `n` rounded corners of radius r take away from (or, as fillets, add to) a sharp outline: n (1 - π/4) r². */
const cornerArea = (n: number, r: number) => n * (1 - Math.PI / 4) * r * r;
/** Length that `n` rounded corners of radius r take away from a sharp outline: n (2 - π/2) r. */
const cornerLength = (n: number, r: number) => n * (2 - Math.PI / 2) * r;

/**
 * Exact area and outer perimeter of a profile, from its formula and not from chords.
 * I: 2·b·tf + (h - 2·tf)·tw + (4 - π)·r². L: t·(b + h - t) + (1 - π/4)·(r² - 2·e²). Ellipse perimeter by Ramanujan.
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
    case 'i': {
      const { width: b, depth: h, web, flange, fillet } = profile;
      return {
        areaM2: 2 * b * flange + (h - 2 * flange) * web + cornerArea(4, fillet),
        perimeterM: 2 * h + 4 * b - 2 * web - cornerLength(4, fillet),
      };
    }
    case 't': {
      const { width: b, depth: h, web, flange, fillet } = profile;
      return {
        areaM2: b * flange + (h - flange) * web + cornerArea(2, fillet),
        perimeterM: 2 * (h + b) - cornerLength(2, fillet),
      };
    }
    case 'u': {
      const { width: b, depth: h, web, flange, fillet } = profile;
      return {
        areaM2: 2 * b * flange + (h - 2 * flange) * web + cornerArea(2, fillet),
        perimeterM: 2 * h + 4 * b - 2 * web - cornerLength(2, fillet),
      };
    }
    case 'l': {
      const { width: b, depth: h, thickness: t, fillet, edge } = profile;
      return {
        areaM2: t * (b + h - t) + cornerArea(1, fillet) - cornerArea(2, edge),
        perimeterM: 2 * (b + h) - cornerLength(1, fillet) - cornerLength(2, edge),
      };
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

/** The profile's outer boundary and holes as outlines; fillets are left sharp, which keeps extents and ratios right. */
export const profileToOutlines: (profile: Profile) => ProfileOutlines = rememberRecent(drawOutlines);

/** The profile's outer boundary as points, curves in chords. */
export const profileToPolygon: (profile: Profile) => readonly Vector2[] = rememberRecent((profile) =>
  outlineToPolygon(profileToOutlines(profile).outer),
);

export interface ProfileOutlines {
  readonly outer: Outline;
  readonly holes: readonly Outline[];
}

function drawOutlines(profile: Profile): ProfileOutlines {
  const points = (list: readonly Vector2[]) => ({ outer: polygonToOutline(list), holes: [] });
  switch (profile.kind) {
    case 'rectangle':
      return { outer: box(profile.x, profile.y), holes: [] };
    case 'rectangle-hollow':
      return {
        outer: box(profile.x, profile.y),
        holes: [box(profile.x - 2 * profile.thickness, profile.y - 2 * profile.thickness)],
      };
    case 'circle':
      return { outer: circle(profile.radius), holes: [] };
    case 'circle-hollow':
      return { outer: circle(profile.radius), holes: [circle(profile.radius - profile.thickness)] };
    case 'ellipse':
      return points(
        Array.from(
          { length: 48 },
          (_, i): Vector2 => [profile.a * Math.cos((i * Math.PI) / 24), profile.b * Math.sin((i * Math.PI) / 24)],
        ),
      );
    case 'i': {
      const [b, h, w, f] = [profile.width / 2, profile.depth / 2, profile.web / 2, profile.flange];
      return points([
        [-b, -h], [b, -h], [b, -h + f], [w, -h + f], [w, h - f], [b, h - f], [b, h], [-b, h], [-b, h - f], [-w, h - f], [-w, -h + f], [-b, -h + f],
      ]); // biome-ignore format: outline in order
    }
    case 't': {
      const [b, h, w, f] = [profile.width / 2, profile.depth / 2, profile.web / 2, profile.flange];
      return points([[-w, -h], [w, -h], [w, h - f], [b, h - f], [b, h], [-b, h], [-b, h - f], [-w, h - f]]); // biome-ignore format: outline in order
    }
    case 'u': {
      const [b, h, w, f] = [profile.width / 2, profile.depth / 2, profile.web, profile.flange];
      return points([[-b, -h], [b, -h], [b, -h + f], [-b + w, -h + f], [-b + w, h - f], [b, h - f], [b, h], [-b, h]]); // biome-ignore format: outline in order
    }
    case 'l': {
      const [b, h, t] = [profile.width / 2, profile.depth / 2, profile.thickness];
      return points([[-b, -h], [b, -h], [b, -h + t], [-b + t, -h + t], [-b + t, h], [-b, h]]); // biome-ignore format: outline in order
    }
    case 'outline':
      return { outer: profile.outer, holes: profile.holes };
  }
}

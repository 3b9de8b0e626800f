import { type RoundCorner, roundCorners } from './outline.ts';
import type { Profile } from './profile.ts';

/** Rolled and cold-formed sections as outlines with their true fillets, centred on the box around them. Metres. */

const corner = (x: number, y: number, radius = 0): RoundCorner => ({ x, y, radius });
const section = (corners: readonly RoundCorner[]): Profile => ({
  kind: 'outline',
  outer: roundCorners(corners),
  holes: [],
  isSection: true,
});

/** A flange: its width and thickness, the fillet to the web, the rounded edge at its tip, and the slope of its inner face. */
export interface Flange {
  readonly width: number;
  readonly thickness: number;
  readonly fillet: number;
  readonly edge: number;
  /** Slope of the inner face, radians; the thickness is that in the middle of what stands out. */
  readonly slope: number;
}

/** Thickness of a sloping flange at its tip and at the web, m. */
function flangeThickness({ thickness, slope }: Flange, outstand: number): { tip: number; root: number } {
  const half = (Math.tan(slope) * outstand) / 2;
  return { tip: thickness - half, root: thickness + half };
}

/**
 * An I of two flanges, which may differ. Source: IfcIShapeProfileDef, IfcAsymmetricIShapeProfileDef.
 * @example 200 x 200, web 9, flanges 15, fillets 18 mm: 2·b·tf + (h - 2·tf)·tw + (4 - π)·r² = 7808 mm2
 */
export function drawISection(depth: number, web: number, bottom: Flange, top: Flange): Profile {
  const [h, w, b, t] = [depth / 2, web / 2, bottom.width / 2, top.width / 2];
  const [low, high] = [flangeThickness(bottom, b - w), flangeThickness(top, t - w)];
  // biome-ignore format: outline in order
  return section([
    corner(-b, -h), corner(b, -h), corner(b, -h + low.tip, bottom.edge), corner(w, -h + low.root, bottom.fillet),
    corner(w, h - high.root, top.fillet), corner(t, h - high.tip, top.edge), corner(t, h), corner(-t, h),
    corner(-t, h - high.tip, top.edge), corner(-w, h - high.root, top.fillet), corner(-w, -h + low.root, bottom.fillet),
    corner(-b, -h + low.tip, bottom.edge),
  ]);
}

/** A T, its flange above. Source: IfcTShapeProfileDef. @example 100 x 100, web 8, flange 10 mm: 1720 mm2 */
export function drawTSection(depth: number, web: number, flange: Flange, webEdge: number): Profile {
  const [h, w, b] = [depth / 2, web / 2, flange.width / 2];
  const { tip, root } = flangeThickness(flange, b - w);
  // biome-ignore format: outline in order
  return section([
    corner(-w, -h, webEdge), corner(w, -h, webEdge), corner(w, h - root, flange.fillet), corner(b, h - tip, flange.edge),
    corner(b, h), corner(-b, h), corner(-b, h - tip, flange.edge), corner(-w, h - root, flange.fillet),
  ]);
}

/** A U, open to the right. Source: IfcUShapeProfileDef. @example 140 x 50, web 7, flanges 9 mm: 1754 mm2 */
export function drawUSection(depth: number, web: number, flange: Flange): Profile {
  const [h, b, inner] = [depth / 2, flange.width / 2, -flange.width / 2 + web];
  const { tip, root } = flangeThickness(flange, flange.width - web);
  // biome-ignore format: outline in order
  return section([
    corner(-b, -h), corner(b, -h), corner(b, -h + tip, flange.edge), corner(inner, -h + root, flange.fillet),
    corner(inner, h - root, flange.fillet), corner(b, h - tip, flange.edge), corner(b, h), corner(-b, h),
  ]);
}

/** An L. Source: IfcLShapeProfileDef. @example 120 x 80 x 10 mm: 10 x (80 + 120 - 10) = 1900 mm2 */
export function drawLSection(depth: number, width: number, thickness: number, fillet: number, edge: number): Profile {
  const [b, h, t] = [width / 2, depth / 2, thickness];
  // biome-ignore format: outline in order
  return section([
    corner(-b, -h), corner(b, -h), corner(b, -h + t, edge), corner(-b + t, -h + t, fillet), corner(-b + t, h, edge),
    corner(-b, h),
  ]);
}

/** A Z: the upper flange to the left, the lower to the right. Source: IfcZShapeProfileDef. @example 200 x 80, web 8, flanges 10: 2·80·10 + 180·8 = 3040 mm2 */
export function drawZSection(depth: number, web: number, flange: Flange): Profile {
  const [h, w, t] = [depth / 2, web / 2, flange.thickness];
  const b = flange.width - w;
  // biome-ignore format: outline in order
  return section([
    corner(-w, -h), corner(b, -h), corner(b, -h + t, flange.edge), corner(w, -h + t, flange.fillet), corner(w, h),
    corner(-b, h), corner(-b, h - t, flange.edge), corner(-w, h - t, flange.fillet),
  ]);
}

/** A lipped channel of one wall thickness, open to the right. Source: IfcCShapeProfileDef; bends are `radius` inside. */
export function drawCSection(depth: number, width: number, wall: number, girth: number, radius: number): Profile {
  const [h, b, outer] = [depth / 2, width / 2, radius > 0 ? radius + wall : 0];
  // biome-ignore format: outline in order
  return section([
    corner(-b, -h, outer), corner(b, -h, outer), corner(b, -h + girth), corner(b - wall, -h + girth),
    corner(b - wall, -h + wall, radius), corner(-b + wall, -h + wall, radius), corner(-b + wall, h - wall, radius),
    corner(b - wall, h - wall, radius), corner(b - wall, h - girth), corner(b, h - girth), corner(b, h, outer),
    corner(-b, h, outer),
  ]);
}

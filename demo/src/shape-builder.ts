import { Enum, type Ref, StepWriter } from './step-writer.ts';

export type Point = readonly [number, number, number];
export type Point2 = readonly [number, number];

/** What the colours of the building are called; every other one has no name, as in real files. */
const STYLE_NAMES: Readonly<Record<string, string>> = {
  '0.72,0.56,0.4': 'Oiled cladding',
  '0.9,0.88,0.82': 'Lime render',
  '0.66,0.66,0.64': 'Fair-faced block',
  '0.93,0.93,0.9': 'Emulsion white',
  '0.85,0.91,0.93': 'Wet room board',
  '0.94,0.88,0.86': 'Emulsion warm grey',
  '0.45,0.5,0.54': 'Galvanised',
  '0.7,0.7,0.68': 'Concrete formed',
  '0.33,0.37,0.42': 'Slate grey',
  '0.6,0.78,0.85': 'Clear glass',
  '0.25,0.3,0.32': 'Frame dark grey',
  '0.62,0.48,0.33': 'Oiled oak',
  '0.92,0.66,0': 'Non-slip coat',
};

/** Writes points, directions, profiles and solids. Millimetres. */
export class ShapeBuilder {
  readonly step = new StepWriter();
  private readonly points = new Map<string, Ref>();

  point(p: readonly number[]): Ref {
    const key = p.join();
    let ref = this.points.get(key);
    if (!ref) {
      ref = this.step.add('IfcCartesianPoint', [...p]);
      this.points.set(key, ref);
    }
    return ref;
  }

  direction(d: readonly number[]): Ref {
    const key = `d${d.join()}`;
    let ref = this.points.get(key);
    if (!ref) {
      ref = this.step.add('IfcDirection', [...d]);
      this.points.set(key, ref);
    }
    return ref;
  }

  placement3(at: Point, axis?: Point, ref?: Point): Ref {
    return this.step.add(
      'IfcAxis2Placement3D',
      this.point(at),
      axis ? this.direction(axis) : null,
      ref ? this.direction(ref) : null,
    );
  }

  rectangle(x: number, y: number, center: Point2 = [0, 0]): Ref {
    return this.step.add(
      'IfcRectangleProfileDef',
      new Enum('AREA'),
      null,
      this.step.add('IfcAxis2Placement2D', this.point(center), null),
      x,
      y,
    );
  }

  profile(type: string, ...sizes: (number | null)[]): Ref {
    return this.step.add(
      type,
      new Enum('AREA'),
      null,
      this.step.add('IfcAxis2Placement2D', this.point([0, 0]), null),
      ...sizes,
    );
  }

  polygon(points: readonly Point2[]): Ref {
    const curve = this.step.add(
      'IfcPolyline',
      [...points, points[0]!].map((p) => this.point(p)),
    );
    return this.step.add('IfcArbitraryClosedProfileDef', new Enum('AREA'), null, curve);
  }

  extrude(profile: Ref, depth: number, at: Point = [0, 0, 0], axis?: Point, ref?: Point): Ref {
    return this.step.add(
      'IfcExtrudedAreaSolid',
      profile,
      this.placement3(at, axis, ref),
      this.direction([0, 0, 1]),
      depth,
    );
  }

  /** Cuts off everything above a plane (its normal points to what goes). */
  clipAbove(solid: Ref, at: Point, normal: Point): Ref {
    const plane = this.step.add(
      'IfcPlane',
      this.placement3(at, normal, Math.abs(normal[0]) > 0.9 ? [0, 1, 0] : [1, 0, 0]),
    );
    return this.step.add(
      'IfcBooleanClippingResult',
      new Enum('DIFFERENCE'),
      solid,
      this.step.add('IfcHalfSpaceSolid', plane, false),
    );
  }

  /** A body by its faces, each an outline that runs counter-clockwise seen from outside; one of them may have a coat of its own. */
  facetedBody(
    faces: readonly (readonly Point[])[],
    coat?: { readonly face: number; readonly rgb: readonly [number, number, number] },
  ): Ref {
    const list = faces.map((face, i) => {
      const loop = this.step.add(
        'IfcPolyLoop',
        face.map((p) => this.point(p)),
      );
      const made = this.step.add('IfcFace', [this.step.add('IfcFaceOuterBound', loop, true)]);
      return coat?.face === i ? this.colour(made, coat.rgb) : made;
    });
    return this.step.add('IfcFacetedBrep', this.step.add('IfcClosedShell', list));
  }

  colour(solid: Ref, rgb: readonly [number, number, number], transparency = 0): Ref {
    const surface = this.step.add(
      'IfcSurfaceStyleRendering',
      this.step.add('IfcColourRgb', null, ...rgb),
      transparency,
      null,
      null,
      null,
      null,
      null,
      null,
      new Enum('FLAT'),
    );
    const style = this.step.add('IfcSurfaceStyle', STYLE_NAMES[rgb.join()] ?? null, new Enum('BOTH'), [surface]);
    this.step.add('IfcStyledItem', solid, [style], null);
    return solid;
  }
}

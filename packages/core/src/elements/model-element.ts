import type { SiUnit } from '../units/branded.ts';

/** Where a quantity comes from: the file says it, we measured it in the geometry, or somebody gave it here. */
export type Basis = 'stated' | 'measured' | 'given';

/**
 * How a figure was obtained.
 * - `swept` from profile and extrusion; `swept-openings` the same, prismatic openings deducted
 * - `formed` from the formula of a shape that is no straight sweep: along a curve, turned about an axis, a ball, a cone
 * - `swept-clipped` figure of the uncut solid x (mesh cut / mesh uncut) of a clipped body
 * - `mesh` sum over triangles
 * - `attribute` an attribute of the element in the file; `parts` summed over the element's parts
 * - `plan` from where elements stand to each other on plan (junctions, rooms and the openings around them)
 * - `count` one per element; `density` volume x density of the material; `file` a quantity set of the file
 * - `hand` typed in the project; `list` a line of a list
 */
export type QuantityMethod =
  | 'swept'
  | 'swept-openings'
  | 'formed'
  | 'swept-clipped'
  | 'mesh'
  | 'attribute'
  | 'parts'
  | 'plan'
  | 'count'
  | 'density'
  | 'file'
  | 'list'
  | 'hand';

/**
 * How far a measured figure can be trusted. `exact`: derived from the drawn shape in a way that is exact for that shape. `mesh`: from
 * triangles, in a way that comes within 0.5 % when their number is doubled. A figure that is neither is absent.
 */
export type Exactness = 'exact' | 'mesh';

/** The weaker of two: what a figure derived from both can claim. */
export const weakerExactness = (a: Exactness, b: Exactness): Exactness =>
  a === 'mesh' || b === 'mesh' ? 'mesh' : 'exact';

/** One figure about an element, in SI. */
export interface Quantity {
  readonly name: string;
  readonly value: number;
  readonly unit: SiUnit;
  readonly basis: Basis;
  readonly method: QuantityMethod;
  /** Of measured figures only. */
  readonly exactness?: Exactness;
}

/**
 * One layer of a layered element, in the order of its layer set, or one constituent or profile of a composed one. `area` and `volume`
 * are net of openings.
 */
export interface Layer {
  readonly material: string | null;
  /** m; null for constituents and profiles, which have a share of the body instead. */
  readonly thickness: number | null;
  /** Distance of its near face from the set's first face, m; null without a thickness. */
  readonly position: number | null;
  /** What it is for, as the file says: load-bearing, insulation, finish …; absent if it does not. */
  readonly function?: string;
  /** kg; null while the material's density or the volume is not known. */
  readonly weight: number | null;
  readonly area: number | null;
  readonly volume: number | null;
}

/** One opening cut out of an element. Sizes in m and m2; `filledBy` is the GlobalId of the door or window. */
export interface Opening {
  readonly globalId: string;
  readonly width: number | null;
  readonly height: number | null;
  readonly area: number | null;
  readonly perimeter: number | null;
  /** Height of its lower edge above the bottom of its host, m. */
  readonly sill: number | null;
  readonly filledBy: string | null;
}

/** The way a face looks; `all` where an element's faces are known together only. */
export const FACE_LOOKS = ['top', 'bottom', 'side', 'end', 'all'] as const;
export type FaceLook = (typeof FACE_LOOKS)[number];

/** Faces of an element that carry one surface style (or, where the file has none, its material) and look one way. m2. */
export interface Face {
  readonly style: string;
  readonly look: FaceLook;
  readonly area: number;
}

/** What the surfaces of a room are finished with; null is "none assigned". */
export interface RoomFinishes {
  readonly floor: string | null;
  readonly wall: string | null;
  readonly ceiling: string | null;
  readonly skirting: string | null;
}

/** A part of a room's walls with a finish of its own: from and to a height above the floor, m, and on which walls; all if absent. */
export interface WallFinish {
  readonly finish: string | null;
  readonly fromM?: number;
  readonly toM?: number;
  /** ElementKeys of walls. */
  readonly walls?: readonly number[];
}

export const FINISH_SURFACES = ['floor', 'wall', 'ceiling', 'skirting'] as const;
export type FinishSurface = (typeof FINISH_SURFACES)[number];

/** A storey of a model, with its floor area and how that was found. Metres above the model's zero, m2. */
export interface ModelStorey {
  readonly name: string;
  readonly elevation: number | null;
  /** Height of its level by its placement; absent from older readers. */
  readonly levelM?: number;
  /** Area of its floors that no room covers; absent where there are no rooms, or from older readers. */
  readonly uncoveredM2?: number;
  readonly gfa: number | null;
  readonly gfaMethod: GfaMethod | null;
}

/**
 * How a storey's gross floor area was found: `stated` by the file, `gross-spaces` spaces drawn for that purpose, `slabs` area covered by the storey's floor slabs, `spaces`
 * sum of its rooms' floors, `slices` what its level cuts out of the masses of an early design.
 */
export type GfaMethod = 'stated' | 'gross-spaces' | 'slabs' | 'spaces' | 'slices';

export type PropertyValue = string | number | boolean;

/** Axis-aligned box in the model's world, metres: [minX, minY, minZ, maxX, maxY, maxZ]. */
export type Box = readonly [number, number, number, number, number, number];

/** What of a shape is enough to know it again: the same wherever it stands and however it is turned, centre aside. */
export interface SurfaceSketch {
  readonly areaM2: number;
  /** Centre of its surface, m. */
  readonly centre: readonly [number, number, number];
  /** Spread of its surface along its own three axes, m, the widest first: root of the mean squared distance from the centre. */
  readonly spread: readonly [number, number, number];
}

/** Anything with quantities, as read from a source. Identity fields are the standard's own. */
export interface ModelElement {
  /** Identity in its source: the GlobalId of a model's element, the key of a list's line. */
  readonly globalId: string;
  /** IFC class, e.g. `IfcWall`; empty for what comes from no model. */
  readonly ifcClass: string;
  readonly name: string | null;
  /** Name of the type, else the object type. */
  readonly typeName: string | null;
  readonly tag: string | null;
  readonly storey: string | null;
  /** GlobalId of the room the element stands in. */
  readonly space: string | null;
  /** GlobalId of the whole it is a part of. */
  readonly parent: string | null;
  /** GlobalId of the element that hosts it (a door's wall). */
  readonly host: string | null;
  readonly zones: readonly string[];
  readonly materials: readonly string[];
  /** Classification codes, e.g. UNIFORMAT II. */
  readonly codes: readonly string[];
  readonly quantities: readonly Quantity[];
  readonly layers: readonly Layer[];
  readonly openings: readonly Opening[];
  readonly faces: readonly Face[];
  readonly properties: Readonly<Record<string, Readonly<Record<string, PropertyValue>>>>;
  /** Finishes of a room; null for everything else. */
  readonly finishes: RoomFinishes | null;
  readonly box: Box | null;
  /** Area, centre and spread of its surface in the model's world, to know it again by; null without a shape. */
  readonly sketch?: SurfaceSketch | null;
}

/** Finds a quantity by exact name and basis. */
export function findQuantity(element: ModelElement, name: string, basis: Basis): Quantity | undefined {
  return element.quantities.find((q) => q.basis === basis && q.name === name);
}

/** Which of two figures of one name is used: the better one, or always the measured or the stated one where there is one. */
export type QuantityChoice = 'best' | 'measured' | 'stated';

/** Where elements come from: a model (IFC), a list (CSV, XLSX), a measurement by hand, a rough form, or a cost without an object. */
export const SOURCE_KINDS = ['model', 'list', 'hand', 'form', 'allowance'] as const;
export type SourceKind = (typeof SOURCE_KINDS)[number];

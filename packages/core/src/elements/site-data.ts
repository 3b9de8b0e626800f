import type { ModelStorey } from './model-element.ts';

/** A room on plan: its row, its outlines as x, y pairs in metres, and the heights of its floor and ceiling. */
export interface RoomPlan {
  readonly row: number;
  readonly rings: readonly (readonly number[])[];
  /** Outlines of columns and courts in it, as x, y pairs; absent if it has none. */
  readonly holes?: readonly (readonly number[])[];
  readonly bottomM: number;
  readonly topM: number;
}

/**
 * An opening of a wall, seen on plan: the middle of what it takes from the wall, how deep that is (the wall's thickness unless it is a
 * niche, which lies on one side), its size and height range. Metres.
 */
export interface PlanOpening {
  readonly at: readonly [number, number];
  readonly wallM: number;
  readonly widthM: number;
  readonly bottomM: number;
  readonly topM: number;
}

/** A place where walls end or meet: what it is, where it lies on plan, the row it is counted with, the rows of its walls. */
export interface WallJunction {
  readonly kind: 'corner' | 'tee' | 'cross' | 'free end';
  readonly at: readonly [number, number];
  readonly owner: number;
  readonly walls: readonly number[];
}

/** Middle line of a wall on plan as x, y pairs, with its thickness and height range, m. */
export interface RowAxis {
  readonly row: number;
  /** The first layer of the wall lies to the left of the line. */
  readonly isFirstLeft: boolean;
  readonly points: readonly number[];
  readonly widthM: number;
  readonly bottomM: number;
  readonly topM: number;
}

/** One slope of a roof: the row of its roof or slab, its pitch in degrees, the way it falls from the y axis clockwise in degrees, m2. */
export interface RoofSlope {
  readonly row: number;
  readonly pitch: number;
  readonly falls: number;
  readonly area: number;
}

/** Two bodies that share room, by row, with the volume they share and that of the smaller one, m3. */
export interface SharedBody {
  readonly a: number;
  readonly b: number;
  readonly sharedM3: number;
  readonly smallerM3: number;
}

/** What a source says beside its elements. */
export interface SiteData {
  readonly storeys?: readonly ModelStorey[];
  readonly densities?: Readonly<Record<string, number>>;
  readonly roomPlans?: readonly RoomPlan[];
  readonly junctions?: readonly WallJunction[];
  readonly wallAxes?: readonly RowAxis[];
  readonly wallOpenings?: readonly PlanOpening[];
  readonly roofSlopes?: readonly RoofSlope[];
  readonly sharedBodies?: readonly SharedBody[];
}

import type { ModelStorey } from './model-element.ts';

/** A room on plan: its row, its outlines as x, y pairs in metres, and the heights of its floor and ceiling. */
export interface RoomPlan {
  readonly row: number;
  readonly rings: readonly (readonly number[])[];
  readonly bottomM: number;
  readonly topM: number;
}

/** An opening of a wall, seen on plan: its middle, the thickness of its wall, its size and height range. Metres. */
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

/** What a source says beside its elements. */
export interface SiteData {
  readonly storeys?: readonly ModelStorey[];
  readonly densities?: Readonly<Record<string, number>>;
  readonly roomPlans?: readonly RoomPlan[];
  readonly junctions?: readonly WallJunction[];
  readonly wallAxes?: readonly RowAxis[];
  readonly wallOpenings?: readonly PlanOpening[];
}

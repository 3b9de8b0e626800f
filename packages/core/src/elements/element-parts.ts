/**
 * How much of an element's figures lies within a limit, as shares of 1: of its volume, of its faces by the way they look, of all of
 * them together, and of its length on plan. `named` holds the shares of single quantities that follow none of these.
 */
export interface PartShares {
  readonly volume: number;
  readonly top: number;
  readonly bottom: number;
  readonly sides: number;
  readonly ends: number;
  readonly surface: number;
  readonly length: number;
  readonly named?: Readonly<Record<string, number>>;
}

/** What of a table's elements lies within one limit of the project. A row that is in none of the three lists lies outside. */
export interface LimitParts {
  readonly name: string;
  /** Rows that lie in it whole. */
  readonly inside: ReadonlySet<number>;
  /** Rows that lie in it in part. */
  readonly crossing: ReadonlyMap<number, PartShares>;
  /** Rows whose part is not known: they have no shape, or it is not there yet. */
  readonly unknown: ReadonlySet<number>;
}

/** Faces of elements chosen by hand under one name: their areas by row, m2; NaN where they are no longer found. */
export interface ChosenAreas {
  readonly name: string;
  readonly areas: ReadonlyMap<number, number>;
}

/** What is measured of the shapes of a table's elements because a project asks for it. */
export interface TableParts {
  readonly limits: readonly LimitParts[];
  readonly chosen: readonly ChosenAreas[];
}

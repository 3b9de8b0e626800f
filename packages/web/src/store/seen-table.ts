import type { ElementTable, SiUnit } from '@tally/core';

/** One source's elements: as its file has them, and as the project sees them. */
export interface SeenTable {
  readonly id: string;
  readonly plain: ElementTable;
  readonly table: ElementTable;
  /** Names that its quantities have, and their units. */
  readonly named: readonly NamedQuantity[];
}

/** A quantity by its name, for formulas. */
export interface NamedQuantity {
  readonly name: string;
  readonly unit: SiUnit;
}

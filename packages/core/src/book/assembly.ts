/** A figure of an assembly that a rule may set: a formula, checked against `unit`. */
export interface AssemblyParameter {
  readonly name: string;
  readonly unit: string;
  /** Value while no rule says otherwise, e.g. `0.6 m`. */
  readonly value: string;
  readonly note?: string;
}

/** One line of an assembly: an item or another assembly, and how much of it in terms of `Driver`, quantities and parameters. */
export interface BuildUpLine {
  readonly item?: string;
  readonly assembly?: string;
  readonly quantity: string;
  /** Only where this condition holds. */
  readonly when?: string;
  /** Overrides the item's waste, per cent. */
  readonly wastePercent?: number;
  readonly note?: string;
}

/** Turns one measured thing into many priced ones. `unit` is that of its driver. */
export interface Assembly {
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  readonly group?: string;
  readonly parameters?: readonly AssemblyParameter[];
  readonly lines: readonly BuildUpLine[];
}

/** One class of a classification. Its place in the order above and below follows from its code: B20 is above B2010. */
export interface CostClass {
  readonly code: string;
  readonly title: string;
}

/** A coding system that items and assemblies are sorted by. Classes in the order they are read in. */
export interface Classification {
  readonly name: string;
  readonly classes: readonly CostClass[];
}

/** What a class is in a classification, by its name. */
export type ClassCodes = Readonly<Record<string, string>>;

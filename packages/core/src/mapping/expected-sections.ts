/** Work sections that every element of a class, or of its subtypes, is to be priced in: what is not is found as missing. */
export interface ExpectedSections {
  readonly ifcClass: string;
  readonly sections: readonly string[];
}

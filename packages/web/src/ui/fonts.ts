/** Family of figures: mono, tabular. */
export const FIGURES = '"Atkinson Hyperlegible Mono Variable", monospace';

/** Totals of the demo project with its three revisions, EUR. */
const TOTALS = { R1: 582_017.33, R2: 656_236.98, R3: 644_557.92 };

/** A figure as the tests' browser shows money. @example money(1234.5) // '1,234.50' */
export const money = (amount: number): string =>
  amount.toLocaleString('en-GB', { minimumFractionDigits: 2, maximumFractionDigits: 2 });

/** The total of the demo as it is read on screen, moved by an amount. */
export const demo = (move = 0, revision: keyof typeof TOTALS = 'R1'): string => money(TOTALS[revision] + move);

/** Totals of the demo project with its three revisions, EUR. */
const TOTALS = { R1: 560_445.26, R2: 634_084.3, R3: 622_405.24 };

/** A figure as the tests' browser shows money. @example money(1234.5) // '1,234.50' */
export const money = (amount: number): string =>
  amount.toLocaleString('en-GB', { minimumFractionDigits: 2, maximumFractionDigits: 2 });

/** The total of the demo as it is read on screen, moved by an amount. */
export const demo = (move = 0, revision: keyof typeof TOTALS = 'R1'): string => money(TOTALS[revision] + move);

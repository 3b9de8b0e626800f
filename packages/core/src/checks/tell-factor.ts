/** Mistakes that make a price wrong by a factor. */
const FACTORS: readonly (readonly [factor: number, cause: string])[] = [
  [10, 'a decimal sign one place off'],
  [12, 'inches taken for feet, or a year for a month'],
  [100, 'cents taken for the whole, or a decimal sign two places off'],
  [1000, 'millimetres or kilograms taken for metres or tonnes'],
  [3.2808, 'feet taken for metres'],
  [10.764, 'square feet taken for square metres'],
  [35.315, 'cubic feet taken for cubic metres'],
];

/**
 * The usual mistake that makes a price wrong by about a factor, as a question; empty where none is near.
 * @param ratio how many times too much or too little it is, more than 1
 */
export function tellFactor(ratio: number): string {
  const [factor, cause] = [...FACTORS].sort((a, b) => offBy(ratio, a[0]) - offBy(ratio, b[0]))[0]!;
  return offBy(ratio, factor) < Math.log(1.15) ? ` About ${factor} times: ${cause}?` : '';
}

const offBy = (ratio: number, factor: number): number => Math.abs(Math.log(ratio / factor));

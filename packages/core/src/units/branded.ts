/** Figures whose unit is part of their type, so that a length cannot be passed where an area is meant. Always SI. */
export type Metres = number & { readonly __unit?: 'm' };
export type SquareMetres = number & { readonly __unit?: 'm2' };
export type CubicMetres = number & { readonly __unit?: 'm3' };
export type Kilograms = number & { readonly __unit?: 'kg' };

/** SI symbols that quantities are carried in. */
export type SiUnit = 'm' | 'm2' | 'm3' | 'kg' | 'each' | 'h' | 'number' | CountUnit;

/** Units that are only counted, each distinct from the others. */
export const COUNT_UNITS = ['bag', 'roll', 'sheet', 'set', 'load', 'coat', 'day', 'week', 'month'] as const;
export type CountUnit = (typeof COUNT_UNITS)[number];

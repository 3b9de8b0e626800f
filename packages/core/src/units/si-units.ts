import type { SiUnit } from './branded.ts';
import type { Dimension } from './dimension.ts';

const DIMENSION_OF: Record<SiUnit, Dimension> = {
  m: { length: 1 },
  m2: { length: 2 },
  m3: { length: 3 },
  kg: { mass: 1 },
  each: { each: 1 },
  h: { hour: 1 },
  number: {},
};

/** Dimension of a figure carried in an SI unit. */
export function siUnitToDimension(unit: SiUnit): Dimension {
  return DIMENSION_OF[unit];
}

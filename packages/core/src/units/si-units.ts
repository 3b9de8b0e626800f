import { COUNT_UNITS, type CountUnit, type SiUnit } from './branded.ts';
import { type Dimension, isSameDimension } from './dimension.ts';

const DIMENSION_OF: Record<SiUnit, Dimension> = {
  m: { length: 1 },
  m2: { length: 2 },
  m3: { length: 3 },
  kg: { mass: 1 },
  each: { each: 1 },
  h: { hour: 1 },
  number: {},
  ...(Object.fromEntries(COUNT_UNITS.map((u) => [u, { [u]: 1 }])) as Record<CountUnit, Dimension>),
};

/** Dimension of a figure carried in an SI unit. */
export function siUnitToDimension(unit: SiUnit): Dimension {
  return DIMENSION_OF[unit];
}

/** The SI unit that figures of a dimension are carried in; null if there is none. */
export function dimensionToSiUnit(dimension: Dimension): SiUnit | null {
  const found = Object.entries(DIMENSION_OF).find(([, d]) => isSameDimension(d, dimension));
  return found ? (found[0] as SiUnit) : null;
}

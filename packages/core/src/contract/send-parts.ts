import type { TableParts } from '../elements/element-parts.ts';
import type { TablePartsDto } from './plan.ts';

/** What was measured of a revision's shapes, as it is sent. */
export function sendParts(revisionId: string, { limits, chosen }: TableParts): TablePartsDto {
  return {
    revisionId,
    limits: limits.map(({ name, inside, crossing, unknown }) => ({
      name,
      inside: [...inside],
      crossing: [...crossing],
      unknown: [...unknown],
    })),
    chosen: chosen.map(({ name, areas }) => ({
      name,
      areas: [...areas].map(([row, m2]) => [row, Number.isNaN(m2) ? null : m2] as const),
    })),
  };
}

/** The inverse of `sendParts`. */
export function receiveParts({ limits, chosen }: TablePartsDto): TableParts {
  return {
    limits: limits.map(({ name, inside, crossing, unknown }) => ({
      name,
      inside: new Set(inside),
      crossing: new Map(crossing),
      unknown: new Set(unknown),
    })),
    chosen: chosen.map(({ name, areas }) => ({
      name,
      areas: new Map(areas.map(([row, m2]) => [row, m2 ?? Number.NaN])),
    })),
  };
}

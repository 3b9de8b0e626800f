import type { PurchaseDto } from '@tally/core';
import { showFigure } from '../../ui/format.ts';

/** How what is bought is made up: packs, or pieces of each length with their splices. */
export function describePacks({ packs, lengths, splices, unit, toBuy }: PurchaseDto): string {
  if (packs === null) return '';
  const joints = splices > 0 ? `, ${showFigure(Math.ceil(splices), 0)} splices` : '';
  if (lengths.length > 0) return `${lengths.map((l) => `${l.pieces} × ${l.length} ${unit}`).join(', ')}${joints}`;
  // Packs of one are what is counted anyway.
  return packs === toBuy ? '' : `${packs} ${packs === 1 ? 'pack' : 'packs'}`;
}

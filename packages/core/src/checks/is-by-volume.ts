import type { MappedRows } from '../mapping/map-elements.ts';
import type { PricedLine } from '../pricing/price-lines.ts';
import { VOLUMES } from './check-live.ts';

/** Whether a line of a decision goes by the volume or weight of what it is about: in its own formula, or by the driver. */
export function isByVolume({ decision }: Pick<MappedRows, 'decision'>, line: PricedLine): boolean {
  const slots = line.item?.quantity.slots ?? [];
  if (slots.some((s) => VOLUMES.test(s.name))) return true;
  // An item priced directly has the driver itself as its quantity.
  const readsDriver = line.path.length === 0 || slots.some((s) => s.name.toLowerCase() === 'driver');
  return readsDriver && VOLUMES.test(decision.driver ?? '');
}

import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import type { ElementTable } from '../elements/element-table.ts';

/** A straight wall of one height seen from the side, m; sills are above its bottom. */
export interface SideView {
  readonly lengthM: number;
  readonly heightM: number;
  readonly openings: readonly { readonly widthM: number; readonly sillM: number; readonly heightM: number }[];
}

/** A wall whose length x height is its gross side within this share is a rectangle from the side. */
const RECTANGLE_SHARE = 1e-4;

/** A row seen from the side; null if it is no rectangle or an opening's size is not known. */
export function readSideView(table: ElementTable, row: number): SideView | null {
  const columns = listEffectiveQuantities(table);
  const figure = (name: string) => columns.get(name)?.values[row] ?? Number.NaN;
  const [lengthM, heightM, gross] = [figure('length'), figure('height'), figure('grosssidearea')];
  if (!(Math.abs(lengthM * heightM - gross) <= RECTANGLE_SHARE * gross)) return null;
  const openings: SideView['openings'][number][] = [];
  for (let i = table.openings.offset[row]!; i < table.openings.offset[row + 1]!; i++) {
    const opening = {
      widthM: table.openings.width[i]!,
      sillM: table.openings.sill[i]!,
      heightM: table.openings.height[i]!,
    };
    if (Object.values(opening).some(Number.isNaN)) return null;
    openings.push(opening);
  }
  return { lengthM, heightM, openings };
}

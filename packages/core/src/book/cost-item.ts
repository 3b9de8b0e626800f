import type { ClassCodes } from './cost-class.ts';
import type { ItemKind } from './item-kind.ts';
import type { KindSplit } from './kind-split.ts';

/** How an item is sold: in whole packs, or in pieces of certain lengths. */
export interface SoldAs {
  /** Size of a pack in the item's unit. */
  readonly pack?: number;
  /** Lengths in the item's unit, which is a length. */
  readonly lengths?: readonly number[];
  /** Price of one pack; the rate follows from it. */
  readonly packPrice?: string;
  /** Price of a piece of each length, in their order; the rate is that of the longest. */
  readonly lengthPrices?: readonly string[];
  /** Of lengths: pieces are cut by a list over all of them, and that is what is bought. In the item's unit. */
  readonly cut?: CutByList;
  /** Packs are made up for each storey, not for the whole project. */
  readonly perStorey?: boolean;
}

/** How lengths of an item are cut by a list. In the item's unit. */
export interface CutByList {
  /** What each cut takes away; 0 if absent. */
  readonly kerf?: number;
  /** Offcuts of this length and more are kept for reuse. */
  readonly keepOver?: number;
  /** Pieces longer than the longest bar are joined; they are unless it says otherwise. */
  readonly joined?: boolean;
}

/** A thing with a price. `rate` is a decimal in the project's currency per `unit`; null means it has none yet. */
export interface CostItem {
  readonly code: string;
  readonly description: string;
  readonly kind: ItemKind;
  readonly unit: string;
  readonly rate: string | null;
  /** Instead of `rate`: a formula in the project's currency per `unit`, of named values, scales and what the element has. */
  readonly rateFormula?: string;
  /** Currency of the rate where it is not the project's (ISO 4217). */
  readonly currency?: string;
  readonly soldAs?: SoldAs;
  /** It is taken off: its rate is below 0. */
  readonly isDeduction?: boolean;
  /** Allowance on the net quantity, per cent. */
  readonly wastePercent?: number;
  readonly group?: string;
  readonly supplier?: string;
  /** Where the rate comes from, in words. */
  readonly source?: string;
  /** Date of the rate, ISO 8601. */
  readonly date?: string;
  /** Class of tax, in the words of the office: "standard", "reduced". */
  readonly taxClass?: string;
  /** Of a material, kg/m3; lines of the item read it as `ItemDensity`. */
  readonly densityKgM3?: number;
  /** Of an all-in rate: how it is split by kind of cost. */
  readonly split?: KindSplit;
  /** Codes in classifications, by their names. */
  readonly classes?: ClassCodes;
  readonly notes?: string;
}

/** True if the rate follows from a formula or from the price of a pack or a length, not from a plain figure. */
export const isRateWorkedOut = ({ rateFormula, soldAs }: CostItem): boolean =>
  rateFormula !== undefined || soldAs?.packPrice !== undefined || soldAs?.lengthPrices !== undefined;

/** Waste above this is asked about before it is kept, per cent: it buys more than twice of what is needed. */
export const UNUSUAL_WASTE = 100;
/** Waste above this is refused, per cent. */
export const MOST_WASTE = 2000;

/** Units of what is sold by the piece: nobody sells half of one. */
const PIECES: ReadonlySet<string> = new Set(['each', 'bag', 'roll', 'sheet']);

/** A new item as it is bought: a material that is counted is bought whole, unless it says otherwise. Items there were before keep how they are sold. */
export function buyWhole(item: CostItem): CostItem {
  const isCounted = item.kind === 'material' && PIECES.has(item.unit) && item.soldAs === undefined;
  return isCounted ? { ...item, soldAs: { pack: 1 } } : item;
}

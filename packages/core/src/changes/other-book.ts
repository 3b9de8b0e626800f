import { compileRate, factorOf, isRateByElement, isRateByTotal } from '../recipes/item-rate.ts';
import { type BookContents, buildBook, type RecipeItem } from '../recipes/recipe.ts';

/** An item as another book prices it: waste, rate before factors, factor. */
export interface OtherPrice {
  readonly wastePercent: number;
  readonly rate: number | null;
  readonly factor: number;
}

/**
 * What the items of lines that one state lacks would be priced with there. Where the other book has not the item, has it in another unit, or its rate
 * goes by the element, nothing else is known than the line's own.
 */
export class OtherBook {
  private readonly book;
  private readonly known = new Map<RecipeItem, OtherPrice | null>();

  constructor(contents: BookContents) {
    this.book = buildBook(contents);
  }

  find(line: RecipeItem): OtherPrice | null {
    let found = this.known.get(line);
    if (found === undefined) {
      found = this.look(line);
      this.known.set(line, found);
    }
    return found;
  }

  private look(line: RecipeItem): OtherPrice | null {
    const item = this.book.items.get(line.item.code);
    if (!item || item.unit !== line.item.unit) return null;
    const rate = compileRate(item, line.unit, this.book.names, this.book.terms);
    const isOwn = isRateByElement(line.rate) || isRateByTotal(line.rate) || (rate.formula && !rate.formula.isConstant);
    // Waste that the line itself says is the line's; that of the item comes with the item.
    const isItems = line.wastePercent === (line.item.wastePercent ?? 0);
    return {
      wastePercent: isItems && !item.soldAs?.cut ? (item.wastePercent ?? 0) : line.wastePercent,
      rate: isOwn || rate.problem ? line.rate.value : rate.value,
      factor: factorOf(rate),
    };
  }
}

import { LineState } from '../cells/cell-line.ts';
import { listWholePieces } from '../cells/whole-pieces.ts';
import { type CutPlan, cutBars, type NeededPiece } from '../cutting/cut-bars.ts';
import { listStock, readCutTerms } from '../cutting/cut-terms.ts';
import { readText } from '../elements/columns.ts';
import type { RecipeItem } from '../recipes/recipe.ts';
import { failure, type Result, success } from '../result/result.ts';
import { codeKey } from '../units/code-key.ts';
import type { Plan } from './plan.ts';
import { nameElement } from './plan-fields.ts';
import { visitPlanCells } from './plan-rows.ts';

/** How the pieces of an item are cut: all of them, or those of a storey where it is bought by storey. */
export interface ItemCut extends CutPlan {
  readonly item: string;
  readonly storey: string | null;
  readonly description: string;
  /** The unit of the item, and metres of one. */
  readonly unit: string;
  readonly unitM: number;
  /** It is bought by this list; else what is bought goes by the shortest length that covers each piece. */
  readonly isByList: boolean;
  /** Elements whose quantity is not known: their pieces are not in it. */
  readonly unknown: number;
}

/** Items of a plan that are sold in lengths and of which pieces are needed, in the order of their codes. */
export function listCutItems(
  plan: Plan,
): { readonly code: string; readonly description: string; readonly isByList: boolean }[] {
  const items = new Map<string, RecipeItem>();
  for (const { blocks } of plan.parts)
    for (const { lines } of blocks)
      for (const { item } of lines) if (item && item.lengths.length > 0) items.set(item.item.code, item);
  return [...items.values()]
    .map(({ item }) => ({ code: item.code, description: item.description, isByList: item.soldAs?.cut !== undefined }))
    .sort((a, b) => (a.code < b.code ? -1 : 1));
}

/**
 * Cuts all pieces of an item, each named by its element, from the lengths it is sold in; storey by storey where it is bought so.
 * Errors: `item-unknown`, `item-without-lengths`, those of `cutBars`.
 */
export function cutItem(plan: Plan, code: string): Result<readonly ItemCut[]> {
  const lists = new Map<string | null, { pieces: NeededPiece[]; unknown: number }>();
  let of: RecipeItem | null = null;
  let isThere = false;
  visitPlanCells(plan, (part, row, _, line, at) => {
    if (codeKey(line.code) !== codeKey(code)) return;
    isThere = true;
    if (!line.item || line.item.lengths.length === 0) return;
    of = line.item;
    const storey = line.item.item.soldAs?.perStorey ? readText(part.table.storey, row) : null;
    const list = lists.get(storey) ?? { pieces: [], unknown: 0 };
    lists.set(storey, list);
    if (line.state[at] !== LineState.known) {
      list.unknown++;
      return;
    }
    const from = nameElement({ part, row });
    for (const piece of listWholePieces(line, at)) list.pieces.push({ ...piece, from });
  });
  if (!isThere)
    return failure('item-unknown', `The plan takes no item ${code}.`, { remedy: 'Choose one that it takes.' });
  const found = of as RecipeItem | null;
  if (!found)
    return failure('item-without-lengths', `${code} is not sold in lengths.`, {
      remedy: 'Say in the book which lengths it is sold in, e.g. "lengths 3.6, 4.8 m".',
    });
  const { item, lengths, unit } = found;
  const made: ItemCut[] = [];
  for (const [storey, { pieces, unknown }] of lists) {
    const cut = cutBars(pieces, listStock(item, lengths, unit.factor), readCutTerms(item, unit.factor)); // biome-ignore format: one step
    if (!cut.ok) return cut;
    made.push({
      item: item.code,
      storey,
      description: item.description,
      unit: item.unit,
      unitM: unit.factor,
      isByList: item.soldAs?.cut !== undefined,
      unknown,
      ...cut.value,
    });
  }
  return success(made);
}

import { cutItem, type Result, success } from '@tally/core';
import { readPlan } from '../input.ts';

/** `cut MODEL.ifc --template T.json --item CODE`: how the pieces of an item are cut from the lengths it is sold in. Metres; of an item bought by storey one list each. */
export async function cut(path: string, templatePath: string, code: string): Promise<Result<unknown>> {
  const read = await readPlan(path, templatePath);
  if (!read.ok) return read;
  const found = cutItem(read.value.plan, code);
  if (!found.ok) return found;
  const lists = found.value.map((list) => ({
    item: list.item,
    storey: list.storey,
    isByList: list.isByList,
    bars: list.bars.map((bar) => ({
      stock: bar.stockM,
      pieces: bar.pieces.map((p) => ({ length: p.lengthM, from: p.from })),
      offcut: bar.offcutM,
      isKept: bar.isKept,
    })),
    stock: list.stockM,
    pieces: list.piecesM,
    waste: list.wasteM,
    kept: list.keptM,
    joints: list.joints,
    lowerBound: list.lowerBoundM,
    unknown: list.unknown,
  }));
  const [only] = lists;
  return success(lists.length === 1 ? only : { bars: lists.flatMap((l) => l.bars), lists });
}

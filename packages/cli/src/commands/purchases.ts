import { amountToMinor, minorToMajor, type Result, success } from '@tally/core';
import { readPlan } from '../input.ts';

/** Units of what is sold by the piece. */
const COUNTED: ReadonlySet<string> = new Set(['each', 'bag', 'roll', 'sheet']);

/** `purchases MODEL.ifc --template T.json`: what has to be bought, by item. */
export async function purchases(path: string, templatePath: string): Promise<Result<unknown>> {
  const read = await readPlan(path, templatePath);
  if (!read.ok) return read;
  const { plan } = read.value;
  return success({
    currency: plan.currency,
    items: plan.purchases.map((p) => ({
      code: p.item.code,
      unit: p.item.unit,
      storey: p.storey,
      net: p.net,
      waste: p.waste,
      toBuy: p.toBuy,
      packs: p.packs,
      lengths: p.lengths,
      surplus: p.surplus,
      // Pieces, bags, rolls and sheets are ordered whole, however they are priced.
      ...(COUNTED.has(p.item.unit) ? { order: Math.ceil(p.toBuy - 1e-9) } : {}),
      splices: p.splices,
      supplier: p.item.supplier ?? null,
      surplusAmount: minorToMajor(amountToMinor(p.surplusAmount), plan.minorDigits),
      ...(p.cutting ? { lowerBound: p.cutting.lowerBound, problem: p.cutting.problem } : {}),
      amount: minorToMajor(p.minor, plan.minorDigits),
      unknown: p.unknown,
    })),
  });
}

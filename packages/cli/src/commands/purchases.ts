import { minorToMajor, type Result, success } from '@tally/core';
import { readPlan } from '../input.ts';

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
      splices: p.splices,
      amount: minorToMajor(p.minor, plan.minorDigits),
      unknown: p.unknown,
    })),
  });
}

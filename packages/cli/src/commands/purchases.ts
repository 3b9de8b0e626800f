import { listTemplateSources, minorToMajor, type Result, runPipeline, success, templateToBasis } from '@tally/core';
import { readModel, readTemplateFile, toTable } from '../input.ts';

/** `purchases MODEL.ifc --template T.json`: what has to be bought, by item. */
export async function purchases(path: string, templatePath: string): Promise<Result<unknown>> {
  const template = readTemplateFile(templatePath);
  if (!template.ok) return template;
  const read = await readModel(path);
  if (!read.ok) return read;
  const plan = runPipeline(templateToBasis(template.value), listTemplateSources(template.value, toTable(read.value)));
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

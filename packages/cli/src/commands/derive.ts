import { amountToMinor, explainElement, failure, minorToMajor, type Result, readText, success } from '@tally/core';
import { findElement, readPlan } from '../input.ts';

/**
 * `derive MODEL.ifc --template T.json --element GLOBALID [--item CODE]`: how the amount of an element, or of one item on it, came about: each line with its formula, as typed
 * and with its figures, where the quantities come from, waste, rate and where that comes from.
 */
export async function derive(
  path: string,
  templatePath: string,
  globalId: string,
  item: string | null,
): Promise<Result<unknown>> {
  const read = await readPlan(path, templatePath);
  if (!read.ok) return read;
  const { plan } = read.value;
  const { table } = plan.parts[0]!;
  const found = findElement(table, globalId, path);
  if (!found.ok) return found;
  const row = found.value;
  const { lines } = explainElement(plan, table.keys[row]!)!;
  const wanted = lines.filter((l) => item === null || l.code.toLowerCase() === item.toLowerCase());
  if (item !== null && wanted.length === 0)
    return failure('item-unknown', `${globalId} takes no item ${item}.`, {
      path,
      remedy: `It takes ${[...new Set(lines.map((l) => l.code))].join(', ') || 'nothing'}.`,
    });
  const major = (amount: number) => minorToMajor(amountToMinor(amount), plan.minorDigits);
  const known = wanted.flatMap((l) => (l.amount === null ? [] : [l.amount]));
  return success({
    globalId,
    name: readText(table.name, row),
    currency: plan.currency,
    amount: known.length > 0 ? major(known.reduce((sum, a) => sum + a, 0)) : null,
    unknown: wanted.length - known.length,
    lines: wanted.map((l) => ({
      section: l.section,
      item: l.code,
      description: l.item?.description ?? null,
      part: l.part,
      decided: l.reason,
      path: l.path,
      quantity: {
        formula: l.steps.at(-1)?.formula ?? null,
        withFigures: l.steps.at(-1)?.figures ?? null,
        steps: l.steps.map(({ lead, formula, figures, result, unit }) => ({ ...(lead ? { lead } : {}), formula, withFigures: figures, result, unit })), // biome-ignore format: one record
        inputs: l.quantities,
      },
      net: l.net,
      wastePercent: l.wastePercent,
      toBuy: l.toBuy,
      unit: l.item?.unit ?? null,
      rate: {
        value: l.rate,
        source: l.item?.source ?? null,
        date: l.item?.date ?? null,
        steps: [
          ...l.rateSteps.map((s) => ({ formula: s.formula, withFigures: s.figures, result: s.result })),
          ...l.rateFactors,
        ],
      },
      amount: l.amount === null ? null : major(l.amount),
      problem: l.problem?.message ?? null,
    })),
  });
}

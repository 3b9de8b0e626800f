import { writeFileSync } from 'node:fs';
import {
  COMPLETENESS_STATES,
  failure,
  groupPlan,
  isLineUnknown,
  minorToMajor,
  type Plan,
  type PlanLine,
  planToTable,
  type Result,
  readText,
  runPipeline,
  success,
  templateToBasis,
  visitPlanCells,
} from '@tally/core';
import { writeCsv } from '@tally/files';
import { readModel, readTemplateFile, toTable } from '../input.ts';

/** `price MODEL.ifc --template T.json [--out FILE.csv]`: the priced plan, one line per item and section. */
export async function price(path: string, templatePath: string, out?: string): Promise<Result<unknown>> {
  const template = readTemplateFile(templatePath);
  if (!template.ok) return template;
  const read = await readModel(path);
  if (!read.ok) return read;
  const basis = templateToBasis(template.value);
  const plan = runPipeline(basis, [{ sourceId: 'model', table: toTable(read.value) }]);
  const grouped = groupPlan(plan, ['section'], basis.sections);
  if (out !== undefined) {
    try {
      writeFileSync(out, writeCsv(planToTable(grouped, ['Section'], plan.minorDigits)));
    } catch (error) {
      return failure(
        'file-unwritable',
        `${out} cannot be written: ${(error as NodeJS.ErrnoException).code ?? 'error'}.`,
        { path: out, remedy: 'Choose another place.' },
      );
    }
  }
  const ids = listLineGlobalIds(plan);
  const major = (minor: number) => minorToMajor(minor, plan.minorDigits);
  const lines = grouped.groups.flatMap((g) =>
    [...groupByItem(g.lines).values()].map((same) => {
      const line = same[0]!;
      const sum = (read: (l: PlanLine) => number) => same.reduce((total, l) => total + read(l), 0);
      return {
        item: line.item,
        description: line.description,
        section: line.section,
        quantity: sum((l) => l.toBuy),
        net: sum((l) => l.net),
        unit: line.unit,
        rate: line.rate,
        amount: same.every(isLineUnknown) ? null : major(sum((l) => l.minor)),
        unknown: sum((l) => l.unknown),
        problem: same.find((l) => l.problem !== null)?.problem ?? null,
        globalIds: ids.get(`${line.section}|${line.item}`) ?? [],
      };
    }),
  );
  const { table, completeness } = plan.parts[0]!;
  const unpriced = [...completeness].flatMap((state, row) =>
    COMPLETENESS_STATES[state] === 'unpriced' ? [readText(table.globalId, row)] : [],
  );
  return success({
    currency: plan.currency,
    total: major(grouped.minor),
    incomplete: plan.unknownLines > 0 || plan.counts.unpriced > 0,
    lines,
    completeness: plan.counts,
    unpricedGlobalIds: unpriced,
    findings: read.value.findings,
  });
}

function listLineGlobalIds(plan: Plan): Map<string, string[]> {
  const ids = new Map<string, Set<string>>();
  visitPlanCells(plan, (part, row, block, line) => {
    const key = `${block.mapped.section}|${line.code}`;
    ids.set(key, (ids.get(key) ?? new Set()).add(readText(part.table.globalId, row) ?? ''));
  });
  return new Map([...ids].map(([key, set]) => [key, [...set]]));
}

/** Lines of one item; they stand apart in the plan where their waste differs. */
function groupByItem(lines: readonly PlanLine[]): Map<string, PlanLine[]> {
  const byItem = new Map<string, PlanLine[]>();
  for (const line of lines) byItem.set(line.item, [...(byItem.get(line.item) ?? []), line]);
  return byItem;
}

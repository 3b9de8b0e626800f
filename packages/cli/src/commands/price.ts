import { writeFileSync } from 'node:fs';
import {
  COMPLETENESS_STATES,
  checkPlan,
  comparePrices,
  failure,
  findPlanElement,
  GROUP_FIELDS,
  type GroupField,
  groupPlan,
  guessProfile,
  isLineUnknown,
  listTemplateSources,
  minorToMajor,
  PLAN_ROWS,
  type Plan,
  type PlanGroup,
  type PlanLine,
  type PlanRows,
  type PricingBasis,
  planToTable,
  type Result,
  rateAt,
  readGlobalId,
  readGroupField,
  readText,
  replacesFormula,
  runPipeline,
  success,
  templateToBasis,
  visitPlanCells,
  withPrice,
} from '@tally/core';
import { planToSheet, readSheets, writeCsv, writeXlsx } from '@tally/files';
import { readBytes, readModel, readTemplateFile, toTable } from '../input.ts';

/** Options of `price`: a price sheet whose rates take the place of the template's, by code; a file for the plan. */
export interface PriceOptions {
  readonly book?: string;
  readonly out?: string;
  /** Fields that the plan is grouped by beside its lines, outermost first, with commas between. */
  readonly groupBy?: string;
  /** What a row of the groups is; an item if absent. */
  readonly rows?: string;
}

/**
 * `price MODEL.ifc --template T.json [--book SHEET.xlsx] [--out FILE.csv|FILE.xlsx] [--group-by storey,kind] [--rows item|element|cell]`: the priced plan, one line per item and section; with
 * groups that add up where they are asked for.
 */
export async function price(
  path: string,
  templatePath: string,
  { book, out, groupBy, rows }: PriceOptions,
): Promise<Result<unknown>> {
  const by = readGroups(groupBy);
  if (!by.ok) return by;
  const row = readRows(rows);
  if (!row.ok) return row;
  const template = readTemplateFile(templatePath);
  if (!template.ok) return template;
  const read = await readModel(path);
  if (!read.ok) return read;
  const own = templateToBasis(template.value);
  const sheet = book === undefined ? null : await readBook(book, own);
  if (sheet && !sheet.ok) return sheet;
  const basis = sheet ? sheet.value.basis : own;
  const plan = runPipeline(basis, listTemplateSources(template.value, toTable(read.value)));
  const grouped = groupPlan(plan, ['section'], basis);
  if (out !== undefined) {
    try {
      writeFileSync(
        out,
        /\.xlsx$/i.test(out)
          ? await writeXlsx([planToSheet(grouped, 'Plan', plan.minorDigits)])
          : writeCsv(planToTable(grouped, ['Section'], plan.minorDigits)),
      );
    } catch (error) {
      return failure(
        'file-unwritable',
        `${out} cannot be written: ${(error as NodeJS.ErrnoException).code ?? 'error'}.`,
        { path: out, remedy: 'Choose another place.' },
      );
    }
  }
  const found = listLineSources(plan);
  const major = (minor: number) => minorToMajor(minor, plan.minorDigits);
  const lines = grouped.groups.flatMap((g) =>
    [...groupByItem(g.lines.filter((l) => l.open === 0)).values()].map((same) => {
      const line = same[0]!;
      const of = found.get(`${line.section}|${line.item}`);
      const sum = (read: (l: PlanLine) => number | null) => same.reduce((total, l) => total + (read(l) ?? 0), 0);
      return {
        item: line.item,
        description: line.description,
        section: line.section,
        quantity: sum((l) => l.toBuy),
        net: sum((l) => l.net),
        unit: line.unit,
        // Null where its elements have several, or none.
        rate: line.rate,
        rates: [...(of?.rates ?? [])].sort((a, b) => a - b),
        amount: same.every(isLineUnknown) ? null : major(sum((l) => l.minor)),
        unknown: sum((l) => l.unknown),
        problem: same.find((l) => l.problem !== null)?.problem ?? null,
        globalIds: [...(of?.globalIds ?? [])],
      };
    }),
  );
  const { findings } = read.value;
  const { table, completeness } = plan.parts[0]!;
  const unpriced = [...completeness].flatMap((state, row) =>
    COMPLETENESS_STATES[state] === 'unpriced' ? [readText(table.identity, row)] : [],
  );
  return success({
    currency: plan.currency,
    total: major(grouped.minor),
    incomplete: plan.unknownLines > 0 || plan.counts.unpriced > 0,
    lines,
    completeness: plan.counts,
    unpricedGlobalIds: unpriced,
    findings: [
      ...findings,
      ...checkPlan(plan, basis, { findings, overlapShare: template.value.settings.overlapShare }).map(
        ({ money, ...finding }) => ({
          ...finding,
          ...(money === undefined ? {} : { money: major(money) }),
        }),
      ),
    ],
    ...(by.value.length > 0
      ? { groups: listGroups(groupPlan(plan, by.value, basis, { rows: row.value }), major, plan).groups }
      : {}),
    ...(sheet ? { book: sheet.value.comparison } : {}),
  });
}

/** Fields to group by as they were typed. Errors: `group-unknown` naming those that there are. */
function readGroups(text: string | undefined): Result<readonly GroupField[]> {
  const names = (text ?? '').split(',').map((n) => n.trim()).filter((n) => n !== ''); // biome-ignore format: one step
  const fields = names.map(readGroupField);
  const at = fields.indexOf(null);
  if (at < 0) return success(fields as GroupField[]);
  return failure('group-unknown', `A plan cannot be grouped by "${names[at]}".`, {
    path: '--group-by',
    remedy: `Take any of: ${GROUP_FIELDS.join(', ')}, attribute:NAME, property:SET.NAME.`,
  });
}

/** What a row is to be, as it was typed. Errors: `rows-unknown`. */
function readRows(text = 'item'): Result<PlanRows> {
  const rows = PLAN_ROWS.find((r) => r === text.trim().toLowerCase());
  return rows
    ? success(rows)
    : failure('rows-unknown', `A row cannot be "${text}".`, {
        path: '--rows',
        remedy: `Take one of: ${PLAN_ROWS.join(', ')}.`,
      });
}

interface GroupJson {
  readonly label: string;
  readonly amount: number;
  readonly unknown: number;
  /** Elements in it that nothing prices. */
  readonly open: number;
  readonly groups: readonly GroupJson[];
  readonly lines: readonly { readonly item: string; readonly section: string | null; readonly quantity: number | null; readonly unit: string; readonly amount: number | null }[]; // biome-ignore format: one record
}

/** A group of the plan with what is below it; the amounts of what is in it add up to its own. */
function listGroups(group: PlanGroup, major: (minor: number) => number, plan: Plan): GroupJson {
  return {
    label: group.label,
    amount: major(group.minor),
    unknown: group.unknown,
    open: group.open,
    groups: group.groups.map((g) => listGroups(g, major, plan)),
    lines: group.lines.map((l) => ({
      item: l.item,
      section: l.section,
      quantity: l.toBuy ?? (l.open > 0 ? l.net : null),
      unit: l.unit,
      amount: isLineUnknown(l) ? null : major(l.minor),
      ...(l.open > 0 ? { open: l.open, description: l.description, problem: l.problem } : {}),
      ...(l.key === null ? {} : { element: l.element, globalId: globalIdOf(plan, l.key) }),
    })),
  };
}

/** GlobalId of an element; null for what comes from no model. */
function globalIdOf(plan: Plan, key: number): string | null {
  const found = findPlanElement(plan, key);
  return found && readGlobalId(found.part.table, found.row);
}

/** Rates of a price sheet in place of those of the same codes. */
async function readBook(
  path: string,
  basis: PricingBasis,
): Promise<Result<{ basis: PricingBasis; comparison: object }>> {
  const bytes = readBytes(path);
  if (!bytes.ok) return bytes;
  const sheets = await readSheets(path);
  if (!sheets.ok) return sheets;
  const profile = guessProfile(sheets.value);
  const sheet = sheets.value.find((s) => s.name === profile?.sheet);
  if (!profile || !sheet)
    return failure('sheet-without-headings', `${path} has no row that heads a code and a price.`, {
      path,
      remedy: 'Head the columns with "Code" and "Price".',
    });
  const found = comparePrices(sheet, profile, { items: basis.items, values: basis.values ?? [] }, path);
  // What the book works out by a formula stays as it is.
  const taken = found.changed.filter((c) => !replacesFormula(c));
  const items = new Map(basis.items.map((i) => [i.code, i]));
  const values = new Map(taken.filter((c) => c.kind === 'value').map((c) => [c.code, c.to]));
  for (const { kind, code, place, to } of taken)
    if (kind === 'item' && place) items.set(code, withPrice(items.get(code)!, place, to));
  const kept = found.changed
    .filter(replacesFormula)
    .map((c) => ({ text: `${c.code} · ${c.to}`, reason: 'The book works it out by a formula.' }));
  return success({
    basis: {
      ...basis,
      items: [...items.values()],
      values: basis.values?.map((v) => ({ ...v, value: values.get(v.name) ?? v.value })),
    },
    comparison: {
      changed: taken.length,
      notInTemplate: found.fresh.length,
      skipped: [...found.skipped, ...kept],
      decimal: found.decimal,
      ...(found.isDecimalSure ? {} : { note: 'Nothing in the sheet tells its decimal sign; it is read as a point.' }),
    },
  });
}

/** Elements and different rates of each item in a section. */
function listLineSources(plan: Plan): Map<string, { globalIds: Set<string>; rates: Set<number> }> {
  const found = new Map<string, { globalIds: Set<string>; rates: Set<number> }>();
  visitPlanCells(plan, (part, row, block, line, at) => {
    const key = `${block.mapped.section}|${line.code}`;
    const of = found.get(key) ?? { globalIds: new Set(), rates: new Set() };
    found.set(key, of);
    // Only what a model brings has a GlobalId.
    if (!part.table.origin) of.globalIds.add(readText(part.table.identity, row) ?? '');
    const rate = rateAt(line, at);
    if (rate !== null) of.rates.add(rate);
  });
  return found;
}

/** Lines of one item; what of whole packs is left over stands apart in the plan where it is bought by storey. */
function groupByItem(lines: readonly PlanLine[]): Map<string, PlanLine[]> {
  const byItem = new Map<string, PlanLine[]>();
  for (const line of lines) byItem.set(line.item, [...(byItem.get(line.item) ?? []), line]);
  return byItem;
}

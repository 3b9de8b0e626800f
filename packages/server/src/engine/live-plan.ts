import { gzipSync } from 'node:zlib';
import {
  amountToMinor,
  applyAdditions,
  type BuildingMeasure,
  type CheckThresholds,
  checkPlan,
  checkTable,
  countRows,
  type ElementTable,
  ENGINE_VERSION,
  encodeBaseline,
  evaluateScope,
  explainElement,
  explainMove,
  type Finding,
  findPlanElement,
  findShortfall,
  gatherPractice,
  type HeldTarget,
  keyFindings,
  listKeysByIdentity,
  listMaskedRows,
  type MoveDto,
  noCauses,
  type Plan,
  type PlanSummaryDto,
  type PracticeRow,
  type PricingBasis,
  type ProjectAdditions,
  readConsequences,
  readText,
  runPipeline,
  sayClass,
  sendParts,
  showMove,
  tellDecisions,
  toMoveState,
  toStoredPlan,
} from '@tally/core';
import { CompareStates } from './compare-states.ts';
import type { PlanQueries } from './plan-messages.ts';
import { PlanReadings } from './plan-readings.ts';
import { RuleShifts } from './rule-shifts.ts';
import { ALLOWANCES, type BuiltState, DRAWN, RevisionTables, StateBuilder, stateOf } from './state-builder.ts';

/** The plan of one project, kept decoded and priced; rebuilt from the database's truth at any time. */
export class LivePlan extends PlanReadings implements PlanQueries {
  private readonly files = new RevisionTables();
  private readonly builder = new StateBuilder(this.files);
  private readonly others = new CompareStates(this.files);
  private readonly findingsOf = new WeakMap<
    ElementTable,
    { readonly text: string; readonly findings: readonly Finding[] }
  >();
  private built: BuiltState | null = null;
  private revisions = new Map<string, string>();

  update: PlanQueries['update'] = (given, tables, layer, thresholds, isKeptOut = false) => {
    const before = this.built;
    const built = this.builder.build(given, tables, layer);
    const { plan, basis } = built;
    this.built = built;
    this.layer = layer;
    this.sourceNames = built.names;
    const move = before ? this.tellMove(before, built) : null;
    this.revisions = new Map([
      ...tables.map((t) => [t.sourceId, t.revisionId] as const),
      [DRAWN, DRAWN] as const,
      [ALLOWANCES, ALLOWANCES] as const,
    ]);
    const used = new Set(tables.map((t) => t.path));
    this.files.keep(used);
    const samePlaces = tables.flatMap((t) => t.samePlaces);
    const planned = placeFindings(plan, [
      ...checkPlan(plan, basis, { findings: samePlaces, overlapShare: thresholds.overlapShare }),
      ...this.shifts.check(plan, basis.rules, tables, this.builder.textOfLayer, (table) =>
        applyAdditions(table, layer, null),
      ),
    ]);
    const checked = tables.map(({ sourceId, revisionId, path }) => {
      const part = plan.parts.find((p) => p.sourceId === sourceId);
      // What a model is asked about (storeys, bodies) no other origin has.
      const findings = part && !part.table.origin ? this.check(part.table, this.files.read(path), thresholds) : [];
      const own = part
        ? [...findings, ...planned.filter((f) => f.sourceId === sourceId).map((f) => f.finding)]
        : findings;
      return { revisionId, findings: own, consequences: part ? readConsequences(part) : null };
    });
    const summary = summarize(plan, this.building, this.holdWhole());
    return { summary, move, checked, practice: this.tellPractice(plan, basis.sections, isKeptOut) };
  };

  /** What elements are decided to be priced with, where that is not what was told last. Rates and quantities do not change it. */
  private tellPractice(
    plan: Plan,
    sections: PricingBasis['sections'],
    isKeptOut: boolean,
  ): readonly PracticeRow[] | null {
    const decided = plan.parts.flatMap((p) => [p.table, ...p.blocks.flatMap((b) => [b.recipe, b.mapped.section, b.mapped.rows.length])]); // biome-ignore format: what it is of
    const of = [isKeptOut, JSON.stringify(sections), ...decided];
    const before = this.practice;
    if (before?.of.length === of.length && before.of.every((one, i) => one === of[i])) return null;
    const rows = isKeptOut ? [] : gatherPractice(plan, sections);
    const text = JSON.stringify(rows);
    this.practice = { of, text };
    return before?.text === text ? null : rows;
  }
  private readonly shifts = new RuleShifts();
  private practice: { readonly of: readonly unknown[]; readonly text: string } | null = null;

  /** Called again and again while a preview or a comparison is worked out; what it throws ends it. */
  onPreviewStep: () => void = () => undefined;

  preview: PlanQueries['preview'] = (given) => {
    this.onPreviewStep();
    const { built } = this.now;
    const basis = this.builder.recognize(given);
    const sources = this.builder.withOwn(built.sources, basis);
    const plan = runPipeline(
      basis,
      sources,
      this.builder.memory.fork(() => this.onPreviewStep()),
    );
    return showMove(explainMove(stateOf(built), toMoveState(basis, sources, plan, built.names)));
  };

  compare: PlanQueries['compare'] = (from, to, by) => {
    const { built } = this.now;
    const step = () => this.onPreviewStep();
    const open = (order: typeof from) => this.others.open(order, built, this.builder, step);
    return this.others.compare(open(from), open(to), by, step);
  };

  compareElement: PlanQueries['compareElement'] = (from, to, key) => {
    const { built } = this.now;
    const [before, after] = [from, to].map((order) =>
      explainElement(this.others.open(order, built, this.builder, () => undefined).built.plan, key),
    );
    return { before: before ?? null, after: after ?? null };
  };

  freeze: PlanQueries['freeze'] = () => {
    const { plan, basis, built } = this.now;
    const bytes = encodeBaseline({
      basis,
      sources: built.sources.map((s) => ({
        ...s,
        name: built.names.get(s.sourceId) ?? '',
        revisionId: built.revisions.get(s.sourceId),
      })),
      functionalUnits: built.functionalUnits,
      plan: toStoredPlan(plan, ENGINE_VERSION),
    });
    return { bytes: gzipSync(bytes, { level: 4 }), total: plan.total, currency: plan.currency };
  };

  /** How the total moved. Of a plan that is told in another currency than before, all of it is a matter of that. */
  private tellMove(before: BuiltState, after: BuiltState): MoveDto {
    if (before.plan.currency === after.plan.currency) return showMove(explainMove(stateOf(before), stateOf(after)));
    const [a, b] = [before.plan.total, after.plan.total];
    return showMove({ before: a, after: b, causes: { ...noCauses(), factors: b - a } });
  }

  states: PlanQueries['states'] = () =>
    this.now.plan.parts.map(({ sourceId, table, completeness, elementAmounts }) => ({
      revisionId: this.revisions.get(sourceId)!,
      keys: [...table.keys],
      states: [...completeness],
      amounts: [...elementAmounts],
    }));

  amountOf: PlanQueries['amountOf'] = (keys) => {
    const wanted = new Set(keys);
    let sum = 0;
    for (const { table, elementAmounts } of this.now.plan.parts)
      table.keys.forEach((key, row) => {
        if (wanted.has(key)) sum += elementAmounts[row]!;
      });
    return sum;
  };

  explain: PlanQueries['explain'] = (key) => {
    const { plan, basis } = this.now;
    const cost = explainElement(plan, key);
    if (!cost) return null;
    const { table } = findPlanElement(plan, key)!.part;
    return { ...cost, decisions: tellDecisions(plan, basis, key, (row) => nameRow(table, row)) ?? [] };
  };

  findKeys: PlanQueries['findKeys'] = (scope) =>
    this.now.plan.parts.flatMap(({ table }) =>
      listMaskedRows(evaluateScope(scope, table)).map((row) => table.keys[row]!),
    );

  parts: PlanQueries['parts'] = () =>
    this.now.plan.parts.flatMap(({ sourceId, table }) =>
      table.parts ? [sendParts(this.revisions.get(sourceId)!, table.parts)] : [],
    );

  /** What the checks find in a table as the project sees it; looked for again only for another table or other thresholds. */
  private check(table: ElementTable, plain: ElementTable, thresholds: CheckThresholds): readonly Finding[] {
    const text = JSON.stringify(thresholds);
    const known = this.findingsOf.get(table);
    if (known?.text === text) return known.findings;
    const findings = checkTable(
      table,
      plain,
      { facts: this.layer?.facts ?? new Map(), given: this.layer?.given ?? new Map() },
      thresholds,
    );
    this.findingsOf.set(table, { text, findings });
    return findings;
  }

  protected override get now(): { plan: Plan; basis: PricingBasis; built: BuiltState } {
    const { built } = this;
    if (!built) throw new Error('The plan has not been calculated yet.');
    return { plan: built.plan, basis: built.basis, built };
  }

  protected override layer: ProjectAdditions | null = null;
}

function summarize(plan: Plan, building: BuildingMeasure, target: HeldTarget | null): PlanSummaryDto {
  const caught: Record<string, number> = {};
  const priced: Record<string, number> = {};
  for (const { mapping } of plan.parts) {
    for (const [id, n] of mapping.caught) caught[id] = (caught[id] ?? 0) + n;
    for (const mapped of mapping.mapped)
      if (mapped.rule) priced[mapped.rule.id] = (priced[mapped.rule.id] ?? 0) + countRows(mapped);
  }
  const { currency, minorDigits, unknownLines, counts } = plan;
  const shortfall = findShortfall(plan);
  return {
    currency,
    minorDigits,
    total: amountToMinor(plan.total),
    unknownLines,
    counts,
    shortfall,
    building,
    target,
    caught,
    priced,
  };
}

/** What an element is called: its class in words and its name. */
const nameRow = ({ ifcClass, name }: ElementTable, row: number): string =>
  `${sayClass(readText(ifcClass, row) ?? '')} ${readText(name, row) ?? ''}`.trim();

const identities = new WeakMap<ElementTable, ReadonlyMap<string, readonly number[]>>();

/** Keys of a table's elements by identity; gathered once for the same table. */
function readIdentities(table: ElementTable): ReadonlyMap<string, readonly number[]> {
  const ids = identities.get(table) ?? listKeysByIdentity(table);
  identities.set(table, ids);
  return ids;
}

/** Findings about a plan with the source that they are told at: that of their first element, of those about no element the first model. */
function placeFindings(
  plan: Plan,
  findings: readonly Finding[],
): { readonly sourceId: string; readonly finding: Finding }[] {
  if (findings.length === 0) return [];
  const models = plan.parts
    .filter((p) => !p.table.origin)
    .map(({ sourceId, table }) => ({ sourceId, ids: readIdentities(table) }));
  return findings.flatMap((finding) => {
    const [first] = finding.globalIds;
    const model = first === undefined ? models[0] : models.find((m) => m.ids.has(first));
    if (!model) return [];
    const keyed = finding.keys ? finding : keyFindings([finding], (id) => model.ids.get(id))[0]!;
    return [{ sourceId: model.sourceId, finding: keyed }];
  });
}

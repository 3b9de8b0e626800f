import {
  amountToMinor,
  type BuildingMeasure,
  countPlanLines,
  cutItem,
  evaluateScope,
  type GroupField,
  type GroupNames,
  groupPlan,
  type HeldMark,
  type HeldTarget,
  holdBands,
  holdMarks,
  holdTargets,
  listBehind,
  listCutItems,
  listGroupElements,
  listMaskedRows,
  listUnchecked,
  MOST_PLAN_LINES,
  measureBuilding,
  nameGroup,
  type Plan,
  type PlanView,
  type PricingBasis,
  type ProjectAdditions,
  planToTable,
  readGroupField,
  resolveScope,
  signMarked,
  testChecked,
} from '@tally/core';
import { writeCsv } from '@tally/files';
import type { PlanQueries } from './plan-messages.ts';

/** Elements behind a line that are told one by one. */
const MOST_BEHIND = 150;

/** What can be read of a plan as it is. */
export abstract class PlanReadings {
  protected abstract readonly now: { readonly plan: Plan; readonly basis: PricingBasis };
  protected abstract readonly layer: ProjectAdditions | null;

  groupWhole: PlanQueries['groupWhole'] = (view) =>
    groupPlan(this.now.plan, readFields(view), this.names, {
      rows: view.rows,
      keys: this.limit(view),
      isChecked: testChecked(this.held, this.names),
    });

  group: PlanQueries['group'] = (view) => {
    const plan = this.groupWhole(view);
    const count = countPlanLines(plan);
    return count > MOST_PLAN_LINES ? { ...plan, groups: [], lines: [], tooMany: count } : plan;
  };

  groupElements: PlanQueries['groupElements'] = (view, id) =>
    listGroupElements(this.now.plan, readFields(view), this.names, id, { rows: view.rows, keys: this.limit(view) });

  behind: PlanQueries['behind'] = (view, id) => {
    const all = listBehind(this.now.plan, readFields(view), this.names, id, {
      rows: view.rows,
      keys: this.limit(view),
    });
    return { count: all.length, elements: all.slice(0, MOST_BEHIND) };
  };

  targets: PlanQueries['targets'] = () =>
    holdTargets(this.now.plan, this.now.basis.targets ?? [], this.names, this.building);

  /** The target for the whole, held against the plan: it is told with every change. */
  protected holdWhole(): HeldTarget | null {
    const whole = (this.now.basis.targets ?? []).filter((t) => t.by === undefined);
    return holdTargets(this.now.plan, whole, this.names, this.building)[0] ?? null;
  }

  bands: PlanQueries['bands'] = () => holdBands(this.now.plan, this.now.basis.bands ?? [], this.building);

  checked: PlanQueries['checked'] = () => {
    const { plan } = this.now;
    const total = plan.parts.reduce(
      (sum, p) => p.blocks.reduce((s, b) => b.lines.reduce((t, l) => t + l.total, s), sum),
      0,
    );
    return { marks: this.held, unchecked: listUnchecked(plan, testChecked(this.held, this.names)), total };
  };

  sign: PlanQueries['sign'] = (things) => signMarked(this.now.plan, things, this.names);

  /** Marks of what was checked, held against the plan as it is; worked out once for it. */
  private get held(): readonly HeldMark[] {
    const { plan, basis } = this.now;
    if (this.heldOf?.plan !== plan || this.heldOf.marks !== basis.checked)
      this.heldOf = { plan, marks: basis.checked, held: holdMarks(plan, basis.checked ?? [], this.names) };
    return this.heldOf.held;
  }
  private heldOf: {
    readonly plan: Plan;
    readonly marks: PricingBasis['checked'];
    readonly held: readonly HeldMark[];
  } | null = null;

  /** Floor areas and functional units; measured once for the same models and units. */
  protected get building(): BuildingMeasure {
    const { plan } = this.now;
    const units = this.layer?.functionalUnits ?? [];
    const of = [JSON.stringify(units), ...plan.parts.map((p) => p.table)];
    const known = this.measured;
    if (known?.of.length !== of.length || !known.of.every((one, i) => one === of[i]))
      this.measured = {
        of,
        building: measureBuilding(
          plan.parts.filter((p) => !p.table.origin).map((p) => p.table),
          units,
        ),
      };
    return this.measured!.building;
  }
  private measured: { readonly of: readonly unknown[]; readonly building: BuildingMeasure } | null = null;

  /** What the groups of the plan are called by. */
  protected get names(): GroupNames {
    return { ...this.now.basis, sources: this.sourceNames };
  }
  protected sourceNames: ReadonlyMap<string, string> = new Map();

  /** ElementKeys that a view is limited to; undefined if it is of all. */
  private limit({ scope, sources }: PlanView): ReadonlySet<number> | undefined {
    if (!scope && !sources) return undefined;
    const wanted = sources && new Set(sources);
    const asked = scope && resolveScope(scope, this.now.basis.scopes ?? []);
    const keys = new Set<number>();
    for (const { sourceId, table } of this.now.plan.parts) {
      if (wanted && !wanted.has(sourceId)) continue;
      const rows = asked ? listMaskedRows(evaluateScope(asked, table)) : [...table.keys.keys()];
      for (const row of rows) keys.add(table.keys[row]!);
    }
    return keys;
  }

  purchases: PlanQueries['purchases'] = () =>
    this.now.plan.purchases.map(({ item, lines: _, surplusAmount, shares: __, ...figures }) => ({
      code: item.code,
      description: item.description,
      supplier: item.supplier ?? null,
      kind: item.kind,
      unit: item.unit,
      surplusMinor: amountToMinor(surplusAmount),
      ...figures,
    }));

  cutItems: PlanQueries['cutItems'] = () => listCutItems(this.now.plan);

  cut: PlanQueries['cut'] = (code) => cutItem(this.now.plan, code);

  digits: PlanQueries['digits'] = () => this.now.plan.minorDigits;

  csv: PlanQueries['csv'] = (view) =>
    writeCsv(
      planToTable(
        this.groupWhole(view),
        readFields(view).map((f) => nameGroup(f).word),
        this.now.plan.minorDigits,
      ),
    );
}

/** Fields that a view groups by. */
const readFields = ({ by }: PlanView): GroupField[] => by.flatMap((text) => readGroupField(text) ?? []);

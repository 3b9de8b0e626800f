import {
  amountToMinor,
  applyAdditions,
  type BuildingMeasure,
  buildDrawnRooms,
  buildProjectAllowances,
  type ChangedElementDto,
  type CheckThresholds,
  checkPlan,
  checkTable,
  classWord,
  countRows,
  type DrawnRoom,
  diffElements,
  type ElementTable,
  evaluateScope,
  explainElement,
  type Finding,
  findPlanElement,
  findShortfall,
  gatherPractice,
  type HeldTarget,
  keepIdentity,
  keyFindings,
  listKeysByIdentity,
  listMaskedRows,
  type MeshOfRow,
  measureParts,
  PipelineMemory,
  type Plan,
  type PlanSummaryDto,
  type PracticeRow,
  type PricedByThemselves,
  type PricingBasis,
  type ProjectAdditions,
  priceAllowances,
  priceListed,
  readConsequences,
  readText,
  runPipeline,
  type SourceTable,
  sayClass,
  sendParts,
  showMove,
  splitMove,
  tellDecisions,
} from '@tally/core';
import type { PlanQueries, StoredRevision } from './plan-messages.ts';
import { PlanReadings } from './plan-readings.ts';
import { readShapes } from './read-shapes.ts';
import { RuleShifts } from './rule-shifts.ts';
import { readTableFile } from './table-files.ts';

/** Source of the rooms that are drawn in the project itself. */
const DRAWN = 'drawn';
/** Source of the costs without an object. */
const ALLOWANCES = 'allowances';

/** The plan of one project, kept decoded and priced; rebuilt from the database's truth at any time. */
export class LivePlan extends PlanReadings implements PlanQueries {
  private readonly memory = new PipelineMemory();
  private readonly tables = new Map<string, ElementTable>();
  private readonly layered = new Map<string, { readonly table: ElementTable; readonly hasPictures: boolean }>();
  private readonly shapes = new Map<string, MeshOfRow>();
  private readonly findingsOf = new WeakMap<
    ElementTable,
    { readonly text: string; readonly findings: readonly Finding[] }
  >();
  private readonly own = new WeakMap<
    ElementTable,
    {
      readonly items: PricingBasis['items'];
      readonly assemblies: PricingBasis['assemblies'];
      readonly priced: PricedByThemselves;
    }
  >();
  protected override layer: ProjectAdditions | null = null;
  private layerText = '';
  private drawn: ElementTable | null = null;
  private drawnText = '';
  private drawnBeside: readonly ElementTable[] = [];
  private allowances: ProjectAdditions['allowances'] = new Map();
  private allowanceTable: { readonly text: string; readonly table: ElementTable | null } = { text: '', table: null };
  private basis: PricingBasis | null = null;
  private plan: Plan | null = null;
  private revisions = new Map<string, string>();

  update: PlanQueries['update'] = (given, tables, layer, thresholds, isKeptOut = false) => {
    const basis = this.recognize(given);
    this.setLayer(layer);
    const sources = tables.map((t) => ({ sourceId: t.sourceId, table: this.readLayered(t) }));
    const drawn = this.readDrawn(
      layer.drawnRooms,
      sources.map((s) => s.table),
    );
    if (drawn) sources.push({ sourceId: DRAWN, table: drawn });
    const allowances = this.readAllowances(
      layer,
      sources.map((s) => s.table),
    );
    if (allowances) sources.push({ sourceId: ALLOWANCES, table: allowances });
    this.allowances = layer.allowances;
    this.sourceNames = new Map(tables.map((t) => [t.sourceId, t.sourceName]));
    const plan = runPipeline(basis, this.withOwn(sources, basis), this.memory);
    const move = this.plan ? showMove(splitMove(this.plan, plan)) : null;
    this.basis = basis;
    this.plan = plan;
    this.revisions = new Map([
      ...tables.map((t) => [t.sourceId, t.revisionId] as const),
      [DRAWN, DRAWN] as const,
      [ALLOWANCES, ALLOWANCES] as const,
    ]);
    const used = new Set(tables.map((t) => t.path));
    for (const path of this.tables.keys()) {
      if (used.has(path) || this.tables.size <= 4) continue;
      this.tables.delete(path);
      this.layered.delete(path);
      this.shapes.delete(path);
    }
    const samePlaces = tables.flatMap((t) => t.samePlaces);
    const planned = placeFindings(plan, [
      ...checkPlan(plan, basis, { findings: samePlaces, overlapShare: thresholds.overlapShare }),
      ...this.shifts.check(plan, basis.rules, tables, this.layerText, (table) =>
        this.layer ? applyAdditions(table, this.layer, null) : table,
      ),
    ]);
    const checked = tables.map(({ sourceId, revisionId, path }) => {
      const part = plan.parts.find((p) => p.sourceId === sourceId);
      // What a model is asked about (storeys, bodies) no other origin has.
      const findings = part && !part.table.origin ? this.check(part.table, this.readTable(path), thresholds) : [];
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

  /** Called again and again while a preview is worked out; what it throws ends it. */
  onPreviewStep: () => void = () => undefined;

  preview: PlanQueries['preview'] = (given) => {
    this.onPreviewStep();
    const { plan } = this.now;
    const basis = this.recognize(given);
    const sources = plan.parts.map(({ sourceId, table }) => ({ sourceId, table }));
    return showMove(
      splitMove(
        plan,
        runPipeline(
          basis,
          this.withOwn(sources, basis),
          this.memory.fork(() => this.onPreviewStep()),
        ),
      ),
    );
  };

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

  compareTables: PlanQueries['compareTables'] = (sourceId, beforeStored, afterStored) => {
    const after = this.readLayered(afterStored);
    if (beforeStored === null) return { came: after.count, went: 0, changed: 0, elements: [] };
    const before = this.readLayered(beforeStored);
    const diff = diffElements(before, after);
    const price = (table: ElementTable) =>
      runPipeline(this.now.basis, this.withOwn([{ sourceId, table }], this.now.basis));
    const { elements: moves } = splitMove(price(before), price(after));
    const row = (
      table: ElementTable,
      at: number,
      what: ChangedElementDto['what'],
      more: Pick<ChangedElementDto, 'quantities' | 'attributes'>,
    ): ChangedElementDto => ({
      key: table.keys[at]!,
      globalId: readText(table.identity, at) ?? '',
      label: `${classWord(readText(table.ifcClass, at) ?? '')} ${readText(table.name, at) ?? ''}`.trim(),
      what,
      ifcClass: readText(table.ifcClass, at),
      storey: readText(table.storey, at),
      ...more,
      amount: moves.get(table.keys[at]!) ?? 0,
    });
    const none = { quantities: {}, attributes: {} };
    const elements = [
      ...diff.added.map((at) => row(after, at, 'came', none)),
      ...diff.removed.map((at) => row(before, at, 'went', none)),
      ...diff.changed.map((c) => row(after, c.row, 'changed', { quantities: c.quantities, attributes: c.attributes })),
    ];
    return { came: diff.added.length, went: diff.removed.length, changed: diff.changed.length, elements };
  };

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

  /** A basis that came by message, with the objects of the present one where they hold the same. */
  private recognize(basis: PricingBasis): PricingBasis {
    const before = this.basis;
    if (!before) return basis;
    return {
      ...basis,
      items: keepIdentity(before.items, basis.items, (i) => i.code),
      assemblies: keepIdentity(before.assemblies, basis.assemblies, (a) => a.code),
      rules: keepIdentity(before.rules, basis.rules, (r) => r.id),
      pins: keepIdentity(before.pins, basis.pins, (p) => p.id),
    };
  }

  protected override get now(): { plan: Plan; basis: PricingBasis } {
    if (!this.plan || !this.basis) throw new Error('The plan has not been calculated yet.');
    return { plan: this.plan, basis: this.basis };
  }

  /** Takes another layer; tables keep their identity, and with it what was worked out about them, while it is the same. */
  private setLayer(layer: ProjectAdditions): void {
    const text = JSON.stringify([
      [...layer.attributes],
      [...layer.finishes],
      [...layer.wallFinishes],
      [...layer.zones],
      [...layer.facts],
      [...(layer.given ?? [])],
      [...layer.leftOut],
      layer.materials,
      layer.choices,
      layer.overrides,
      layer.limits,
      [...layer.chosenFaces],
    ]);
    if (text === this.layerText) return;
    this.layerText = text;
    this.layer = layer;
    this.layered.clear();
  }

  /** The rooms drawn here as a table of their own; the same one while neither they nor the openings beside them change. */
  private readDrawn(rooms: ReadonlyMap<number, DrawnRoom>, tables: readonly ElementTable[]): ElementTable | null {
    const text = `${this.layerText}${JSON.stringify([...rooms])}`;
    const isSame = text === this.drawnText && tables.every((t, i) => t === this.drawnBeside[i]);
    if (!isSame) {
      const plain = buildDrawnRooms(
        rooms,
        tables.flatMap((t) => t.wallOpenings),
      );
      const beside = {
        storeys: tables.flatMap((t) => t.storeys),
        wallOpenings: tables.flatMap((t) => t.wallOpenings),
      };
      const parts = plain && this.layer ? measureParts({ ...plain, ...beside }, this.layer, () => null) : null;
      this.drawn = plain && this.layer ? applyAdditions(plain, this.layer, parts) : plain;
      this.drawnText = text;
      this.drawnBeside = tables;
    }
    return this.drawn;
  }

  /** Costs without an object as a table of their own; the same one while neither they nor what they go by change. */
  private readAllowances(layer: ProjectAdditions, tables: readonly ElementTable[]): ElementTable | null {
    const plain = buildProjectAllowances(layer, tables);
    const text = JSON.stringify([
      this.layerText,
      [...layer.allowances],
      plain?.quantities.map((q) => [q.name, [...q.values]]),
    ]);
    if (text !== this.allowanceTable.text)
      this.allowanceTable = { text, table: plain && this.layer ? applyAdditions(plain, this.layer) : plain };
    return this.allowanceTable.table;
  }

  /** Sources with what their elements are priced with by themselves; worked out once for the same table and book. */
  private withOwn(
    sources: readonly { readonly sourceId: string; readonly table: ElementTable }[],
    basis: PricingBasis,
  ): SourceTable[] {
    return sources.map((source) => {
      const { table } = source;
      const kind = table.origin?.kind;
      if (kind !== 'allowance' && kind !== 'list') return source;
      const { items, assemblies } = basis;
      const known = this.own.get(table);
      if (known?.items === items && known.assemblies === assemblies) return { ...source, own: known.priced };
      const priced = kind === 'list' ? priceListed(table, basis) : priceAllowances(this.allowances, items);
      this.own.set(table, { items, assemblies, priced });
      return { ...source, own: priced };
    });
  }

  /** A table with what the project adds to its elements. */
  private readLayered({ path, pictures }: StoredRevision): ElementTable {
    const known = this.layered.get(path);
    if (known && known.hasPictures === (pictures !== null)) return known.table;
    const plain = this.readTable(path);
    const shapes = this.lookUpShapes(path, pictures);
    const table = this.layer ? applyAdditions(plain, this.layer, measureParts(plain, this.layer, shapes)) : plain;
    this.layered.set(path, { table, hasPictures: pictures !== null });
    return table;
  }

  /** Shapes of a revision, read when the first of them is asked for. */
  private lookUpShapes(path: string, pictures: readonly string[] | null): MeshOfRow {
    if (!pictures) return () => null;
    return (row) => {
      const shapes = this.shapes.get(path) ?? readShapes(pictures);
      this.shapes.set(path, shapes);
      return shapes(row);
    };
  }

  private readTable(path: string): ElementTable {
    let table = this.tables.get(path);
    if (!table) {
      table = readTableFile(path);
      this.tables.set(path, table);
    }
    return table;
  }
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

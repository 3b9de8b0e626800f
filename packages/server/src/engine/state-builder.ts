import {
  applyAdditions,
  buildDrawnRooms,
  buildProjectAllowances,
  type DrawnRoom,
  type ElementTable,
  keepIdentity,
  type MeshOfRow,
  type MoveState,
  measureParts,
  PipelineMemory,
  type Plan,
  type PricedByThemselves,
  type PricingBasis,
  type ProjectAdditions,
  priceAllowances,
  priceListed,
  runPipeline,
  type SourceTable,
  toMoveState,
} from '@tally/core';
import type { CountingTable, StoredRevision } from './plan-messages.ts';
import { readShapes } from './read-shapes.ts';
import { readTableFile } from './table-files.ts';

/** Source of the rooms that are drawn in the project itself. */
export const DRAWN = 'drawn';
/** Source of the costs without an object. */
export const ALLOWANCES = 'allowances';

/** Tables that are kept decoded although no counting revision needs them. */
const MOST_IDLE = 4;

/** Decoded files of revisions: several states of a project share them. */
export class RevisionTables {
  private readonly tables = new Map<string, ElementTable>();
  private readonly shapes = new Map<string, MeshOfRow>();

  read(path: string): ElementTable {
    let table = this.tables.get(path);
    if (!table) {
      table = readTableFile(path);
      this.tables.set(path, table);
    }
    return table;
  }

  /** Shapes of a revision, read when the first of them is asked for. */
  lookUpShapes(path: string, pictures: readonly string[] | null): MeshOfRow {
    if (!pictures) return () => null;
    return (row) => {
      const shapes = this.shapes.get(path) ?? readShapes(pictures);
      this.shapes.set(path, shapes);
      return shapes(row);
    };
  }

  /** Forgets tables that are not used, if there are many. */
  keep(used: ReadonlySet<string>): void {
    for (const path of this.tables.keys()) {
      if (used.has(path) || this.tables.size <= MOST_IDLE) continue;
      this.tables.delete(path);
      this.shapes.delete(path);
    }
  }
}

/** A state of a project with all that it was calculated of. */
export interface BuiltState {
  readonly basis: PricingBasis;
  readonly functionalUnits: ProjectAdditions['functionalUnits'];
  readonly sources: readonly SourceTable[];
  readonly names: ReadonlyMap<string, string>;
  /** Revisions of its models, by source. */
  readonly revisions: ReadonlyMap<string, string>;
  readonly plan: Plan;
}

export const stateOf = ({ basis, sources, plan, names }: BuiltState): MoveState =>
  toMoveState(basis, sources, plan, names);

/**
 * Calculates states of one project one after the other, each of the plain tables, what the project adds to them, and its prices and rules.
 * What did not change since the one before is taken over.
 */
export class StateBuilder {
  readonly memory: PipelineMemory;
  private layer: ProjectAdditions | null = null;
  private layerText = '';
  private basis: PricingBasis | null = null;
  private readonly layered = new Map<string, { readonly table: ElementTable; readonly hasPictures: boolean }>();
  private drawn: ElementTable | null = null;
  private drawnText = '';
  private drawnBeside: readonly ElementTable[] = [];
  private allowanceTable: { readonly text: string; readonly table: ElementTable | null } = { text: '', table: null };
  private readonly own = new WeakMap<
    ElementTable,
    {
      readonly items: PricingBasis['items'];
      readonly assemblies: PricingBasis['assemblies'];
      readonly priced: PricedByThemselves;
    }
  >();

  constructor(
    private readonly revisions: RevisionTables,
    memory: PipelineMemory = new PipelineMemory(),
  ) {
    this.memory = memory;
  }

  build(given: PricingBasis, tables: readonly CountingTable[], layer: ProjectAdditions): BuiltState {
    const basis = this.recognize(given);
    this.setLayer(layer);
    const models = tables.map((t) => ({ sourceId: t.sourceId, table: this.readLayered(t) }));
    const drawn = this.readDrawn(
      layer.drawnRooms,
      models.map((s) => s.table),
    );
    if (drawn) models.push({ sourceId: DRAWN, table: drawn });
    const allowances = this.readAllowances(
      layer,
      models.map((s) => s.table),
    );
    if (allowances) models.push({ sourceId: ALLOWANCES, table: allowances });
    const sources = this.withOwn(models, basis);
    const plan = runPipeline(basis, sources, this.memory);
    const used = new Set(tables.map((t) => t.path));
    for (const path of this.layered.keys()) if (!used.has(path)) this.layered.delete(path);
    this.basis = basis;
    return {
      basis,
      functionalUnits: layer.functionalUnits,
      sources,
      plan,
      names: new Map(tables.map((t) => [t.sourceId, t.sourceName])),
      revisions: new Map(tables.map((t) => [t.sourceId, t.revisionId])),
    };
  }

  /** What the project adds, as text: the same while it adds the same. */
  get textOfLayer(): string {
    return this.layerText;
  }

  /** A basis that came by message, with the objects of the one before where they hold the same. */
  recognize(basis: PricingBasis): PricingBasis {
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

  /** A table with what the project adds to its elements. */
  readLayered({ path, pictures }: StoredRevision): ElementTable {
    const known = this.layered.get(path);
    if (known && known.hasPictures === (pictures !== null)) return known.table;
    const plain = this.revisions.read(path);
    const shapes = this.revisions.lookUpShapes(path, pictures);
    const table = this.layer ? applyAdditions(plain, this.layer, measureParts(plain, this.layer, shapes)) : plain;
    this.layered.set(path, { table, hasPictures: pictures !== null });
    return table;
  }

  /** Sources with what their elements are priced with by themselves; worked out once for the same table and book. */
  withOwn(
    sources: readonly { readonly sourceId: string; readonly table: ElementTable }[],
    basis: PricingBasis,
  ): SourceTable[] {
    return sources.map(({ sourceId, table }) => {
      const kind = table.origin?.kind;
      if (kind !== 'allowance' && kind !== 'list') return { sourceId, table };
      const { items, assemblies } = basis;
      const known = this.own.get(table);
      if (known?.items === items && known.assemblies === assemblies) return { sourceId, table, own: known.priced };
      const priced = kind === 'list' ? priceListed(table, basis) : priceAllowances(this.layer?.allowances ?? new Map(), items); // biome-ignore format: one choice
      this.own.set(table, { items, assemblies, priced });
      return { sourceId, table, own: priced };
    });
  }

  /** Takes another layer; tables keep their identity, and with it what was worked out about them, while it is the same. */
  private setLayer(layer: ProjectAdditions): void {
    const text = JSON.stringify([
      [...(layer.identities ?? [])],
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
    const isSame = text === this.layerText;
    if (!isSame) this.layered.clear();
    // Allowances are no part of what is added to tables.
    this.layer = isSame && this.layer ? { ...this.layer, allowances: layer.allowances } : layer;
    this.layerText = text;
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
}

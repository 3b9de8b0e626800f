import type { PartRun } from '../book/assembly.ts';
import { readText, readTextList } from '../elements/columns.ts';
import { type DecidedPart, listDecidedParts } from '../elements/decided-parts.ts';
import { listEffectiveQuantities } from '../elements/effective-quantities.ts';
import { type ElementTable, findRow } from '../elements/element-table.ts';
import type { FaceLook, FinishSurface, PropertyValue } from '../elements/model-element.ts';
import { type CompiledFormula, runFormula } from '../formulas/compile-formula.ts';
import type { ElementLabel, FormulaName, SlotValue } from '../formulas/formula-types.ts';
import { findJunctionsOf } from '../quantities/junctions-among.ts';
import { findLimit, shareWithin } from '../quantities/limited-quantity.ts';
import { sumFinishes } from '../quantities/room-finishes.ts';
import { readSideView } from '../quantities/side-view.ts';
import { sumFaces } from '../quantities/sum-faces.ts';
import type { JunctionKind } from '../quantities/wall-junctions.ts';
import { listPartColumns, listPartPlaces, type PartKind } from '../recipes/part-names.ts';
import type { Problem, Result } from '../result/result.ts';
import { findPropertyColumns } from '../scopes/evaluate-scope.ts';

/** The figures a formula met, for showing how an amount came about. */
export interface FormulaTrace {
  readonly formula: CompiledFormula;
  readonly values: readonly SlotValue[];
  readonly result: number;
}

/** What the lines of an assembly read beside the element: its driver, its parameters, each other. */
export interface Frame {
  readonly driver: number;
  readonly parameters: ReadonlyMap<string, SlotValue>;
  /** Results of named lines in SI, or why there is none. */
  readonly lines: ReadonlyMap<string, number | Problem>;
}

/** The part that is looked at: one that a line runs over, or that a decision is about. */
interface PartAt {
  readonly run: PartKind;
  readonly at: number;
}

const limitUnknown = (name: string): Problem => ({
  code: 'limit-unknown',
  message: `There is no limit "${name}" in this project.`,
  remedy: 'Add it in the settings, or take another name.',
});

function readLabel(table: ElementTable, row: number, what: ElementLabel): string | null {
  switch (what) {
    case 'name':
      return readText(table.name, row);
    case 'type':
      return readText(table.typeName, row);
    case 'tag':
      return readText(table.tag, row);
    case 'material':
      return readTextList(table.materials, row).join(', ') || null;
    case 'code':
      return readTextList(table.codes, row).join(', ') || null;
  }
}

/** Reads quantities and properties of one table row by row. */
export class RowReader {
  private row = 0;
  private readonly columns;
  private readonly properties = new Map<string, ReturnType<typeof findPropertyColumns>>();
  private part: PartAt | null = null;
  private decided: PartAt | null = null;
  private axes: ReadonlySet<number> | null = null;
  private readonly partColumns = new Map<PartKind, ReadonlyMap<string, Float64Array>>();
  readonly traces: FormulaTrace[] = [];
  isTracing = false;

  constructor(private readonly table: ElementTable) {
    this.columns = listEffectiveQuantities(table);
  }

  /**
   * Goes to a row, or to a part of it that a decision is about.
   * @param ordinal place of the part among those of the row
   */
  go(row: number, about: DecidedPart | null = null, ordinal = 0): void {
    this.row = row;
    if (about) this.decided = { run: about, at: listDecidedParts(this.table, about).offset[row]! + ordinal };
  }

  readonly property = (name: string): PropertyValue | undefined => {
    let columns = this.properties.get(name);
    if (!columns) {
      columns = findPropertyColumns(this.table, name);
      this.properties.set(name, columns);
    }
    for (const { rows, values } of columns) {
      const at = findRow(rows, this.row);
      if (at >= 0) return values[at];
    }
    return undefined;
  };

  private readonly about = {
    side: () => readSideView(this.table, this.row),
    within: (name: string, quantity: string): number | Problem => {
      const limit = findLimit(this.table, name);
      return limit ? shareWithin(this.table, this.row, limit, quantity) : limitUnknown(name);
    },
    finish: (finish: string, surface: FinishSurface | null) => sumFinishes(this.table, this.row, finish, surface),
    junctions: (kind: JunctionKind, classOrType: string) =>
      this.readAxes().has(this.row)
        ? (findJunctionsOf(this.table, classOrType).byRow.get(this.row)?.[kind] ?? 0)
        : null,
    faces: (style: string, look: FaceLook | null) => sumFaces(this.table, this.row, style, look),
    layerMaterial: () => {
      const layer = [this.part, this.decided].find((p) => p?.run === 'layer');
      return layer ? readText(this.table.layers.material, layer.at) : null;
    },
    label: (what: ElementLabel) => readLabel(this.table, this.row, what),
    junctionKind: () => (this.part?.run === 'junction' ? this.table.junctions[this.part.at]!.kind : null),
  };

  /** Rows whose middle line is known: only they have junctions. */
  private readAxes(): ReadonlySet<number> {
    this.axes ??= new Set(this.table.wallAxes.map((a) => a.row));
    return this.axes;
  }

  /** Identity of the room that the row is or lies in; null if there is none. */
  readRoom(): string | null {
    return readText(this.table.rooms[this.row] ? this.table.identity : this.table.space, this.row);
  }

  /** Parts of the row, one after the other; of a decision about one of them that one only. */
  *parts(run: PartRun): Generator<PartAt> {
    if (this.decided?.run === run) {
      yield this.decided;
      return;
    }
    for (const at of listPartPlaces(this.table, run, this.row)) {
      this.part = { run, at };
      yield this.part;
    }
    this.part = null;
  }

  private readPart(name: string): number {
    for (const part of [this.part, this.decided]) {
      if (!part) continue;
      const { run, at } = part;
      const columns = this.partColumns.get(run) ?? listPartColumns(this.table, run);
      this.partColumns.set(run, columns);
      const column = columns.get(name.toLowerCase());
      if (column) return column[at]!;
    }
    return Number.NaN;
  }

  /** Figure of a name on the row in SI, NaN if it has none, or its text; or why a line that it needs has none. */
  readSlot(slot: FormulaName, frame: Frame | null): SlotValue | Problem {
    if (slot.value !== undefined) return slot.value;
    if (slot.source === 'driver') return frame?.driver ?? Number.NaN;
    if (slot.source === 'parameter') return frame?.parameters.get(slot.name) ?? Number.NaN;
    if (slot.source === 'part') return this.readPart(slot.name);
    if (slot.source === 'line') return frame?.lines.get(slot.name) ?? Number.NaN;
    return this.columns.get(slot.name.toLowerCase())?.values[this.row] ?? Number.NaN;
  }

  run(formula: CompiledFormula, frame: Frame | null): Result<number | string | boolean> {
    let cause: Problem | null = null;
    const values = formula.slots.map((slot) => {
      const figure = this.readSlot(slot, frame);
      if (typeof figure !== 'object') return figure;
      cause ??= figure;
      return Number.NaN;
    });
    if (cause) return { ok: false, problem: cause };
    const result = runFormula(formula, values, this.property, this.about);
    if (this.isTracing && result.ok) this.traces.push({ formula, values, result: Number(result.value) });
    return result;
  }
}

import { LineState } from '../cells/cell-line.ts';
import { type ColumnFormat, decodeColumns, encodeColumns } from '../elements/column-file.ts';
import { namePart } from '../elements/decided-parts.ts';
import { type PricedLine, rateAt } from '../pricing/price-lines.ts';
import { listLineTraits } from '../recipes/line-traits.ts';
import type { Result } from '../result/result.ts';
import { COMPLETENESS_STATES, type CompletenessState, type Plan } from './plan.ts';

const FORMAT: ColumnFormat = { letters: 'TPL', version: 2, oldest: 2 };

/** A line that cells are of. */
export interface StoredLine {
  readonly section: string | null;
  /** Codes of the assemblies and ids of the lines it comes through. */
  readonly path: readonly string[];
  readonly lines: readonly string[];
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  /** Everything beside the element that its net quantities depend on. */
  readonly signature: string;
  readonly wastePercent: number;
  /** Rate of the book; null where there is none, or each element has its own. */
  readonly bookRate: number | null;
  readonly factor: number;
}

/** A plan as plain data: columns of cells in the order of their identity, each distinct line and reason once, sorted. */
export interface StoredPlan {
  readonly engine: string;
  readonly currency: string;
  readonly minorDigits: number;
  readonly total: number;
  readonly counts: Readonly<Record<CompletenessState, number>>;
  readonly elements: {
    readonly keys: Int32Array;
    /** Index into COMPLETENESS_STATES. */
    readonly states: Uint8Array;
    readonly amounts: Float64Array;
  };
  readonly lines: readonly StoredLine[];
  readonly reasons: readonly string[];
  /** Layers, face styles and finishes by what tells them from others of their element. */
  readonly parts: readonly string[];
  readonly cells: {
    readonly keys: Int32Array;
    /** Index into `parts`: the layer, face style or finish that the cell is of; -1 for the element itself. */
    readonly part: Int32Array;
    readonly line: Int32Array;
    readonly state: Uint8Array;
    /** In the item's unit; NaN unless known. */
    readonly net: Float64Array;
    /** Rate that is paid; NaN where there is none. */
    readonly rate: Float64Array;
    readonly amount: Float64Array;
    /** Index into `reasons`; -1 for none. */
    readonly reason: Int32Array;
  };
  readonly purchases: readonly { readonly code: string; readonly storey: string | null; readonly toBuy: number; readonly packs: number | null; readonly lines: number; readonly surplusAmount: number }[]; // biome-ignore format: one record
}

/**
 * A plan as data that can be kept: equal plans give equal data, however they were worked out.
 * @param engine version of the calculation
 */
export function toStoredPlan(plan: Plan, engine: string): StoredPlan {
  const lines = new Pool<StoredLine>();
  const reasons = new Pool<string>();
  const parts = new Pool<string>();
  const cells: { key: number; part: string | null; line: string; state: number; net: number; rate: number; amount: number; reason: string | null }[] = []; // biome-ignore format: one record
  for (const { table, blocks } of plan.parts)
    for (const { mapped, recipe, lines: priced } of blocks)
      priced.forEach((line, i) => {
        const id = lines.add(describeLine(mapped.section, line, listLineTraits(recipe)[i]!.signature));
        for (let at = 0; at < mapped.rows.length; at++) {
          const state = line.state[at]!;
          if (state === LineState.skipped) continue;
          const problem = line.problems.get(at) ?? (rateAt(line, at) === null ? line.rateProblem : null);
          const row = mapped.rows[at]!;
          cells.push({
            key: table.keys[row]!,
            part: mapped.about && parts.add(namePart(table, mapped.about, row, mapped.parts![at]!)),
            line: id,
            state,
            net: line.net[at]!,
            rate: rateAt(line, at) ?? Number.NaN,
            amount: line.amounts[at]!,
            reason: problem ? reasons.add(problem.message) : null,
          });
        }
      });
  const placeOfLine = lines.close();
  const placeOfReason = reasons.close();
  const placeOfPart = parts.close();
  const partOf = ({ part }: { readonly part: string | null }) => (part === null ? -1 : placeOfPart.get(part)!);
  cells.sort((a, b) => a.key - b.key || partOf(a) - partOf(b) || placeOfLine.get(a.line)! - placeOfLine.get(b.line)!);
  const elements = plan.parts
    .flatMap(({ table, completeness, elementAmounts }) =>
      [...table.keys].map((key, row) => ({ key, state: completeness[row]!, amount: elementAmounts[row]! })),
    )
    .sort((a, b) => a.key - b.key);
  const { currency, minorDigits, total, counts } = plan;
  return {
    engine,
    currency,
    minorDigits,
    total,
    counts: Object.fromEntries(COMPLETENESS_STATES.map((s) => [s, counts[s]])) as StoredPlan['counts'],
    elements: {
      keys: Int32Array.from(elements, (e) => e.key),
      states: Uint8Array.from(elements, (e) => e.state),
      amounts: Float64Array.from(elements, (e) => e.amount),
    },
    lines: lines.list(),
    reasons: reasons.list(),
    parts: parts.list(),
    cells: {
      keys: Int32Array.from(cells, (c) => c.key),
      part: Int32Array.from(cells, partOf),
      line: Int32Array.from(cells, (c) => placeOfLine.get(c.line)!),
      state: Uint8Array.from(cells, (c) => c.state),
      net: Float64Array.from(cells, (c) => c.net),
      rate: Float64Array.from(cells, (c) => c.rate),
      amount: Float64Array.from(cells, (c) => c.amount),
      reason: Int32Array.from(cells, (c) => (c.reason === null ? -1 : placeOfReason.get(c.reason)!)),
    },
    purchases: plan.purchases
      .map(({ item, storey, toBuy, packs, lines: of, surplusAmount }) => ({ code: item.code, storey, toBuy, packs, lines: of, surplusAmount })) // biome-ignore format: one record
      .sort((a, b) => compare(`${a.code}|${a.storey}`, `${b.code}|${b.storey}`)),
  };
}

/** A plan packed into bytes: equal plans give equal bytes within one engine and runtime. */
export const encodePlan = (plan: StoredPlan): Uint8Array => encodeColumns(FORMAT, plan);

/** Errors: `table-format` if the bytes are no stored plan. */
export const decodePlan = (bytes: Uint8Array): Result<StoredPlan> => decodeColumns(FORMAT, bytes);

function describeLine(section: string | null, line: PricedLine, signature: string): StoredLine {
  const { path, lines, code, item, wastePercent, factor } = line;
  return {
    section,
    path,
    lines,
    code,
    description: item?.item.description ?? '',
    unit: item?.item.unit ?? '',
    signature,
    wastePercent,
    bookRate: line.rate === null ? null : line.rate / factor,
    factor,
  };
}

const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/** Distinct values, each once, in the order of their text. */
class Pool<T> {
  private readonly values = new Map<string, T>();
  private sorted: string[] = [];

  /** Name of a value in the pool. */
  add(value: T): string {
    const text = JSON.stringify(value);
    this.values.set(text, value);
    return text;
  }

  /** Places of all values by name. */
  close(): ReadonlyMap<string, number> {
    this.sorted = [...this.values.keys()].sort(compare);
    return new Map(this.sorted.map((text, i) => [text, i]));
  }

  list(): T[] {
    return this.sorted.map((text) => this.values.get(text)!);
  }
}

import type { EvaluatedLine } from '../cells/cell-line.ts';
import { evaluateLines } from '../cells/evaluate-lines.ts';
import { listDecidedParts, namePart } from '../elements/decided-parts.ts';
import { listRowsByKey } from '../elements/rows-by-key.ts';
import type { Plan, PlanPart } from '../plan/plan.ts';
import type { RecipeItem } from '../recipes/recipe.ts';
import { type LeafPair, pairLeaves, withRates } from './leaf-pairs.ts';
import type { PlacedBlock, UnitGroup } from './pair-units.ts';

/** Which of two states something is taken of. */
export type Side = 0 | 1;

/** Lines over the units of a group: where each unit is in them, -1 for none. */
export interface UnitLines {
  readonly lines: readonly EvaluatedLine[];
  readonly at: readonly number[];
}

/**
 * The units of a group in states that never were: the recipe of one side on the figures of the other, with the rates of either. Each is worked out
 * when it is first asked for.
 */
export class MixedUnits {
  private readonly made = new Map<string, UnitLines | null>();
  private readonly rowsOf = new Map<Side, readonly { readonly row: number; readonly part: number }[]>();
  private paired: readonly LeafPair[] | null = null;
  private readonly sides: readonly [PlanPart | null, PlanPart | null];

  constructor(
    readonly group: UnitGroup,
    before: Plan,
    after: Plan,
  ) {
    const { sourceId } = (group.old ?? group.now)!.part;
    const partOf = (plan: Plan) => plan.parts.find((p) => p.sourceId === sourceId) ?? null;
    this.sides = [group.old?.part ?? partOf(before), group.now?.part ?? partOf(after)];
  }

  get count(): number {
    return this.group.oldAt.length;
  }

  /** ElementKey of a unit. */
  readonly keyOf = (unit: number): number => {
    const { old, now, oldAt, nowAt } = this.group;
    const [placed, at] = old ? [old, oldAt[unit]!] : [now!, nowAt[unit]!];
    return placed.part.table.keys[placed.block.mapped.rows[at]!]!;
  };

  /** Lines of the two recipes that are the same line. */
  get pairs(): readonly LeafPair[] {
    this.paired ??= pairLeaves(this.group.old, this.group.now);
    return this.paired;
  }

  /** Whether the figures of the two sides are read from different tables. */
  get hasOtherFigures(): boolean {
    return this.sides[0]?.table !== this.sides[1]?.table;
  }

  /** Whether a unit, its element or the part of it that is priced, is there on a side. */
  isThere(unit: number, side: Side): boolean {
    return this.placesOn(side)[unit]!.row >= 0;
  }

  blockOf(side: Side): PlacedBlock | null {
    return side === 0 ? this.group.old : this.group.now;
  }

  /**
   * Lines of the recipe of a side on the figures of a side; null where that side has no recipe.
   * @param rates items whose rates are taken instead, by the place of their line; `own` for those of the recipe
   */
  lines(figures: Side, recipe: Side, rates: 'own' | ((leaf: number) => RecipeItem | null) = 'own'): UnitLines | null {
    const block = this.blockOf(recipe);
    if (!block) return null;
    if (rates === 'own' && figures === recipe)
      return { lines: block.block.lines, at: recipe === 0 ? this.group.oldAt : this.group.nowAt };
    const id = `${figures}${recipe}${rates === 'own' ? '' : 'r'}`;
    let made = this.made.get(id);
    if (made === undefined) {
      made = this.work(figures, block, rates);
      this.made.set(id, made);
    }
    return made;
  }

  private work(figures: Side, { block }: PlacedBlock, rates: 'own' | ((leaf: number) => RecipeItem | null)): UnitLines {
    const part = this.sides[figures];
    const places = this.placesOn(figures);
    const there = [...places.keys()].filter((unit) => places[unit]!.row >= 0);
    if (!part) return { lines: [], at: places.map(() => -1) };
    there.sort((a, b) => places[a]!.row - places[b]!.row || places[a]!.part - places[b]!.part);
    const { about } = block.mapped;
    const of = about && { about, parts: Int32Array.from(there, (unit) => places[unit]!.part) };
    const rows = Int32Array.from(there, (unit) => places[unit]!.row);
    const recipe = rates === 'own' ? block.recipe : withRates(block.recipe, rates);
    const { lines } = evaluateLines(recipe, part.table, rows, null, null, of);
    const at = places.map(() => -1);
    there.forEach((unit, i) => {
      at[unit] = i;
    });
    return { lines, at };
  }

  /** Row, and place of the part that is priced, of each unit on a side; a row of -1 where it is not there. */
  private placesOn(side: Side): readonly { readonly row: number; readonly part: number }[] {
    const known = this.rowsOf.get(side);
    if (known) return known;
    const { old, now, oldAt, nowAt } = this.group;
    const own = side === 0 ? old : now;
    const places = Array.from({ length: this.count }, (_, unit) => {
      if (own) {
        const { rows, parts } = own.block.mapped;
        const at = (side === 0 ? oldAt : nowAt)[unit]!;
        return { row: rows[at]!, part: parts?.[at] ?? 0 };
      }
      return this.findOn(side, unit);
    });
    this.rowsOf.set(side, places);
    return places;
  }

  /** Where a unit is in the table of a side that does not price it. */
  private findOn(side: Side, unit: number): { readonly row: number; readonly part: number } {
    const nowhere = { row: -1, part: 0 };
    const table = this.sides[side]?.table;
    if (!table) return nowhere;
    const row = listRowsByKey(table.keys).get(this.keyOf(unit));
    const other = this.blockOf(side === 0 ? 1 : 0)!;
    const { about, rows, parts } = other.block.mapped;
    if (row === undefined || !about) return row === undefined ? nowhere : { row, part: 0 };
    const at = (side === 0 ? this.group.nowAt : this.group.oldAt)[unit]!;
    const name = namePart(other.part.table, about, rows[at]!, parts![at]!);
    const { offset } = listDecidedParts(table, about);
    const count = offset[row + 1]! - offset[row]!;
    const part = [...Array(count).keys()].findIndex((n) => namePart(table, about, row, n) === name);
    return part < 0 ? nowhere : { row, part };
  }
}

import {
  type ComparisonDto,
  checkSameMoney,
  countNoChanges,
  explainMove,
  type GroupField,
  groupMove,
  listElementChanges,
  measureBuilding,
  type Result,
  showMove,
  success,
} from '@tally/core';
import type { StateOrder } from './plan-messages.ts';
import { type BuiltState, type RevisionTables, StateBuilder, stateOf } from './state-builder.ts';

/** Elements of a comparison that are told one by one at most. */
const MOST_ELEMENTS = 3000;
/** States beside the live plan that are kept ready at most: one on each side, and the one before. */
const MOST_STATES = 3;

/** States of a project beside the live plan, calculated when they are asked for, and how they differ. */
export class CompareStates {
  private readonly states = new Map<string, { readonly built: BuiltState; readonly builder: StateBuilder }>();

  constructor(private readonly files: RevisionTables) {}

  /** A state as it is ordered, beginning with what the live plan knows already. */
  open(order: StateOrder | null, live: BuiltState, builder: StateBuilder): BuiltState {
    if (!order) return live;
    const known = this.states.get(order.key);
    if (known) {
      this.states.delete(order.key);
      this.states.set(order.key, known);
      return known.built;
    }
    const own = new StateBuilder(this.files, builder.memory.fork());
    const built = own.build(order.basis, order.tables, order.layer);
    this.states.set(order.key, { built, builder: own });
    if (this.states.size > MOST_STATES) this.states.delete(this.states.keys().next().value!);
    return built;
  }

  /** Errors: `currency-differs`. */
  compare(before: BuiltState, after: BuiltState, by: GroupField): Result<ComparisonDto> {
    const [a, b] = [stateOf(before), stateOf(after)];
    const same = checkSameMoney(a, b);
    if (!same.ok) return same;
    const move = explainMove(a, b);
    const elements = listElementChanges(a, b, move);
    const counts = countNoChanges();
    for (const e of elements) {
      counts[e.what]++;
      if (e.isIdentified) counts.identified++;
    }
    const rest = elements.slice(MOST_ELEMENTS);
    return success({
      currency: after.plan.currency,
      minorDigits: after.plan.minorDigits,
      move: showMove(move),
      groups: groupMove(a, b, move, by).map(({ label, shown }) => ({ label, ...shown })),
      counts,
      elements: elements.slice(0, MOST_ELEMENTS),
      rest: { count: rest.length, move: rest.reduce((sum, e) => sum + e.move, 0) },
      surplus: move.surplus.reduce((sum, s) => sum + s.to - s.from, 0),
      floorAreaM2: [measureFloors(before), measureFloors(after)],
    });
  }
}

const measureFloors = ({ sources, layer }: BuiltState): number | null =>
  measureBuilding(
    sources.filter((s) => !s.table.origin).map((s) => s.table),
    layer.functionalUnits,
  ).floorAreaM2;

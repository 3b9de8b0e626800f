import {
  type BaselineDrift,
  type ComparisonDto,
  checkSameMoney,
  countNoChanges,
  decodeBaseline,
  ENGINE_VERSION,
  explainMove,
  type GroupField,
  groupMove,
  holdBaseline,
  listElementChanges,
  measureBuilding,
  type PricingBasis,
  type Result,
  runPipeline,
  showMove,
  success,
  toStoredPlan,
} from '@tally/core';
import type { StateOrder } from './plan-messages.ts';
import { type BuiltState, type RevisionTables, StateBuilder, stateOf } from './state-builder.ts';
import { readNamedFile } from './table-files.ts';

/** Elements of a comparison that are told one by one at most. */
const MOST_ELEMENTS = 3000;
/** States beside the live plan that are kept ready at most: one on each side, and the one before. */
const MOST_STATES = 3;

/** A state that is ready; of a frozen one whether this version works it out to what it was. */
interface OpenState {
  readonly built: BuiltState;
  readonly drift: BaselineDrift | null;
}

/** Reads a frozen plan and works it out again. Throws with the remedy if its file is gone or damaged. */
function thaw(path: string): OpenState {
  const read = decodeBaseline<PricingBasis>(readNamedFile(path));
  if (!read.ok) throw new Error(`${read.problem.message} ${read.problem.remedy ?? ''}`);
  const { basis, sources, plan: frozen, functionalUnits = [] } = read.value;
  const plan = runPipeline(basis, sources);
  const names = new Map(sources.map((s) => [s.sourceId, s.name]));
  const revisions = new Map(sources.flatMap((s) => (s.revisionId ? [[s.sourceId, s.revisionId]] : [])));
  return {
    built: { basis, sources, plan, functionalUnits, names, revisions },
    drift: holdBaseline(frozen, toStoredPlan(plan, ENGINE_VERSION)),
  };
}

/** States of a project beside the live plan, calculated when they are asked for, and how they differ. */
export class CompareStates {
  private readonly states = new Map<string, OpenState>();

  constructor(private readonly files: RevisionTables) {}

  /**
   * A state as it is ordered, beginning with what the live plan knows already.
   * @param onStep called again and again meanwhile; what it throws ends it
   */
  open(order: StateOrder | null, live: BuiltState, builder: StateBuilder, onStep: () => void): OpenState {
    onStep();
    if (!order) return { built: live, drift: null };
    const known = this.states.get(order.key);
    this.states.delete(order.key);
    const made = known ?? ('frozen' in order ? thaw(order.frozen) : this.build(order, builder, onStep));
    this.states.set(order.key, made);
    if (this.states.size > MOST_STATES) this.states.delete(this.states.keys().next().value!);
    return made;
  }

  private build(
    { basis, tables, layer }: Exclude<StateOrder, { readonly frozen: string }>,
    { memory }: StateBuilder,
    onStep: () => void,
  ): OpenState {
    return { built: new StateBuilder(this.files, memory.fork(onStep)).build(basis, tables, layer), drift: null };
  }

  /** Errors: `currency-differs`. @param onStep as of `open` */
  compare(from: OpenState, to: OpenState, by: GroupField, onStep: () => void): Result<ComparisonDto> {
    const [before, after] = [from.built, to.built];
    const [a, b] = [stateOf(before), stateOf(after)];
    const same = checkSameMoney(a, b);
    if (!same.ok) return same;
    onStep();
    const move = explainMove(a, b);
    onStep();
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
      revisions: [[...before.revisions.values()], [...after.revisions.values()]],
      drift: [from.drift, to.drift],
      floorAreaM2: [measureFloors(before), measureFloors(after)],
    });
  }
}

const measureFloors = ({ sources, functionalUnits }: BuiltState): number | null =>
  measureBuilding(
    sources.filter((s) => !s.table.origin).map((s) => s.table),
    functionalUnits,
  ).floorAreaM2;

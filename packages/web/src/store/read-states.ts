import { COMPLETENESS_STATES, type ElementStatesDto, type StateOf } from '@tally/core';

const NOTHING: readonly ElementStatesDto[] = [];
const known = new WeakMap<readonly ElementStatesDto[], ReadonlyMap<number, NonNullable<ReturnType<StateOf>>>>();

/** State and amount of every element in the plan, by ElementKey; gathered once for the same answer. Empty until there is one. */
export function readStates(
  states: readonly ElementStatesDto[] = NOTHING,
): ReadonlyMap<number, NonNullable<ReturnType<StateOf>>> {
  let found = known.get(states);
  if (!found) {
    found = new Map(
      states.flatMap(({ keys, states: own, amounts }) =>
        keys.map((key, i) => [key, { state: COMPLETENESS_STATES[own[i]!]!, amount: amounts[i]! }] as const),
      ),
    );
    known.set(states, found);
  }
  return found;
}

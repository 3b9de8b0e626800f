import { COMPLETENESS_STATES, type ElementStatesDto, type StateOf } from '@tally/core';

const NOTHING: readonly ElementStatesDto[] = [];
const known = new WeakMap<readonly ElementStatesDto[], ReadonlyMap<number, NonNullable<ReturnType<StateOf>>>>();

/** State and amount of every element in the plan, by ElementKey; gathered once for the same answer. Empty until there is one. */
export function readStates(
  states: readonly ElementStatesDto[] = NOTHING,
): ReadonlyMap<number, NonNullable<ReturnType<StateOf>>> {
  let found = known.get(states);
  if (!found) {
    const gathered = new Map<number, NonNullable<ReturnType<StateOf>>>();
    for (const { keys, states: own, amounts } of states)
      for (let i = 0; i < keys.length; i++)
        gathered.set(keys[i]!, { state: COMPLETENESS_STATES[own[i]!]!, amount: amounts[i]! });
    found = gathered;
    known.set(states, found);
  }
  return found;
}

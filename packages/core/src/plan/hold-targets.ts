import { amountToMinor, quantizeAmount } from '../pricing/money.ts';
import { toEntryId } from '../units/entry-id.ts';
import { type GroupField, type GroupNames, nameGroup, readGroupField } from './group-labels.ts';
import { groupPlan } from './group-plan.ts';
import { type BuildingMeasure, countUnits } from './measure-building.ts';
import type { Plan } from './plan.ts';

/** What a target is per: all of it together, a square metre of floor area, a functional unit. */
export const TARGET_PER = ['whole', 'floorArea', 'unit'] as const;
export type TargetPer = (typeof TARGET_PER)[number];

/** What the client wants to spend, for the whole or for one group of the plan. */
export interface Target {
  /** Field and label of the group; the whole if absent. */
  readonly by?: string;
  readonly is?: string;
  /** Decimal in the project's currency, more than 0. */
  readonly amount: string;
  /** The whole if absent. */
  readonly per?: TargetPer;
  /** Name of the functional unit. */
  readonly counted?: string;
  readonly note?: string;
}

/** Tells targets apart: one for the whole, one for each group. @example 'storey=Roof' */
export const targetId = ({ by, is }: Pick<Target, 'by' | 'is'>): string =>
  toEntryId(by === undefined ? 'whole' : `${by}=${is}`);

/** A target and what the plan has against it, in minor units. */
export interface HeldTarget {
  readonly id: string;
  readonly target: Target;
  /** What it is of, in words. */
  readonly label: string;
  /** Null where it is per something that is not known. */
  readonly aim: number | null;
  /** Null where the plan has no such group. */
  readonly now: number | null;
  /** What is left; below 0 what is over. */
  readonly left: number | null;
  /** Elements in it that nothing prices, and amounts that are unknown: what it has now is not all. */
  readonly open: number;
  /** Why it cannot be held against the plan. */
  readonly problem: string | null;
}

/** Targets held against a plan, the one for the whole first. Groups are those of the plan under their field; their shown amounts count. */
export function holdTargets(
  plan: Plan,
  targets: readonly Target[],
  names: GroupNames,
  building: BuildingMeasure,
): HeldTarget[] {
  const grouped = new Map<GroupField, ReturnType<typeof groupPlan>>();
  const groupsOf = (field: GroupField) => {
    const known = grouped.get(field) ?? groupPlan(plan, [field], names);
    grouped.set(field, known);
    return known;
  };
  const held = targets.map((target): HeldTarget => {
    const field = target.by === undefined ? null : readGroupField(target.by);
    const label = field === null ? 'The whole' : `${nameGroup(field).word} ${target.is}`;
    const aim = aimOf(target, building, plan.minorDigits);
    const group = field === null ? null : groupsOf(field).groups.find((g) => g.label === target.is);
    const { counts, unknownLines } = plan;
    const now = field === null ? amountToMinor(plan.total) : (group?.minor ?? null);
    const open = field === null ? counts.unpriced + counts.partly + unknownLines : (group?.open ?? 0) + (group?.unknown ?? 0); // biome-ignore format: one choice
    return {
      id: targetId(target),
      target,
      label,
      aim,
      now,
      left: aim === null || now === null ? null : aim - now,
      open,
      problem:
        aim === null
          ? target.per === 'floorArea'
            ? 'The floor area is not known.'
            : `There is no count of ${target.counted ?? 'the unit'}.`
          : now === null
            ? `The plan has no group ${target.is}.`
            : null,
    };
  });
  return held.sort((a, b) => Number(b.id === 'whole') - Number(a.id === 'whole') || (a.label < b.label ? -1 : 1));
}

/** What a target comes to, in minor units. */
function aimOf({ amount, per = 'whole', counted }: Target, building: BuildingMeasure, digits: number): number | null {
  const times = per === 'whole' ? 1 : per === 'floorArea' ? building.floorAreaM2 : countUnits(building, counted ?? '');
  if (times === null || times === 0) return null;
  const exact = quantizeAmount(times, Number(amount), digits);
  return exact === null ? null : amountToMinor(exact);
}

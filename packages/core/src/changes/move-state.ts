import type { PercentOf } from '../lists/price-listed.ts';
import type { GroupNames } from '../plan/group-labels.ts';
import type { Plan } from '../plan/plan.ts';
import type { BookContents } from '../recipes/recipe.ts';

/** A plan with what explains a move from it or to it. */
export interface MoveState {
  readonly plan: Plan;
  /** The book, with the items that sources have of their own. */
  readonly book: BookContents;
  readonly names: GroupNames;
  /** Per cents of other costs, by the code of their item. */
  readonly percents: ReadonlyMap<string, PercentOf>;
}

import { type GroupMoveDto, MOVE_CAUSES, type MoveCause } from '@tally/core';

/** Groups that cost something on either side. */
export const listCostedGroups = (groups: readonly GroupMoveDto[]): GroupMoveDto[] =>
  groups.filter((g) => g.from !== 0 || g.to !== 0);

/** Causes that moved any of some groups. */
export const listActing = (groups: readonly GroupMoveDto[]): MoveCause[] =>
  MOVE_CAUSES.filter((c) => groups.some((g) => g.causes[c] !== 0));

import type { PercentBase } from '../lists/allowance.ts';
import {
  type GroupNames,
  nameGroup,
  readGroupField,
  readGroupLabel,
  readNames,
  readSurplusLabel,
  sayNoGroup,
} from './group-labels.ts';
import type { PlanCellRow, PlanDivision, PlanSurplusRow } from './plan-rows.ts';

/** Which costs a per cent is of. */
export interface BaseTest {
  /** How rows have to be divided to be asked about. */
  readonly division: PlanDivision;
  readonly hasCell: (row: PlanCellRow) => boolean;
  readonly hasSurplus: (row: PlanSurplusRow) => boolean;
}

/** Asks which costs a per cent is of, but for others that it goes on top of: those of the groups it names, or all. */
export function testBase({ groups = [] }: PercentBase, names: GroupNames): BaseTest {
  const labels = readNames(names);
  const wanted = groups.map(({ by, is }) => ({ field: readGroupField(by)!, is }));
  const division = {
    isByKind: wanted.some((w) => w.field === 'kind'),
    isByRoom: wanted.some((w) => w.field === 'room'),
  };
  return {
    division,
    hasCell: (row) => wanted.every(({ field, is }) => (readGroupLabel(field, row, labels) ?? sayNoGroup(field)) === is),
    hasSurplus: (row) =>
      wanted.every(({ field, is }) => (readSurplusLabel(field, row, labels) ?? sayNoGroup(field)) === is),
  };
}

/** What a per cent is of, in words. @example 'Work section Masonry, on top of AL-RISK' */
export function describeBase({ groups = [], also = [] }: PercentBase): string {
  const what = groups.map(({ by, is }) => `${nameGroup(readGroupField(by)!).word} ${is}`).join(', ');
  const base = what === '' ? 'all costs but per cents' : what;
  return also.length === 0 ? base : `${base}, on top of ${also.join(', ')}`;
}

import { readText } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import { amountToMinor } from '../pricing/money.ts';
import { labelElement } from './check-live.ts';
import type { Finding } from './finding.ts';

/**
 * The finding that two elements of a table are counted twice.
 * @param what what is said of them, after both their names
 * @param amount money at stake, in 1/10,000 of a minor unit
 */
export function tellPair(
  table: ElementTable,
  a: number,
  b: number,
  what: string,
  amount: number,
  lines?: Finding['lines'],
): Finding {
  return {
    code: 'double-count',
    severity: 'warning',
    message: `${labelElement(table, a)} and ${labelElement(table, b)} ${what}`,
    globalIds: [a, b].map((row) => readText(table.identity, row) ?? ''),
    cause: [a, b]
      .map((row) => readText(table.ifcClass, row) ?? '')
      .sort()
      .join(' and '),
    money: amountToMinor(Math.round(amount)),
    ...(lines ? { lines } : {}),
  };
}

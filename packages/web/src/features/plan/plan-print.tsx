import { type GroupField, isLineUnknown, nameGroup, type PlanDto } from '@tally/core';
import { useProjectState } from '../../store/project-store.tsx';
import { showMinor, showQuantity, showUnit } from '../../ui/format.ts';
import { PrintSheet } from '../../ui/print-sheet.tsx';
import { showLineRate } from './plan-columns.tsx';
import { listPlanRows } from './plan-table-rows.ts';

const NOTHING: ReadonlySet<string> = new Set();

/** The plan as it is printed: all of it as it is broken down, whatever is closed on screen; the headings come again on each page. */
export function PlanPrint({ plan, by }: { readonly plan: PlanDto; readonly by: readonly GroupField[] }) {
  const { project, money } = useProjectState('project', 'money');
  const figure = (value: number | null, unit: string) =>
    value === null || unit === '' ? '' : showQuantity(value, unit);
  return (
    <PrintSheet>
      {() => (
        <section>
          <h2>{project.name}</h2>
          <p>
            {by.length === 0
              ? 'Cost plan'
              : `Cost plan by ${by.map((f) => nameGroup(f).word.toLowerCase()).join(', ')}`}
          </p>
          <table>
            <thead>
              <tr>
                <th>Item</th>
                <th>Description</th>
                <th className="figure">Net</th>
                <th className="figure">To buy</th>
                <th>Unit</th>
                <th className="figure">Rate</th>
                <th className="figure">Amount {money.currency}</th>
              </tr>
            </thead>
            <tbody>
              {listPlanRows(plan, by, NOTHING).map((row) =>
                row.kind === 'group' ? (
                  <tr key={row.id} className="head">
                    <td colSpan={6} style={{ paddingLeft: `${row.level * 10}pt` }}>
                      {row.group.label}
                      {row.group.open + row.group.unknown > 0 ? ' (so far)' : ''}
                    </td>
                    <td className="figure">{showMinor(row.group.minor, money.minorDigits)}</td>
                  </tr>
                ) : (
                  <tr key={row.id}>
                    <td style={{ paddingLeft: `${row.level * 10}pt` }}>{row.line.item}</td>
                    <td>{[row.line.element, row.line.description].filter((t) => t).join(': ')}</td>
                    <td className="figure">{figure(row.line.net, row.line.unit)}</td>
                    <td className="figure">{figure(row.line.toBuy, row.line.unit)}</td>
                    <td>{showUnit(row.line.unit)}</td>
                    <td className="figure">
                      {row.line.rate === null && row.line.rates <= 1 ? '' : showLineRate(row.line)}
                    </td>
                    <td className="figure">
                      {row.line.open > 0
                        ? 'not priced'
                        : isLineUnknown(row.line)
                          ? 'unknown'
                          : showMinor(row.line.minor, money.minorDigits)}
                    </td>
                  </tr>
                ),
              )}
              <tr className="head">
                <td colSpan={6}>{plan.label}</td>
                <td className="figure">{showMinor(plan.minor, money.minorDigits)}</td>
              </tr>
            </tbody>
          </table>
        </section>
      )}
    </PrintSheet>
  );
}

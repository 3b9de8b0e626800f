import type { PurchaseDto } from '@tally/core';
import { useProjectState } from '../../store/project-store.tsx';
import { showFigure, showMinor, showQuantity, showUnit } from '../../ui/format.ts';
import { PrintSheet } from '../../ui/print-sheet.tsx';
import { describePacks } from './describe-packs.ts';

/** What is ordered of each supplier, those without one last. Hours and fees are no orders. */
export function listOrders(
  purchases: readonly PurchaseDto[],
): { readonly supplier: string | null; readonly lines: readonly PurchaseDto[] }[] {
  const bySupplier = new Map<string | null, PurchaseDto[]>();
  for (const p of purchases) {
    if (p.kind !== 'material' && p.supplier === null) continue;
    bySupplier.set(p.supplier, [...(bySupplier.get(p.supplier) ?? []), p]);
  }
  return [...bySupplier]
    .sort(([a], [b]) => (a ?? '\uffff').localeCompare(b ?? '\uffff'))
    .map(([supplier, lines]) => ({ supplier, lines: [...lines].sort((a, b) => (a.code < b.code ? -1 : 1)) }));
}

/** Of what is in parts unknown. */
const soFar = ({ unknown }: PurchaseDto): string => (unknown > 0 ? ' so far' : '');

/** One sheet for each supplier, as it is printed: what to order of what, in whole packs and lengths, and what it costs together. */
export function OrderSheets({ purchases }: { readonly purchases: readonly PurchaseDto[] }) {
  const { project, money } = useProjectState('project', 'money');
  return (
    <PrintSheet>
      {() =>
        listOrders(purchases).map(({ supplier, lines }) => (
          <section key={supplier ?? ''}>
            <h2>{supplier ?? 'No supplier'}</h2>
            <p>Order for {project.name}</p>
            <table>
              <thead>
                <tr>
                  <th>Code</th>
                  <th>Description</th>
                  <th className="figure">To order</th>
                  <th>Unit</th>
                  <th>Made up of</th>
                  <th className="figure">Amount {money.currency}</th>
                </tr>
              </thead>
              <tbody>
                {lines.map((p) => (
                  <tr key={`${p.code}|${p.storey}`}>
                    <td>{p.code}</td>
                    <td>
                      {p.description}
                      {p.storey === null ? '' : `, ${p.storey}`}
                    </td>
                    <td className="figure">
                      {p.unknown > 0 && p.toBuy === 0
                        ? 'unknown'
                        : `${p.packs === null ? showQuantity(p.toBuy, p.unit) : showFigure(p.toBuy, 2)}${soFar(p)}`}
                    </td>
                    <td>{showUnit(p.unit)}</td>
                    <td>{describePacks(p)}</td>
                    <td className="figure">
                      {p.unknown > 0 && p.minor === 0
                        ? 'unknown'
                        : `${showMinor(p.minor, money.minorDigits)}${soFar(p)}`}
                    </td>
                  </tr>
                ))}
                <tr>
                  <td colSpan={5}>
                    <strong>{lines.some((p) => p.unknown > 0) ? 'Together so far' : 'Together'}</strong>
                  </td>
                  <td className="figure">
                    <strong>
                      {showMinor(
                        lines.reduce((sum, p) => sum + p.minor, 0),
                        money.minorDigits,
                      )}
                    </strong>
                  </td>
                </tr>
              </tbody>
            </table>
          </section>
        ))
      }
    </PrintSheet>
  );
}

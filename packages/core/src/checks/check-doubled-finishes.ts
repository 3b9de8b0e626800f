import { LineState } from '../cells/cell-line.ts';
import { readText } from '../elements/columns.ts';
import { listDecidedParts } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { FinishSurface } from '../elements/model-element.ts';
import type { PlanPart } from '../plan/plan.ts';
import { findPropertyColumns } from '../scopes/evaluate-scope.ts';
import type { Finding } from './finding.ts';
import { tellPair } from './tell-pair.ts';

/** Which surface of its room a covering lies on, by what IFC calls it. */
const SURFACE_OF_TYPE: Readonly<Record<string, FinishSurface>> = {
  FLOORING: 'floor',
  CEILING: 'ceiling',
  CLADDING: 'wall',
  SKIRTINGBOARD: 'skirting',
};
/** Quantities of a room that are of one of its surfaces. */
const SURFACE_QUANTITIES: readonly (readonly [RegExp, FinishSurface])[] = [
  [/^(Net|Gross)FloorArea$/i, 'floor'],
  [/^(Net|Gross)CeilingArea$/i, 'ceiling'],
  [/^(Net|Gross)WallArea$/i, 'wall'],
  [/^(Net|Gross)Perimeter$/i, 'skirting'],
];

/** What a surface of a room costs, and of what it is reckoned. */
interface SurfaceCost {
  amount: number;
  readonly section: string;
  readonly item: string;
}

/**
 * Surfaces of rooms that are priced by their finish or their area while an element lies on them and is priced too: one finding a covering. The money at
 * stake is the smaller of both amounts; several coverings of one surface share what it costs.
 */
export function checkDoubledFinishes(part: PlanPart): Finding[] {
  const { table, elementAmounts } = part;
  const coverings = listCoverings(table).filter(({ row }) => elementAmounts[row]! > 0);
  if (coverings.length === 0) return [];
  const costs = gatherSurfaceCosts(part);
  const rowOf = new Map(Array.from(table.rooms, (isRoom, row) => [isRoom ? readText(table.identity, row) : null, row]));
  return coverings.flatMap(({ row, surface }): Finding[] => {
    const room = rowOf.get(readText(table.space, row) ?? '');
    const cost = room === undefined ? undefined : costs.get(`${room}|${surface}`);
    if (room === undefined || !cost || cost.amount <= 0) return [];
    const shared = Math.min(cost.amount, elementAmounts[row]!);
    cost.amount -= shared;
    const lines = [{ section: cost.section, item: cost.item }];
    return [tellPair(table, room, row, `are both priced: the ${surface} of the room, and what lies on it.`, shared, lines)]; // biome-ignore format: one step
  });
}

function listCoverings(table: ElementTable): { readonly row: number; readonly surface: FinishSurface }[] {
  return findPropertyColumns(table, 'Class.PredefinedType').flatMap(({ rows, values }) =>
    [...rows].flatMap((row, i) => {
      const surface = SURFACE_OF_TYPE[String(values[i]).toUpperCase()];
      return surface && readText(table.ifcClass, row) === 'IfcCovering' ? [{ row, surface }] : [];
    }),
  );
}

function gatherSurfaceCosts({ table, blocks }: PlanPart): ReadonlyMap<string, SurfaceCost> {
  const costs = new Map<string, SurfaceCost>();
  for (const { mapped, lines } of blocks) {
    const driven = surfaceOfFormula(mapped.decision.driver ?? '');
    for (const line of lines) {
      const slots = line.item?.quantity.slots ?? [];
      const read = slots.map((s) => surfaceOfFormula(s.name)).find((s) => s !== null) ?? driven;
      for (let at = 0; at < mapped.rows.length; at++) {
        const row = mapped.rows[at]!;
        if (!table.rooms[row] || line.state[at] !== LineState.known || !(line.amounts[at]! > 0)) continue;
        const surface = mapped.about === 'finish' ? surfaceOfPart(table, row, mapped.parts![at]!) : read;
        if (!surface) continue;
        const key = `${row}|${surface}`;
        const cost = costs.get(key) ?? { amount: 0, section: mapped.section ?? '', item: line.code };
        costs.set(key, cost);
        cost.amount += line.amounts[at]!;
      }
    }
  }
  return costs;
}

const surfaceOfFormula = (text: string): FinishSurface | null =>
  SURFACE_QUANTITIES.find(([name]) => name.test(text.trim()))?.[1] ?? null;

function surfaceOfPart(table: ElementTable, row: number, ordinal: number): FinishSurface | null {
  const { offset, surface } = listDecidedParts(table, 'finish');
  return surface?.[offset[row]! + ordinal] ?? null;
}

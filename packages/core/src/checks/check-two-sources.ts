import { readText } from '../elements/columns.ts';
import type { Plan, PlanPart } from '../plan/plan.ts';
import { amountToMinor } from '../pricing/money.ts';
import { labelElement } from './check-live.ts';
import type { Finding } from './finding.ts';

/** Boxes whose sides lie within so much of each other are of one element, m. */
const SAME_SIDE_M = 0.005;

interface Place {
  readonly part: PlanPart;
  readonly row: number;
}

/**
 * Elements that two models both have and that are both priced: of one identity, or of one class and in the very same box. One finding a pair; the money
 * at stake is what the cheaper of both costs.
 */
export function checkTwoSources(plan: Plan): Finding[] {
  const models = plan.parts.filter((p) => !p.table.origin);
  if (models.length < 2) return [];
  const byIdentity = new Map<string, Place>();
  const byBox = new Map<string, Place[]>();
  const found: Finding[] = [];
  for (const part of models) {
    const { table, elementAmounts } = part;
    const own: (readonly [string, string | null, Place])[] = [];
    for (let row = 0; row < table.count; row++) {
      if (!(elementAmounts[row]! > 0)) continue;
      const id = readText(table.identity, row) ?? '';
      const [box, ...near] = nameBoxes(part, row);
      const twin = byIdentity.get(id) ?? [box, ...near].flatMap((b) => (b ? (byBox.get(b) ?? []) : [])).find((p) => isSameBox(p, { part, row })); // biome-ignore format: one step
      if (twin) found.push(tellTwin(twin, { part, row }));
      own.push([id, box ?? null, { part, row }]);
    }
    // Of one model among themselves other checks tell.
    for (const [id, box, place] of own) {
      byIdentity.set(id, place);
      if (box) byBox.set(box, [...(byBox.get(box) ?? []), place]);
    }
  }
  return found;
}

/** Where the lowest corner of a box lies, to the nearest few millimetres, its own cell first; cells beside it, where it is near their edge. */
function nameBoxes({ table }: PlanPart, row: number): string[] {
  const corner = [0, 1, 2].map((i) => table.boxes[6 * row + i]! / (4 * SAME_SIDE_M));
  if (corner.some(Number.isNaN)) return [];
  const cells = corner.reduce<number[][]>(
    (lists, at) => {
      const own = Math.floor(at);
      const beside = at - own < 0.25 ? [own - 1] : at - own > 0.75 ? [own + 1] : [];
      return lists.flatMap((list) => [own, ...beside].map((cell) => [...list, cell]));
    },
    [[]],
  );
  return cells.map((cell) => `${readText(table.ifcClass, row)}|${cell.join()}`);
}

function isSameBox(a: Place, b: Place): boolean {
  for (let i = 0; i < 6; i++) {
    const gap = Math.abs(a.part.table.boxes[6 * a.row + i]! - b.part.table.boxes[6 * b.row + i]!);
    if (!(gap <= SAME_SIDE_M)) return false;
  }
  return true;
}

function tellTwin(a: Place, b: Place): Finding {
  const [first, second] = [a, b].map(({ part: { table }, row }) => ({ id: readText(table.identity, row) ?? '', key: table.keys[row]!, label: labelElement(table, row) })); // biome-ignore format: one step
  return {
    code: 'double-count',
    severity: 'warning',
    message: `${first!.label} and ${second!.label} are one element in two sources, and both are priced.`,
    globalIds: [first!.id, second!.id],
    keys: [first!.key, second!.key],
    cause: 'one element in two sources',
    money: amountToMinor(Math.min(a.part.elementAmounts[a.row]!, b.part.elementAmounts[b.row]!)),
  };
}

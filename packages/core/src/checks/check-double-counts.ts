import { LineState } from '../cells/cell-line.ts';
import { readText } from '../elements/columns.ts';
import { type ElementTable, findMeasured } from '../elements/element-table.ts';
import type { Plan, PlanPart } from '../plan/plan.ts';
import { amountToMinor } from '../pricing/money.ts';
import { labelElement, VOLUMES } from './check-live.ts';
import { OVERLAP_SHARE, SAME_PLACE_SHARE } from './check-overlaps.ts';
import type { Finding } from './finding.ts';

/** What an element costs by its volume, in 1/10,000 of a minor unit, and by which items. */
interface ByVolume {
  readonly amount: number;
  readonly items: ReadonlySet<string>;
}

/**
 * Bodies whose shared room is paid for twice, one finding a pair, the dearest first: both are priced by their volume, or both stand in one place.
 * The money at stake is the shared volume at the lower of both prices; of two in one place what the cheaper one costs.
 * @param known findings about the models: pairs that stand in one place with one shape are taken from them
 */
export function checkDoubleCounts(plan: Plan, known: readonly Finding[], share = OVERLAP_SHARE): Finding[] {
  return plan.parts
    .filter((p) => !p.table.origin)
    .flatMap((part) => [...checkSamePlaces(part, known), ...checkPart(part, share)])
    .sort((a, b) => (b.money ?? 0) - (a.money ?? 0));
}

/** Pairs that are known to stand in one place with one shape, where both are priced. */
function checkSamePlaces({ table, elementAmounts }: PlanPart, known: readonly Finding[]): Finding[] {
  const pairs = known.filter((f) => f.code === 'coincident' && f.globalIds.length === 2);
  if (pairs.length === 0) return [];
  const rows = new Map(Array.from({ length: table.count }, (_, row) => [readText(table.identity, row), row]));
  return pairs.flatMap(({ globalIds }): Finding[] => {
    const [a, b] = globalIds.map((id) => rows.get(id));
    if (a === undefined || b === undefined) return [];
    const amount = Math.min(elementAmounts[a]!, elementAmounts[b]!);
    return amount > 0 ? [tellPair(table, a, b, 'stand in one place and are both priced.', amount)] : [];
  });
}

function tellPair(table: ElementTable, a: number, b: number, what: string, amount: number): Finding {
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
  };
}

function checkPart(part: PlanPart, share: number): Finding[] {
  const { table, elementAmounts } = part;
  const shared = (table.sharedBodies ?? []).filter((s) => s.sharedM3 > share * s.smallerM3);
  if (shared.length === 0) return [];
  const byVolume = listByVolume(part);
  const volumeOf = (row: number) => findMeasured(table, 'GrossVolume')?.values[row] ?? Number.NaN;
  return shared.flatMap(({ a, b, sharedM3, smallerM3 }): Finding[] => {
    const [x, y] = [byVolume.get(a), byVolume.get(b)];
    const isOne = sharedM3 > SAME_PLACE_SHARE * Math.max(volumeOf(a), volumeOf(b));
    const rates = [[x, a] as const, [y, b] as const].map(([cost, row]) =>
      cost ? cost.amount / volumeOf(row) : Number.NaN,
    );
    const amount = isOne
      ? Math.min(elementAmounts[a]!, elementAmounts[b]!)
      : x && y
        ? sharedM3 * Math.min(...rates)
        : Number.NaN;
    if (!(amount > 0)) return [];
    const items = [...new Set([...(x?.items ?? []), ...(y?.items ?? [])])].slice(0, 4);
    const by = items.length > 0 ? ` (${items.join(', ')})` : '';
    const what = isOne
      ? `stand in one place and are both priced${by}.`
      : `share ${Number(sharedM3.toPrecision(3))} m³, ${Math.round((100 * sharedM3) / smallerM3)} % of the smaller one, and both are priced by volume${by}.`;
    return [tellPair(table, a, b, what, amount)];
  });
}

/** Costs of elements that go by their volume or weight. */
function listByVolume({ blocks }: PlanPart): ReadonlyMap<number, ByVolume> {
  const costs = new Map<number, { amount: number; items: Set<string> }>();
  for (const { mapped, lines } of blocks) {
    const isDriven = VOLUMES.test(mapped.decision.driver ?? '');
    for (const line of lines) {
      const slots = line.item?.quantity.slots ?? [];
      const readsDriver = slots.some((s) => s.name.toLowerCase() === 'driver');
      // An item priced directly has the driver itself as its quantity.
      const isDirect = line.path.length === 0;
      if (!slots.some((s) => VOLUMES.test(s.name)) && !(isDriven && (readsDriver || isDirect))) continue;
      for (let at = 0; at < mapped.rows.length; at++) {
        if (line.state[at] !== LineState.known || !(line.amounts[at]! > 0)) continue;
        const row = mapped.rows[at]!;
        const cost = costs.get(row) ?? { amount: 0, items: new Set<string>() };
        costs.set(row, cost);
        cost.amount += line.amounts[at]!;
        cost.items.add(line.code);
      }
    }
  }
  return costs;
}

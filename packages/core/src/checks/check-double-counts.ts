import { LineState } from '../cells/cell-line.ts';
import { readText } from '../elements/columns.ts';
import { findMeasured } from '../elements/element-table.ts';
import type { Plan, PlanPart } from '../plan/plan.ts';
import { checkDoubledFinishes } from './check-doubled-finishes.ts';
import { checkLayersInWholes, checkSameItems } from './check-doubled-work.ts';
import { OVERLAP_SHARE, SAME_PLACE_SHARE } from './check-overlaps.ts';
import { checkTwoSources } from './check-two-sources.ts';
import type { Finding } from './finding.ts';
import { isByVolume } from './is-by-volume.ts';
import { tellPair } from './tell-pair.ts';

/** What an element costs by its volume, in 1/10,000 of a minor unit, and by which items. */
interface ByVolume {
  readonly amount: number;
  readonly items: ReadonlySet<string>;
}

/**
 * What is paid for twice, the dearest first: bodies that share room, one item in two sections of one element, a layer in the volume of its wall,
 * a finish of a room and what covers it, one element in two sources.
 *
 * Of bodies one finding a pair: both are priced by their volume, or both stand in one place.
 * The money at stake is the shared volume at the lower of both prices; of two in one place what the cheaper one costs.
 * @param known findings about the models: pairs that stand in one place with one shape are taken from them
 */
export function checkDoubleCounts(plan: Plan, known: readonly Finding[], share = OVERLAP_SHARE): Finding[] {
  return plan.parts
    .filter((p) => !p.table.origin)
    .flatMap((part) => [
      ...checkSamePlaces(part, known),
      ...checkPart(part, share),
      ...checkSameItems(part),
      ...checkLayersInWholes(part),
      ...checkDoubledFinishes(part),
    ])
    .concat(checkTwoSources(plan))
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
    for (const line of lines) {
      if (!isByVolume(mapped, line)) continue;
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

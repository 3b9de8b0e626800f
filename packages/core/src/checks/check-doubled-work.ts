import { LineState } from '../cells/cell-line.ts';
import { readText } from '../elements/columns.ts';
import { listDecidedParts, namePart } from '../elements/decided-parts.ts';
import { findMeasured } from '../elements/element-table.ts';
import { relateWholes } from '../mapping/relate-wholes.ts';
import type { PlanPart } from '../plan/plan.ts';
import { amountToMinor } from '../pricing/money.ts';
import { labelElement } from './check-live.ts';
import type { Finding } from './finding.ts';
import { isByVolume } from './is-by-volume.ts';
import { tellPair } from './tell-pair.ts';

/** What of an item an element takes in one section. */
interface Taken {
  readonly section: string;
  amount: number;
  net: number;
}

/** Figures of two lines that differ by less than this share of them measure the same thing. */
const SAME_NET = 1e-3;

/** What elements take of the items that several sections price with, by item code and row. */
function gatherTaken({ blocks }: PlanPart): ReadonlyMap<string, ReadonlyMap<number, Taken[]>> {
  const sections = new Map<string, Set<string | null>>();
  for (const { mapped, lines } of blocks)
    for (const { code } of lines) sections.set(code, (sections.get(code) ?? new Set()).add(mapped.section));
  const taken = new Map<string, Map<number, Taken[]>>();
  for (const { mapped, lines } of blocks)
    for (const line of lines) {
      if (sections.get(line.code)!.size < 2) continue;
      const rows = taken.get(line.code) ?? new Map<number, Taken[]>();
      taken.set(line.code, rows);
      for (let at = 0; at < mapped.rows.length; at++) {
        if (line.state[at] !== LineState.known || !(line.amounts[at]! > 0)) continue;
        const row = mapped.rows[at]!;
        const own = rows.get(row) ?? [];
        rows.set(row, own);
        const section = mapped.section ?? '';
        const of = own.find((t) => t.section === section);
        if (of) {
          of.amount += line.amounts[at]!;
          of.net += line.net[at]!;
        } else own.push({ section, amount: line.amounts[at]!, net: line.net[at]! });
      }
    }
  return taken;
}

const isSameNet = (a: number, b: number): boolean => Math.abs(a - b) <= SAME_NET * Math.max(a, b);

/**
 * One item that an element takes as much of in two sections, and one that a whole takes as much of in one section as its parts in another. The
 * money at stake is the smaller of both amounts. What two sections take in other extent (hours of one trade) is no fault.
 */
export function checkSameItems(part: PlanPart): Finding[] {
  const { table } = part;
  const related = relateWholes(table);
  const found: Finding[] = [];
  for (const [item, rows] of gatherTaken(part)) {
    for (const [row, own] of rows) {
      const [first, second] = own;
      if (first && second && isSameNet(first.net, second.net))
        found.push({
          code: 'double-count',
          severity: 'warning',
          message: `${labelElement(table, row)} takes the same ${item} in two work sections.`,
          globalIds: [readText(table.identity, row) ?? ''],
          cause: `${item} in two sections`,
          money: amountToMinor(Math.min(first.amount, second.amount)),
          lines: [first, second].map(({ section }) => ({ section, item })),
        });
      if (related.hasParts(row)) found.push(...checkParts(part, item, row, rows));
    }
  }
  return found;
}

/** Parts that together take as much of an item in another section as their whole does: one finding a part. */
function checkParts({ table }: PlanPart, item: string, whole: number, rows: ReadonlyMap<number, Taken[]>): Finding[] {
  const own = rows.get(whole)![0]!;
  const parts = relateWholes(table)
    .of(whole)
    .filter((row) => relateWholes(table).above(row).includes(whole))
    .flatMap((row) => (rows.get(row) ?? []).filter((t) => t.section !== own.section).map((taken) => ({ row, taken })));
  const net = parts.reduce((sum, { taken }) => sum + taken.net, 0);
  if (parts.length === 0 || !isSameNet(net, own.net)) return [];
  const share = Math.min(1, own.amount / parts.reduce((sum, { taken }) => sum + taken.amount, 0));
  return parts.map(({ row, taken }) =>
    tellPair(table, whole, row, `are whole and part, and both take ${item}.`, share * taken.amount, [
      { section: own.section, item },
      { section: taken.section, item },
    ]),
  );
}

/** Layers that are priced by their volume or weight while their element is too, in another section: the same matter twice. One finding an element. */
export function checkLayersInWholes({ table, blocks }: PlanPart): Finding[] {
  const layered = blocks.filter((b) => b.mapped.about === 'layer');
  if (layered.length === 0) return [];
  const wholes = new Map<number, { amount: number; section: string; item: string }>();
  for (const { mapped, lines } of blocks) {
    if (mapped.about) continue;
    for (const line of lines.filter((l) => isByVolume(mapped, l)))
      for (let at = 0; at < mapped.rows.length; at++) {
        if (line.state[at] !== LineState.known || !(line.amounts[at]! > 0)) continue;
        const row = mapped.rows[at]!;
        const own = wholes.get(row) ?? { amount: 0, section: mapped.section ?? '', item: line.code };
        wholes.set(row, own);
        own.amount += line.amounts[at]!;
      }
  }
  const volumes = findMeasured(table, 'NetVolume')?.values;
  const { offset } = listDecidedParts(table, 'layer');
  const doubled = new Map<number, { amount: number; names: string[]; line: { section: string; item: string } }>();
  for (const { mapped, lines } of layered)
    for (const line of lines.filter((l) => isByVolume(mapped, l)))
      for (let at = 0; at < mapped.rows.length; at++) {
        const row = mapped.rows[at]!;
        const whole = wholes.get(row);
        const layerM3 = table.layers.volume[offset[row]! + mapped.parts![at]!]!;
        const wholeM3 = volumes?.[row] ?? Number.NaN;
        if (!whole || !(line.amounts[at]! > 0) || !(layerM3 > 0)) continue;
        const rate = Math.min(line.amounts[at]! / layerM3, wholeM3 > 0 ? whole.amount / wholeM3 : Number.POSITIVE_INFINITY); // biome-ignore format: one step
        const own = doubled.get(row) ?? {
          amount: 0,
          names: [],
          line: { section: mapped.section ?? '', item: line.code },
        };
        doubled.set(row, own);
        own.amount += layerM3 * rate;
        own.names.push(namePart(table, 'layer', row, mapped.parts![at]!));
      }
  return [...doubled].map(([row, { amount, names, line }]) => ({
    code: 'double-count',
    severity: 'warning',
    message: `${labelElement(table, row)} is priced by its volume, and so ${names.length > 1 ? 'are' : 'is'} its ${[...new Set(names)].join(', ')}.`,
    globalIds: [readText(table.identity, row) ?? ''],
    cause: 'layers in the volume of their element',
    money: amountToMinor(Math.round(amount)),
    lines: [{ section: wholes.get(row)!.section, item: wholes.get(row)!.item }, line],
  }));
}

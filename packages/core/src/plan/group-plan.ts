import { LineState } from '../cells/cell-line.ts';
import { type Amount, amountToMinor, apportion } from '../pricing/money.ts';
import { type PricedBlock, type PricedLine, rateAt, toCharged } from '../pricing/price-lines.ts';
import type { Purchase } from '../pricing/purchases.ts';
import { type GroupField, type GroupNames, type Labels, NO_LABEL, readGroupLabel, readNames } from './group-labels.ts';
import type { Plan, PlanPart } from './plan.ts';
import { findShortfall, nameTotal } from './shortfall.ts';
import { type KindPart, listKindParts, splitAmount } from './split-by-kind.ts';

/** Identical lines bundled: one item at one rate and waste within a group. */
export interface PlanLine {
  readonly id: string;
  readonly item: string;
  readonly description: string;
  readonly kind: string | null;
  readonly section: string | null;
  readonly unit: string;
  readonly net: number;
  readonly toBuy: number;
  readonly wastePercent: number;
  readonly rate: number | null;
  readonly amount: Amount;
  /** The shown amount in minor units; the shown amounts of a plan add up to its shown total. */
  readonly minor: number;
  readonly elements: number;
  /** Element x line combinations in it, and how many of them are unknown. */
  readonly cells: number;
  readonly unknown: number;
  readonly problem: string | null;
}

/** True if nothing of a bundled line is known: it is shown as unknown, not as 0. */
export function isLineUnknown(line: PlanLine): boolean {
  return line.unknown >= line.cells;
}

/** A group of a plan with what is below it: groups, or lines on the last level. */
export interface PlanGroup {
  readonly id: string;
  readonly label: string;
  readonly amount: Amount;
  readonly minor: number;
  readonly unknown: number;
  readonly groups: readonly PlanGroup[];
  readonly lines: readonly PlanLine[];
}

export interface PlanScope {
  /** Only these elements (ElementKeys); all if absent. */
  readonly keys?: ReadonlySet<number>;
}

interface Building {
  label: string;
  amount: number;
  unknown: number;
  groups: Map<string, Building>;
  lines: Map<string, LineBuilding>;
}
interface LineBuilding {
  head: LineHead;
  net: number;
  toBuy: number;
  amount: number;
  cells: number;
  unknown: number;
  elements: Set<number>;
  problem: string | null;
}

type LineHead = Pick<PlanLine, 'item' | 'description' | 'kind' | 'section' | 'unit' | 'wastePercent' | 'rate'>;

/** Where surplus of whole packs stands when a plan is grouped by something that it has not. */
const SURPLUS_GROUP = 'Packs and rounding';

const fresh = (label: string): Building => ({ label, amount: 0, unknown: 0, groups: new Map(), lines: new Map() });

/** Identity of a bundled line inside its group. */
function lineKey(block: PricedBlock, line: PricedLine, at: number, { share, kind }: KindPart): string {
  const part = share === 1 ? '' : `|${kind}`;
  return `${block.mapped.section}|${line.code}|${rateAt(line, at)}|${line.wastePercent}${part}`;
}

/**
 * Groups a plan by fields, outermost first, and bundles identical lines below the last. The shown amounts are shared out
 * from the total downwards, so that every printed column adds up, and the total is the same under every grouping. The label of the
 * whole says what its total is of.
 */
export function groupPlan(plan: Plan, by: readonly GroupField[], names: GroupNames, scope: PlanScope = {}): PlanGroup {
  const labels = readNames(names);
  const isByKind = by.includes('kind');
  const root = fresh(scope.keys ? 'Total' : nameTotal(findShortfall(plan)));
  visitPlanCells(plan, (part, row, block, line, at) => {
    const key = part.table.keys[row]!;
    if (scope.keys && !scope.keys.has(key)) return;
    const rate = rateAt(line, at);
    const isUnknown = line.state[at] === LineState.problem || rate === null;
    for (const piece of listKindParts(line, at, isByKind)) {
      const { amount, share } = piece;
      let node = root;
      const add = () => {
        node.amount += amount;
        if (isUnknown) node.unknown++;
      };
      add();
      for (const field of by) {
        const label = readGroupLabel(field, part, row, block, line, piece, labels);
        let next = node.groups.get(label);
        if (!next) {
          next = fresh(label);
          node.groups.set(label, next);
        }
        node = next;
        add();
      }
      const id = lineKey(block, line, at, piece);
      let bundled = node.lines.get(id);
      if (!bundled) {
        const item = line.item?.item;
        const what = item?.description ?? '';
        bundled = startLine({
          item: line.code,
          description: share === 1 ? what : `${what}, ${piece.kind} part`,
          kind: piece.kind,
          section: block.mapped.section,
          unit: item?.unit ?? '',
          wastePercent: line.wastePercent,
          rate: rate === null ? null : rate * share,
        });
        node.lines.set(id, bundled);
      }
      bundled.amount += amount;
      bundled.cells++;
      bundled.elements.add(key);
      if (line.state[at] === LineState.known) {
        bundled.net += line.net[at]!;
        bundled.toBuy += toCharged(line.net[at]!, line);
      }
      if (isUnknown) {
        bundled.unknown++;
        bundled.problem ??= (line.problems.get(at) ?? line.rateProblem)?.message ?? null;
      }
    }
  });
  if (!scope.keys) for (const purchase of plan.purchases) addSurplus(root, purchase, by, labels);
  const order = new Map(names.sections.map((s, i) => [s.name, i]));
  const orders = by.map((field) => (field === 'section' ? order : new Map<string, number>()));
  return finish(root, '', amountToMinor(root.amount), orders);
}

const startLine = (head: LineHead): LineBuilding => ({
  head, net: 0, toBuy: 0, amount: 0, cells: 0, unknown: 0, elements: new Set(), problem: null,
}); // biome-ignore format: one start

/** What of whole packs is left over, as a line of its own: it belongs to no element. */
function addSurplus(root: Building, purchase: Purchase, by: readonly GroupField[], labels: Labels): void {
  const { item, shares, surplusAmount } = purchase;
  if (surplusAmount === 0) return;
  const whole = { kind: item.kind, share: 1, amount: surplusAmount };
  for (const part of by.includes('kind') ? splitAmount(surplusAmount, shares) : [whole])
    addSurplusPart(root, purchase, part, by, labels);
}

/** Fields that every item has a label for, if only that there is none. */
const OF_ITEM: readonly GroupField[] = ['kind', 'supplier', 'itemGroup', 'taxClass'];

function addSurplusPart(
  root: Building,
  { item, storey, surplus }: Purchase,
  { kind, share, amount: surplusAmount }: KindPart,
  by: readonly GroupField[],
  { itemClassOf }: Labels,
): void {
  const labels: Partial<Record<GroupField, string | null | undefined>> = {
    kind,
    supplier: item.supplier,
    itemGroup: item.group,
    taxClass: item.taxClass,
    itemClass1: itemClassOf(item, 1),
    itemClass2: itemClassOf(item, 2),
    itemClass3: itemClassOf(item, 3),
    storey,
  };
  let node = root;
  node.amount += surplusAmount;
  for (const field of by) {
    const label = labels[field] || (OF_ITEM.includes(field) ? NO_LABEL[field] : SURPLUS_GROUP);
    const next = node.groups.get(label) ?? fresh(label);
    node.groups.set(label, next);
    node = next;
    node.amount += surplusAmount;
  }
  const line = startLine({
    item: item.code,
    description: `${item.description}, left over of whole packs${storey === null ? '' : `, ${storey}`}${share === 1 ? '' : `, ${kind} part`}`,
    kind,
    section: null,
    unit: item.unit,
    wastePercent: 0,
    rate: null,
  });
  line.toBuy = surplus;
  line.amount = surplusAmount;
  line.cells = 1;
  node.lines.set(`surplus|${item.code}|${storey ?? ''}`, line);
}

/** Calls back for every line of every element that is part of the price (skipped lines are not). */
export function visitPlanCells(
  plan: Plan,
  visit: (part: PlanPart, row: number, block: PricedBlock, line: PricedLine, at: number) => void,
): void {
  for (const part of plan.parts) {
    for (const block of part.blocks) {
      for (const line of block.lines) {
        for (let at = 0; at < block.mapped.rows.length; at++) {
          if (line.state[at] !== LineState.skipped) visit(part, block.mapped.rows[at]!, block, line, at);
        }
      }
    }
  }
}

const compareTexts = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/** Places of group labels that have an order of their own (work sections); the others follow by alphabet. */
type LabelOrder = ReadonlyMap<string, number>;

function finish(node: Building, id: string, minor: number, orders: readonly LabelOrder[]): PlanGroup {
  const [order, ...below] = orders;
  const place = (label: string) => order?.get(label) ?? Number.MAX_SAFE_INTEGER;
  const groups = [...node.groups.entries()].sort(([a], [b]) => place(a) - place(b) || compareTexts(a, b));
  const lines = [...node.lines.entries()].sort(([, a], [, b]) => compareTexts(a.head.item, b.head.item));
  const groupShares = apportion(
    groups.length > 0 ? minor : 0,
    groups.map(([, g]) => g.amount),
  );
  const lineShares = apportion(
    lines.length > 0 ? minor : 0,
    lines.map(([, l]) => l.amount),
  );
  return {
    id,
    label: node.label,
    amount: node.amount,
    minor,
    unknown: node.unknown,
    groups: groups.map(([label, g], i) => finish(g, `${id}/${encodeURIComponent(label)}`, groupShares[i]!, below)),
    lines: lines.map(([key, { head, ...sums }], i) => ({
      id: `${id}#${key}`,
      ...head,
      net: sums.net,
      toBuy: sums.toBuy,
      amount: sums.amount,
      minor: lineShares[i]!,
      elements: sums.elements.size,
      cells: sums.cells,
      unknown: sums.unknown,
      problem: sums.problem,
    })),
  };
}

/** ElementKeys behind a group or a bundled line of a grouped plan, by its id. */
export function listGroupElements(plan: Plan, by: readonly GroupField[], names: GroupNames, id: string): number[] {
  const labels = readNames(names);
  const isByKind = by.includes('kind');
  const keys = new Set<number>();
  // The surplus of an item is that of all elements that need it.
  const surplusOf = /#surplus\|([^|]*)\|/.exec(id)?.[1];
  visitPlanCells(plan, (part, row, block, line, at) => {
    if (surplusOf !== undefined && line.code === surplusOf) keys.add(part.table.keys[row]!);
    for (const piece of listKindParts(line, at, isByKind)) {
      const path = by
        .map((field) => `/${encodeURIComponent(readGroupLabel(field, part, row, block, line, piece, labels))}`)
        .join('');
      if (path === id || path.startsWith(`${id}/`) || `${path}#${lineKey(block, line, at, piece)}` === id)
        keys.add(part.table.keys[row]!);
    }
  });
  return [...keys];
}

import { LineState } from '../cells/cell-line.ts';
import type { PricedBlock, PricedLine } from '../pricing/price-lines.ts';
import type { Purchase } from '../pricing/purchases.ts';
import { listOpenParts } from './open-parts.ts';
import { COMPLETENESS_STATES, type Plan, type PlanPart } from './plan.ts';
import { shareOverRooms } from './share-rooms.ts';
import { type KindPart, listPieces, type PlanPiece, splitAmount } from './split-by-kind.ts';

/** A cell of a plan, or the part of it that is of one kind of cost or of one room. */
export interface PlanCellRow {
  readonly is: 'cell';
  readonly part: PlanPart;
  readonly row: number;
  readonly block: PricedBlock;
  readonly line: PricedLine;
  readonly at: number;
  readonly piece: PlanPiece;
}

/** What of whole packs of an item is left over, or the part of it that is of one kind: it belongs to no element. */
export interface PlanSurplusRow {
  readonly is: 'surplus';
  readonly purchase: Purchase;
  readonly piece: KindPart;
}

/** An element that nothing prices, or of which something is not decided about: it stands in the plan without an amount. */
export interface PlanOpenRow {
  readonly is: 'open';
  readonly part: PlanPart;
  readonly row: number;
  /** Layers, face styles or finishes that are not decided about; none where it is the element itself. */
  readonly openParts: readonly string[];
  readonly room: string | null;
  readonly extent: number;
}

/** A row of a plan as tables read it. */
export type PlanRow = PlanCellRow | PlanSurplusRow | PlanOpenRow;

/** What rows are divided by. */
export interface PlanDivision {
  readonly isByKind: boolean;
  readonly isByRoom: boolean;
}

/** Calls back for every line of every element that is part of the price (skipped lines are not). */
export function visitPlanCells(
  plan: Pick<Plan, 'parts'>,
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

/** Calls back for the cells of a plan, each divided as asked; the row is one object used again. */
export function visitPlanRows(
  plan: Pick<Plan, 'parts'>,
  { isByKind, isByRoom }: PlanDivision,
  see: (row: PlanCellRow) => void,
): void {
  const whole: { -readonly [K in keyof PlanPiece]: PlanPiece[K] } = { kind: null, share: 1, amount: 0, room: null, extent: 1 }; // biome-ignore format: one piece
  let seen: { -readonly [K in keyof PlanCellRow]: PlanCellRow[K] } | null = null;
  visitPlanCells(plan, (part, row, block, line, at) => {
    if (!seen) seen = { is: 'cell', part, row, block, line, at, piece: whole };
    seen.part = part;
    seen.row = row;
    seen.block = block;
    seen.line = line;
    seen.at = at;
    const rooms = isByRoom ? shareOverRooms(part.table)[row]! : null;
    const isDivided = isByKind && (line.item?.rate.shares.length ?? 0) > 1;
    if (!isDivided && (rooms === null || rooms.length === 0)) {
      whole.kind = line.item?.item.kind ?? null;
      whole.amount = line.amounts[at]!;
      seen.piece = whole;
      see(seen);
      return;
    }
    for (const piece of listPieces(line, at, isByKind, rooms)) {
      seen.piece = piece;
      see(seen);
    }
  });
}

/** The parts of one cell, each a row; as `visitPlanRows` divides it. */
export function listCellRows(
  { part, block, line, at }: Pick<PlanCellRow, 'part' | 'block' | 'line' | 'at'>,
  { isByKind, isByRoom }: PlanDivision,
): PlanCellRow[] {
  const row = block.mapped.rows[at]!;
  const rooms = isByRoom ? shareOverRooms(part.table)[row]! : null;
  const isDivided = isByKind && (line.item?.rate.shares.length ?? 0) > 1;
  return listPieces(line, at, isDivided, rooms).map((piece) => ({ is: 'cell', part, row, block, line, at, piece }));
}

const cellsOf = new WeakMap<PlanPart, Uint8Array>();

/** Rows of which some line is in the plan: 1, else 0. */
function markTold(part: PlanPart): Uint8Array {
  const kept = cellsOf.get(part);
  if (kept) return kept;
  const told = new Uint8Array(part.table.count);
  for (const { lines, mapped } of part.blocks)
    for (const { state } of lines)
      for (let at = 0; at < state.length; at++) if (state[at] !== LineState.skipped) told[mapped.rows[at]!] = 1;
  cellsOf.set(part, told);
  return told;
}

/** Calls back for what is open: elements without a line in the plan that are not left out, and elements with parts that nothing decides about. */
export function visitOpen(
  plan: Plan,
  { isByRoom }: Pick<PlanDivision, 'isByRoom'>,
  see: (row: PlanOpenRow) => void,
): void {
  for (const part of plan.parts) {
    const told = markTold(part);
    for (let row = 0; row < part.table.count; row++) {
      const state = COMPLETENESS_STATES[part.completeness[row]!]!;
      if (state !== 'partly' && (state !== 'unpriced' || told[row])) continue;
      const openParts = state === 'partly' ? listOpenParts(part.table, part.mapping, row) : [];
      if (state === 'partly' && openParts.length === 0) continue;
      const rooms = isByRoom ? shareOverRooms(part.table)[row]! : [];
      if (rooms.length === 0) see({ is: 'open', part, row, openParts, room: null, extent: 1 });
      for (const { room, share } of rooms) see({ is: 'open', part, row, openParts, room, extent: share });
    }
  }
}

/** What of whole packs of an item is left over, in rows: one for each kind of cost where it is divided so. */
export function listSurplusRows(purchase: Purchase, isByKind: boolean): PlanSurplusRow[] {
  const { item, shares, surplusAmount } = purchase;
  const whole: KindPart = { kind: item.kind, share: 1, amount: surplusAmount };
  const pieces = isByKind ? splitAmount(surplusAmount, shares) : [whole];
  return pieces.map((piece) => ({ is: 'surplus', purchase, piece }));
}

/** Calls back for what of whole packs is left over, item by item. */
export function visitSurplus(
  { purchases }: Pick<Plan, 'purchases'>,
  isByKind: boolean,
  see: (row: PlanSurplusRow) => void,
): void {
  for (const purchase of purchases)
    if (purchase.surplusAmount !== 0) for (const row of listSurplusRows(purchase, isByKind)) see(row);
}

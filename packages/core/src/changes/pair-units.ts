import { namePart } from '../elements/decided-parts.ts';
import type { Plan, PlanPart } from '../plan/plan.ts';
import type { PricedBlock } from '../pricing/price-lines.ts';

/** A block of a plan with what it is in. */
export interface PlacedBlock {
  readonly part: PlanPart;
  readonly block: PricedBlock;
}

/**
 * Units that two plans price by the same pair of blocks: an element, or a layer, face style or finish of it, in one work section. Of a unit
 * that only one plan prices, the other has no block.
 */
export interface UnitGroup {
  readonly old: PlacedBlock | null;
  readonly now: PlacedBlock | null;
  /** Positions in the blocks, unit by unit; -1 where there is no block. */
  readonly oldAt: readonly number[];
  readonly nowAt: readonly number[];
}

interface Place {
  readonly index: number;
  readonly at: number;
}

/** Blocks of a plan, and where each unit is in them. */
function placeUnits(plan: Plan): { readonly blocks: readonly PlacedBlock[]; readonly places: ReadonlyMap<string, Map<number | string, Place>> } {
  const blocks: PlacedBlock[] = [];
  const places = new Map<string, Map<number | string, Place>>();
  for (const part of plan.parts)
    for (const block of part.blocks) {
      const { mapped } = block;
      const { about } = mapped;
      const index = blocks.push({ part, block }) - 1;
      const group = `${mapped.section ?? ''}|${about ?? ''}`;
      let own = places.get(group);
      if (!own) {
        own = new Map();
        places.set(group, own);
      }
      for (let at = 0; at < mapped.rows.length; at++) {
        const row = mapped.rows[at]!;
        const key = part.table.keys[row]!;
        const name = about && `${key}|${namePart(part.table, about, row, mapped.parts![at]!)}`;
        let id: number | string = name ?? key;
        // Nothing is priced twice in a section; what is nevertheless is told apart by its order.
        for (let n = 2; own.has(id); n++) id = `${name ?? key}#${n}`;
        own.set(id, { index, at });
      }
    }
  return { blocks, places };
} // biome-ignore format: one head

/** Pairs the units of two plans, whatever prices them; in an order that is the same for both directions. */
export function pairUnits(before: Plan, after: Plan): readonly UnitGroup[] {
  const [old, now] = [placeUnits(before), placeUnits(after)];
  const groups = new Map<string, { old: number; now: number; oldAt: number[]; nowAt: number[] }>();
  const add = (a: Place | undefined, b: Place | undefined) => {
    const id = `${a?.index ?? -1}/${b?.index ?? -1}`;
    let group = groups.get(id);
    if (!group) {
      group = { old: a?.index ?? -1, now: b?.index ?? -1, oldAt: [], nowAt: [] };
      groups.set(id, group);
    }
    group.oldAt.push(a?.at ?? -1);
    group.nowAt.push(b?.at ?? -1);
  };
  for (const [name, units] of old.places) {
    const others = now.places.get(name);
    for (const [id, place] of units) add(place, others?.get(id));
  }
  for (const [name, units] of now.places) {
    const others = old.places.get(name);
    for (const [id, place] of units) if (!others?.has(id)) add(undefined, place);
  }
  return [...groups.values()].map((g) => ({
    old: old.blocks[g.old] ?? null,
    now: now.blocks[g.now] ?? null,
    oldAt: g.oldAt,
    nowAt: g.nowAt,
  }));
}

/** ElementKeys of a plan. */
export const listElementKeys = (plan: Plan): ReadonlySet<number> =>
  new Set(plan.parts.flatMap((part) => [...part.table.keys]));

import { encodePlan, type StoredPlan } from '../plan/plan-file.ts';
import type { Amount } from '../pricing/money.ts';

/** By what a frozen plan, worked out again, differs from what was frozen. */
export interface BaselineDrift {
  /** Versions of the calculation, then and now. */
  readonly engine: readonly [then: string, now: string];
  readonly total: readonly [then: Amount, now: Amount];
  /** Cells that are another, or only there then or now. */
  readonly cells: number;
}

/**
 * Holds a frozen plan against what its inputs give now; null where every figure is the same.
 * @param again the plan worked out again from the frozen inputs
 */
export function holdBaseline(frozen: StoredPlan, again: StoredPlan): BaselineDrift | null {
  const [a, b] = [encodePlan(frozen), encodePlan({ ...again, engine: frozen.engine })];
  if (a.length === b.length && a.every((byte, i) => byte === b[i])) return null;
  const [then, now] = [listCells(frozen), listCells(again)];
  const same = [...then].filter(([id, figures]) => now.get(id) === figures).length;
  const cells = new Set([...then.keys(), ...now.keys()]).size - same;
  return { engine: [frozen.engine, again.engine], total: [frozen.total, again.total], cells };
}

/** Figures of cells by what tells these apart. */
function listCells({ cells, lines, parts }: StoredPlan): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  cells.keys.forEach((key, i) => {
    const { section, path, lines: ids, code } = lines[cells.line[i]!]!;
    const part = cells.part[i]! < 0 ? '' : parts[cells.part[i]!]!;
    const base = JSON.stringify([key, part, section, path, ids, code]);
    let id = base;
    for (let n = 2; found.has(id); n++) id = `${base}#${n}`;
    found.set(id, [cells.state[i], cells.net[i], cells.rate[i], cells.amount[i]].join('|'));
  });
  return found;
}

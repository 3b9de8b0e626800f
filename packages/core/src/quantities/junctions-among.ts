import { isClassOrSubtype, properClassName } from '../elements/class-hierarchy.ts';
import { readText } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { RowAxis, WallJunction } from '../elements/site-data.ts';
import type { LineIndex } from '../geometry/line-index.ts';
import { compileTextMatcher } from '../scopes/text-matcher.ts';
import { foldText } from '../units/fold-text.ts';
import { ringToPoints } from './drawn-rooms.ts';
import { countJunctions, findJunctions, type JunctionCounts, type JunctionKind, type WallAxis } from './wall-junctions.ts'; // biome-ignore format: one module

const KIND_WORDS: Record<JunctionKind, WallJunction['kind']> = {
  corners: 'corner',
  tees: 'tee',
  crosses: 'cross',
  freeEnds: 'free end',
};

/** Junctions of some walls, as if there were no others: a list, the counts over all and by row. */
export interface JunctionsAmong {
  readonly list: readonly WallJunction[];
  readonly total: JunctionCounts;
  readonly byRow: ReadonlyMap<number, JunctionCounts>;
}

/** A middle line as the search for junctions takes it. */
export function toWallAxis({ points, widthM, bottomM, topM }: RowAxis): WallAxis {
  return { points: ringToPoints(points), widthM, bottomM, topM };
}

/** Finds the junctions among walls; rows are those of their axes. What is at hand already need not be made again. */
export function findJunctionsAmong(
  axes: readonly RowAxis[],
  walls = axes.map(toWallAxis),
  grid?: LineIndex,
): JunctionsAmong {
  const found = findJunctions(walls, grid);
  const { total, byWall } = countJunctions(found, walls.length);
  return {
    total,
    byRow: new Map(axes.map(({ row }, i) => [row, byWall[i]!])),
    list: found.map((j) => ({
      kind: KIND_WORDS[j.kind],
      at: j.at,
      owner: axes[j.owner]!.row,
      walls: j.walls.map((w) => axes[w]!.row),
    })),
  };
}

const known = new WeakMap<ElementTable, Map<string, JunctionsAmong>>();

/**
 * Junctions among the walls of a class, or of the types that a name means (case, accents and spaces do not matter; `*` and `?` are
 * wildcards). Worked out once per table and name.
 */
export function findJunctionsOf(table: ElementTable, classOrType: string): JunctionsAmong {
  const memory = known.get(table) ?? new Map<string, JunctionsAmong>();
  known.set(table, memory);
  let found = memory.get(classOrType);
  if (!found) {
    const isMeant = matchWalls(table, classOrType);
    found = findJunctionsAmong(table.wallAxes.filter(({ row }) => isMeant(row)));
    memory.set(classOrType, found);
  }
  return found;
}

function matchWalls(table: ElementTable, classOrType: string): (row: number) => boolean {
  if (properClassName(classOrType) !== undefined)
    return (row) => isClassOrSubtype(readText(table.ifcClass, row) ?? '', classOrType);
  const match = compileTextMatcher(classOrType);
  return (row) => {
    const type = readText(table.typeName, row);
    return type !== null && match(foldText(type));
  };
}

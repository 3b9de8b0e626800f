import { readText } from '../elements/columns.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { FaceLook } from '../elements/model-element.ts';
import { compileTextMatcher } from '../scopes/text-matcher.ts';
import { foldText } from '../units/fold-text.ts';

const hits = new WeakMap<ElementTable, Map<string, readonly boolean[]>>();

/** Which of a table's styles a pattern means; worked out once per pattern. */
function matchStyles(table: ElementTable, pattern: string): readonly boolean[] {
  const known = hits.get(table) ?? new Map<string, readonly boolean[]>();
  hits.set(table, known);
  let found = known.get(pattern);
  if (!found) {
    const match = compileTextMatcher(pattern);
    found = table.faces.style.pool.map((style) => match(foldText(style)));
    known.set(pattern, found);
  }
  return found;
}

/**
 * Area of a row's faces of a style (case, accents and spaces do not matter; `*` and `?` are wildcards) that look one way, or any
 * way; m2. Null if it has none.
 */
export function sumFaces(table: ElementTable, row: number, pattern: string, look: FaceLook | null): number | null {
  const isMeant = matchStyles(table, pattern);
  const { faces } = table;
  let sum: number | null = null;
  for (let i = faces.offset[row]!; i < faces.offset[row + 1]!; i++)
    if (isMeant[faces.style.index[i]!] && (look === null || readText(faces.look, i) === look))
      sum = (sum ?? 0) + faces.area[i]!;
  return sum;
}

import { readText } from '../elements/columns.ts';
import { DECIDED_PARTS, type DecidedPart, listDecidedParts } from '../elements/decided-parts.ts';
import type { ElementTable } from '../elements/element-table.ts';
import type { FinishSurface } from '../elements/model-element.ts';
import { listPartColumns, PART_NAMES } from '../recipes/part-names.ts';
import type { Condition } from '../scopes/condition.ts';
import { dimensionToUnitName } from '../units/dimension.ts';
import type { KindQuantity } from './list-element-kinds.ts';

/** Layers of one material, faces of one style or surfaces of one finish of some elements: what may be decided about on its own. */
export interface KindPart {
  readonly about: DecidedPart;
  /** Material, style or finish; null where a layer names none. */
  readonly name: string | null;
  /** Of finishes: what they are on. */
  readonly surface: FinishSurface | null;
  /** How many there are, and of how many elements. */
  readonly count: number;
  readonly elements: number;
  /** What they add up to, and of how many of them it is known. */
  readonly quantities: readonly KindQuantity[];
}

type GatheredPart = { -readonly [K in keyof KindPart]: KindPart[K] } & {
  readonly sums: number[][];
  /** Number of the element that it was met in last. */
  lastVisit: number;
};

/** Layers, face styles and finishes of elements, in the order in which they are met. */
export function listKindParts(tables: readonly ElementTable[], keys: ReadonlySet<number>): KindPart[] {
  return DECIDED_PARTS.flatMap((about) => {
    const found = new Map<string, GatheredPart>();
    let visits = 0;
    for (const table of tables) {
      const { offset, name, surface } = listDecidedParts(table, about);
      if (name.index.length === 0) continue;
      const columns = listPartColumns(table, about);
      const figures = PART_NAMES[about].map((n) => columns.get(n.name.toLowerCase())!);
      /** Parts by their text's number in this table, where that alone tells them. */
      const byPool = new Map<number, GatheredPart>();
      const findPart = (at: number): GatheredPart => {
        const text = readText(name, at);
        const id = `${surface?.[at] ?? ''}|${text ?? ''}`;
        const part = found.get(id) ?? { about, name: text, surface: surface?.[at] ?? null, count: 0, elements: 0, quantities: [], sums: figures.map(() => [0, 0]), lastVisit: 0 }; // biome-ignore format: one record
        found.set(id, part);
        return part;
      };
      for (let row = 0; row < table.count; row++) {
        if (!keys.has(table.keys[row]!)) continue;
        visits++;
        for (let at = offset[row]!; at < offset[row + 1]!; at++) {
          const pooled = surface ? -1 : name.index[at]!;
          const part = byPool.get(pooled) ?? findPart(at);
          if (pooled >= 0) byPool.set(pooled, part);
          part.count++;
          if (part.lastVisit !== visits) part.elements++;
          part.lastVisit = visits;
          figures.forEach((figure, i) => {
            if (Number.isNaN(figure[at]!)) return;
            part.sums[i]![0]! += figure[at]!;
            part.sums[i]![1]!++;
          });
        }
      }
    }
    return [...found.values()].map(({ sums, lastVisit: _, ...part }) => ({
      ...part,
      quantities: PART_NAMES[about].flatMap(({ name, dimension }, i) => {
        const [value, known] = sums[i]!;
        // Thicknesses of layers add up to nothing.
        return known! > 0 && name !== 'LayerThickness'
          ? [{ name, unit: dimensionToUnitName(dimension), value: value!, known: known! }]
          : [];
      }),
    }));
  });
}

/** What catches parts of that kind and name. */
export function scopeOfPart({ about, name, surface }: Pick<KindPart, 'about' | 'name' | 'surface'>): Condition {
  const field = about === 'face' ? 'style' : about;
  const of = surface ? { of: surface } : {};
  return name === null ? { field, ...of, op: 'missing' } : { field, ...of, op: 'is', value: name };
}

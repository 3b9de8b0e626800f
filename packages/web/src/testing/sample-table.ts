import { BARE_ELEMENT, buildElementTable, type ElementTable, type ModelElement } from '@tally/core';

/** An element of a model, for tests: without shape, materials or figures but those given. */
export const sampleElement = (
  globalId: string,
  name: string,
  ifcClass: string,
  storey: string | null,
  more: Partial<ModelElement> = {},
): ModelElement => ({
  ...BARE_ELEMENT,
  globalId,
  ifcClass,
  name,
  storey,
  quantities: [],
  ...more,
});

const length = (value: number) => ({ name: 'Length', basis: 'measured' as const, unit: 'm' as const, value, method: 'swept' as const, exactness: 'exact' as const }); // biome-ignore format: one figure

/** Three walls of a boathouse, by their keys 11 to 13, 3, 4 and 5 m long. */
export const sampleWalls = (): ElementTable =>
  buildElementTable(
    [3, 4, 5].map((metres, i) =>
      sampleElement(`wall-${i}`, `Wall ${i + 1}`, 'IfcWall', 'Ground floor', { quantities: [length(metres)] }),
    ),
    Int32Array.of(11, 12, 13),
  );

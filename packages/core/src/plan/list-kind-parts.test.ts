import { buildElementTable } from '../elements/element-table.ts';
import { evaluateScopeOverParts } from '../scopes/evaluate-scope.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { listKindParts, scopeOfPart } from './list-kind-parts.ts';

const layer = (material: string | null, area: number | null) => ({
  material,
  thickness: 0.1,
  position: null,
  weight: null,
  area,
  volume: area && area / 10,
});
const table = buildElementTable(
  [
    sampleElement({ globalId: 'a', layers: [layer('Board', 10), layer('Wool', 10), layer('Board', 10)] }),
    sampleElement({ globalId: 'b', layers: [layer('Board', null), layer(null, 4)] }),
    sampleElement({ globalId: 'c', layers: [layer('Brick', 7)] }),
    sampleElement({
      globalId: 'r',
      ifcClass: 'IfcSpace',
      finishes: { floor: 'Oak', wall: null, ceiling: 'Oak', skirting: null },
      quantities: { NetFloorArea: 12, GrossCeilingArea: 11 },
    }),
  ],
  Int32Array.of(1, 2, 3, 4),
);

describe('what of a kind may be decided about on its own', () => {
  const parts = listKindParts([table], new Set([1, 2, 4]));
  it('is each material of its layers and each finish of each surface, with how much there is', () =>
    expect(
      parts.map((p) => [p.about, p.surface, p.name, p.count, p.elements, p.quantities.map((q) => [q.name, q.value, q.known])]),
    ).toEqual([
      ['layer', null, 'Board', 3, 2, [['LayerArea', 20, 2], ['LayerVolume', 2, 2]]],
      ['layer', null, 'Wool', 1, 1, [['LayerArea', 10, 1], ['LayerVolume', 1, 1]]],
      ['layer', null, null, 1, 1, [['LayerArea', 4, 1], ['LayerVolume', 0.4, 1]]],
      ['finish', 'floor', 'Oak', 1, 1, [['FinishArea', 12, 1]]],
      ['finish', 'ceiling', 'Oak', 1, 1, [['FinishArea', 11, 1]]],
    ])); // biome-ignore format: a table
  it('is caught by its own scope, and nothing else of those elements is', () => {
    const all = listKindParts([table], new Set([1, 2, 3, 4]));
    for (const part of all) {
      const caught = evaluateScopeOverParts(scopeOfPart(part), table, part.about);
      expect(caught.reduce((n, hit) => n + hit, 0)).toBe(part.count);
    }
    expect(all).toHaveLength(6);
  });
});

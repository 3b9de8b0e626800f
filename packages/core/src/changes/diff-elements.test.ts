import { buildElementTable } from '../elements/element-table.ts';
import { sampleElement } from '../testing/sample-element.ts';
import { diffElements } from './diff-elements.ts';

describe('where elements stand', () => {
  const at = (from: number, to: number, more = {}) =>
    buildElementTable(
      [
        { ...sampleElement({ globalId: 'w', quantities: { Length: 4, ...more } }), box: [from, 0, 0, to, 0.2, 2.6] as const },
        { ...sampleElement({ globalId: 'still' }), box: [50, 0, 0, 51, 1, 1] as const },
      ],
      Int32Array.of(1, 2),
    ); // biome-ignore format: two elements
  it('is told as a move where all of one is elsewhere, and not where it only grew', () => {
    expect(diffElements(at(0, 4), at(2, 6)).changed).toEqual([expect.objectContaining({ key: 1, movedM: 2, attributes: {} })]); // biome-ignore format: one list
    expect(diffElements(at(0, 4), at(0, 6, { Length: 6 })).changed).toEqual([expect.objectContaining({ key: 1, movedM: 0, quantities: { Length: [4, 6] }, attributes: {} })]); // biome-ignore format: one list
    // Grown and pushed on: what all of it did.
    expect(diffElements(at(0, 4), at(1, 6, { Length: 5 })).changed[0]!.movedM).toBe(1);
  });
  it('is told as another shape where no figure says so', () => {
    const turned = buildElementTable(
      [
        { ...sampleElement({ globalId: 'w', quantities: { Length: 4 } }), box: [0, 0, 0, 0.2, 4, 2.6] as const },
        { ...sampleElement({ globalId: 'still' }), box: [50, 0, 0, 51, 1, 1] as const },
      ],
      Int32Array.of(1, 2),
    );
    expect(diffElements(at(0, 4), turned).changed[0]!.attributes).toEqual({ shape: ['4.00 x 0.20 x 2.60 m', '0.20 x 4.00 x 2.60 m'] }); // biome-ignore format: one change
  });
});

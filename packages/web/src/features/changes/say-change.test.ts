import type { ElementChange } from '@tally/core';
import { sayChange } from './say-change.ts';

const change = (more: Partial<ElementChange>): ElementChange => ({
  key: 1, sourceId: 's', what: 'changed', isIdentified: false, identity: 'w', label: 'Wall W1', ifcClass: 'IfcWall', storey: 'Ground', move: 0, causes: { extent: 0, quantity: 0, mapping: 0, price: 0, factors: 0, rounding: 0 }, quantities: {}, attributes: {}, movedM: 0, reads: [], split: null, ...more,
}); // biome-ignore format: one record

describe('what became of an element, in words', () => {
  it('tells the sizes first, then what its price reads', () => {
    const wall = change({
      quantities: { NetSideArea: [11.6, 25.52], GrossVolume: [2.3, 5.1], Length: [4, 8.8] },
      reads: ['NetSideArea'],
    });
    expect(sayChange(wall, 'metric')).toBe('longer by 4.80 m; side area, net 11.60 > 25.52 m²');
    // The rest on asking.
    expect(sayChange(wall, 'metric', true)).toContain('volume, gross 2.300 > 5.100 m³');
  });
  it('tells what is thinner, lower, gone or new', () => {
    expect(sayChange(change({ quantities: { Depth: [0.3, 0.25], Height: [2.8, 3] } }), 'metric')).toBe('higher by 0.20 m; thinner by 0.05 m'); // biome-ignore format: one text
    expect(sayChange(change({ quantities: { NetSideArea: [null, 12] }, reads: ['NetSideArea'] }), 'metric')).toBe('side area, net 12.00 m², none before'); // biome-ignore format: one text
    expect(sayChange(change({ quantities: { NetSideArea: [12, null] }, reads: ['NetSideArea'] }), 'metric')).toBe('no side area, net, 12.00 m² before'); // biome-ignore format: one text
  });
  it('tells another type, storey, room and place, and that it was known again', () => {
    const wall = change({ isIdentified: true, movedM: 2.4, attributes: { type: ['Block 100', 'Block 200'], 'Pset_WallCommon.FireRating': ['EI30', 'EI60'] } }); // biome-ignore format: one change
    expect(sayChange(wall, 'metric')).toBe('known again under another id; type Block 100 > Block 200; moved by 2.40 m');
    expect(sayChange(wall, 'metric', true)).toMatch(/Fire rating EI30 > EI60$/);
  });
  it('tells what it was split into, made of, or is a part of', () => {
    const wall = change({ split: { is: 'split', with: ['Wall W2', 'Wall W3'] } });
    expect(sayChange(wall, 'metric')).toBe('split into Wall W2, Wall W3');
    expect(sayChange(change({ what: 'came', split: { is: 'part', with: ['Wall W1'] } }), 'metric')).toBe('part of Wall W1'); // biome-ignore format: one text
    expect(sayChange(change({ split: { is: 'merged', with: ['Wall W2'] } }), 'metric')).toBe('made of Wall W2');
  });
  it('tells properties where nothing else is another', () => {
    expect(sayChange(change({ attributes: { 'Pset_WallCommon.FireRating': [null, 'EI60'] } }), 'metric')).toBe('Fire rating none > EI60'); // biome-ignore format: one text
    expect(sayChange(change({}), 'metric')).toBe('');
  });
});

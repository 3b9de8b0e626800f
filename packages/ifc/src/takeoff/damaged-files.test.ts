import { REVISIONS, writeBoathouse, writeWallModel } from '@tally/demo';
import { damageStep, makeChance } from '../testing/damage-file.ts';
import { readIfc } from './read-model.ts';
import { listMeshNeeds, takeOff } from './take-off.ts';

/** Takes a damaged file off as an import does, without meshes: its elements, or none if it is no model any more. */
function takeDamaged(text: string) {
  const read = readIfc(new TextEncoder().encode(text));
  if (!read.ok) return [];
  return takeOff(read.value, new Map(), [], listMeshNeeds(read.value).measured).elements;
}

describe('damaged files', () => {
  it('are taken off as far as they go, and no figure of theirs is none', () => {
    const [whole, small] = [writeBoathouse(REVISIONS.R1), writeWallModel(12)];
    const chance = makeChance(7);
    let taken = 0;
    for (let n = 0; n < 100; n++) {
      const elements = takeDamaged(damageStep(chance() < 0.05 ? whole : small, chance));
      taken += elements.length;
      const figures = elements.flatMap((e) => e.quantities.map((q) => ({ n, id: e.globalId, ...q })));
      expect(figures.filter((q) => !Number.isFinite(q.value))).toEqual([]);
    }
    expect(taken).toBeGreaterThan(1500);
  }, 60_000);
  it('with an opening drawn out of all range keep their wall; only its mesh can tell what is left of it', () => {
    const text = writeWallModel(1);
    // The width of the opening's outline.
    const profile = /#(\d+)=IFCRECTANGLEPROFILEDEF\(\.AREA\.,[^)]*\);/g;
    const last = [...text.matchAll(profile)][1]!;
    const broken = text.replace(last[0], last[0].replace(/,[\d.]+,([\d.]+)\);$/, ',1.E300,$1);'));
    expect(broken).not.toBe(text);
    const wall = takeDamaged(broken).find((e) => e.ifcClass.startsWith('IfcWall'))!;
    const read = readIfc(new TextEncoder().encode(broken));
    expect(read.ok && listMeshNeeds(read.value).net).toHaveLength(1);
    expect(wall.quantities.find((q) => q.name === 'NetSideArea' && q.basis === 'measured')).toBeUndefined();
  });
});

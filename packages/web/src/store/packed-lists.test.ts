import { buildElementTable, type ElementTable, listRoomFinishes } from '@tally/core';
import { sampleElement, sampleWalls } from '../testing/sample-table.ts';
import { openSeen, packSeen } from './packed-lists.ts';
import { applyPatch, findPatch } from './table-patch.ts';

/** Two walls that meet in a corner, as a model says it. */
const corner = (): ElementTable =>
  buildElementTable(
    [0, 1].map((i) => sampleElement(`wall-${i}`, `Wall ${i}`, 'IfcWall', null)),
    Int32Array.of(11, 12),
    {
      junctions: [{ kind: 'corner', at: [4, 0], owner: 0, walls: [0, 1] }],
      wallAxes: [
        { row: 0, isFirstLeft: true, points: [0, 0, 4, 0], widthM: 0.2, bottomM: 0, topM: 2.5 },
        { row: 1, isFirstLeft: true, points: [4, 0, 4, 3], widthM: 0.2, bottomM: 0, topM: 2.5 },
      ],
      wallOpenings: [{ at: [2, 0], wallM: 0.2, widthM: 0.9, bottomM: 0, topM: 2.1 }],
    },
  );
const seen = (table: ElementTable, plain = table) => ({ id: 'r', plain, table, named: [] });
const cross = (table: ElementTable, plain?: ElementTable) => openSeen(structuredClone(packSeen(seen(table, plain))));

describe('lists of small things in a table that crosses between threads', () => {
  it('arrive as they were sent, in the table of the file and in that of the project', () => {
    const { table, plain } = cross({ ...corner(), excluded: Uint8Array.of(0, 1) }, corner());
    expect(table).toEqual({ ...corner(), excluded: Uint8Array.of(0, 1) });
    expect(plain).toEqual(corner());
    expect({ ...table }.junctions[0]!.walls).toEqual([0, 1]);
    expect(listRoomFinishes(table)).toEqual([]);
  });
  it('cross as one text each, once for both tables that share them', () => {
    const own = corner();
    const packed = packSeen(seen({ ...own, excluded: Uint8Array.of(0, 1) }, own));
    expect(typeof packed.table.junctions!.text).toBe('string');
    expect(packed.table.junctions).toBe(packed.plain.junctions);
    const sent = structuredClone(packed);
    expect(sent.table.junctions).toBe(sent.plain.junctions);
  });
  it('are read once, and stay the same objects while they are not sent anew', () => {
    const before = packSeen(seen(corner()));
    const held = structuredClone(before);
    const opened = openSeen(held);
    expect(opened.table.wallAxes).toBe(opened.table.wallAxes);
    expect(opened.table.wallAxes).toBe(opened.plain.wallAxes);
    const own = corner();
    const changed = packSeen(seen({ ...own, excluded: Uint8Array.of(0, 1) }, own));
    const same = { ...changed, table: { ...before.table, excluded: Uint8Array.of(0, 1) }, plain: before.plain };
    const after = openSeen(applyPatch(held, structuredClone(findPatch(before, same))) as typeof held);
    expect(after.table.excluded).toEqual(Uint8Array.of(0, 1));
    expect(after.table.wallAxes).toBe(opened.table.wallAxes);
  });
  it('of a table without any are empty', () => {
    expect(cross(sampleWalls()).table.junctions).toEqual([]);
  });
});

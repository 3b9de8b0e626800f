import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import {
  BARE_ELEMENT,
  buildElementTable,
  type ElementTable,
  encodeElementTable,
  type PricingRule,
  runPipeline,
} from '@tally/core';
import type { CountingTable } from './plan-messages.ts';
import { RuleShifts } from './rule-shifts.ts';

const folder = mkdtempSync(join(tmpdir(), 'tally-shifts-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** So many walls and doors. */
function makeTable(walls: number, doors: number): ElementTable {
  const elements = Array.from({ length: walls + doors }, (_, i) => ({
    ...BARE_ELEMENT,
    quantities: [],
    globalId: `e${i}`,
    name: `e${i}`,
    ifcClass: i < walls ? 'IfcWall' : 'IfcDoor',
  }));
  return buildElementTable(
    elements,
    Int32Array.from(elements, (_, i) => i + 1),
  );
}
/** A table as it is kept: named by its content. */
function keep(table: ElementTable): string {
  const packed = gzipSync(encodeElementTable(table));
  const path = join(folder, `${createHash('sha256').update(packed).digest('hex')}.table`);
  writeFileSync(path, packed);
  return path;
}
const rules: PricingRule[] = ['IfcWall', 'IfcDoor'].map((value) => ({
  id: value,
  name: value,
  scope: { field: 'class', op: 'is', value },
  section: 's',
  item: 'X',
  driver: 'Count',
}));
const planOf = (table: ElementTable) =>
  runPipeline({ currency: 'EUR', items: [], assemblies: [], sections: [], rules, pins: [] }, [
    { sourceId: 'm', table },
  ]);
const counting = (before: string | null): CountingTable[] => [
  { sourceId: 'm', sourceName: 'Model', revisionId: 'r', path: '', pictures: null, samePlaces: [], before: before === null ? null : { path: before, pictures: null } },
]; // biome-ignore format: one table

describe('rules against the last revision', () => {
  it('are told where they catch another number, and tables are read only once', () => {
    const shifts = new RuleShifts();
    const path = keep(makeTable(20, 20));
    let read = 0;
    const check = () => shifts.check(planOf(makeTable(36, 4)), rules, counting(path), '', (table) => {
      read++;
      return table;
    }); // biome-ignore format: one call
    expect(check().map((f) => [f.code, f.cause])).toEqual([['rule-shifted', 'IfcDoor']]);
    expect(check()).toHaveLength(1);
    expect(read).toBe(1);
  });
  it('are not told of a first revision, nor where the file of the last is gone or damaged', () => {
    const shifts = new RuleShifts();
    const same = (table: ElementTable) => table;
    expect(shifts.check(planOf(makeTable(36, 4)), rules, counting(null), '', same)).toEqual([]);
    expect(shifts.check(planOf(makeTable(36, 4)), rules, counting(join(folder, 'gone')), '', same)).toEqual([]);
    const damaged = join(folder, `${'0'.repeat(64)}.table`);
    writeFileSync(damaged, 'no table');
    expect(shifts.check(planOf(makeTable(36, 4)), rules, counting(damaged), '', same)).toEqual([]);
  });
});

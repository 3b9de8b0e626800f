import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { REVISIONS, writeBoathouse, writeLodgeModel } from '@tally/demo';
import { readSheets } from '@tally/files';

const root = join(__dirname, '../../..');
const folder = mkdtempSync(join(tmpdir(), 'tally-cli-'));
const file = (name: string, content: string) => {
  writeFileSync(join(folder, name), content);
  return join(folder, name);
};
const R1 = file('R1.ifc', writeBoathouse(REVISIONS.R1));
const R2 = file('R2.ifc', writeBoathouse(REVISIONS.R2));
const TEMPLATE = join(root, 'demo/template.json');

// biome-ignore lint/suspicious/noExplicitAny: the answer is looked into field by field
function tally(...args: string[]): Promise<{ code: number; json: any; stderr: string }> {
  return new Promise((resolve) => {
    execFile(
      process.execPath,
      ['scripts/tally.mjs', ...args],
      { cwd: root, maxBuffer: 1e9 },
      (error, stdout, stderr) => {
        resolve({
          code: error ? ((error as { code?: number }).code ?? -1) : 0,
          json: stdout === '' ? null : JSON.parse(stdout),
          stderr,
        });
      },
    );
  });
}

describe('the tally command', () => {
  it('takes a model off', async () => {
    const { code, json } = await tally('takeoff', R1);
    expect(code).toBe(0);
    expect(json.file).toEqual({ schema: 'IFC4', lengthUnit: 'mm' });
    const wall = json.elements.find((e: { name: string }) => e.name === 'Outer wall north G2');
    expect(Object.keys(wall)).toEqual(
      expect.arrayContaining([
        'globalId',
        'ifcClass',
        'name',
        'typeName',
        'tag',
        'storey',
        'space',
        'parent',
        'host',
        'materials',
        'quantities',
        'layers',
        'openings',
        'properties',
      ]),
    );
    expect(wall.quantities).toContainEqual({
      name: 'NetSideArea',
      value: expect.closeTo(15.84, 6),
      unit: 'm2',
      basis: 'measured',
      method: 'swept-openings',
      exactness: 'exact',
    });
    const counts: Record<string, number> = {};
    for (const { code } of json.findings) counts[code] = (counts[code] ?? 0) + 1;
    // Once each: the planted faults. Once a pair: columns and beams that stand in the walls. Once an element: layers and rooms.
    expect(counts).toEqual({
      'duplicate-global-id': 1,
      'no-storey': 1,
      coincident: 1,
      'stated-differs': 1,
      'floor-without-room': 1,
      overlap: 97,
      'density-missing': 20,
      'room-without-finish': 4,
    });
    expect(json.junctions).toEqual({ corners: 11, tees: 29, crosses: 0, freeEnds: 7 });
    expect(wall.junctions).toEqual({ corners: 0, tees: 0, crosses: 0, freeEnds: 0 });
    expect(json.rooms.find((r: { name: string }) => r.name === 'Club room')).toMatchObject({
      storey: 'Upper floor',
      finishes: { floor: 'Oak boards', wall: 'Paint', ceiling: null, skirting: null },
    });
    expect(json.storeys[1]).toEqual({
      name: 'Ground floor',
      elevation: 0,
      gfa: expect.closeTo(414.72, 6),
      gfaMethod: 'slabs',
    });
  });
  it('looks at chosen walls only, and cuts an element at the storeys', async () => {
    const among = await tally('takeoff', R1, '--junctions', 'Block wall 200');
    // The block walls stand like an H: two lines in two pieces each and one wall between them.
    expect(among.json.junctions).toEqual({ corners: 0, tees: 2, crosses: 0, freeEnds: 4 });
    expect(await tally('takeoff', R1, '--junctions', 'Curtain')).toMatchObject({
      code: 1,
      json: { problem: { code: 'junctions-unknown' } },
    });
    const column = among.json.elements.find((e: { name: string }) => e.name === 'Entrance column');
    const cut = await tally('takeoff', R1, '--slice', column.globalId);
    expect(cut.json.slices).toEqual([
      {
        storey: 'Ground floor',
        elevation: 0,
        area: expect.closeTo(0.0962113, 6),
        perimeter: expect.closeTo(1.099557, 5),
      },
    ]);
  });
  it('prices a model; the lines add up to the total, in the file too', async () => {
    const out = join(folder, 'plan.csv');
    const { code, json } = await tally('price', R1, '--template', TEMPLATE, '--out', out);
    expect(code).toBe(0);
    expect(json).toMatchObject({
      currency: 'EUR',
      total: 560149.12,
      incomplete: true,
      completeness: { priced: 415, partly: 0, unpriced: 16, leftOut: 10 },
    });
    const cents = json.lines.reduce(
      (sum: number, l: { amount: number | null }) => sum + Math.round((l.amount ?? 0) * 100),
      0,
    );
    expect(cents).toBe(56014912);
    expect(json.lines.find((l: { item: string }) => l.item === 'M-RACK')).toMatchObject({
      rate: null,
      amount: null,
      quantity: 8,
    });
    // Two depths of its scale: no one rate, but each of them told.
    expect(json.lines.find((l: { item: string }) => l.item === 'P-DIG')).toMatchObject({
      rate: null,
      rates: [16.5, 21],
    });
    expect(json.unpricedGlobalIds).toHaveLength(16);
    expect(readFileSync(out, 'utf8').trim().split('\r\n').at(-1)).toContain('560149.12');
  });
  // biome-ignore lint/suspicious/noExplicitAny: the answer is looked into field by field
  const cents = (causes: any): number =>
    Object.values(causes as Record<string, number>).reduce((sum, c) => sum + Math.round(c * 100), 0);
  it('compares two models, and tells why the total moved', async () => {
    const { code, json } = await tally('compare', R1, R2, '--template', TEMPLATE);
    expect(code).toBe(0);
    expect(json).toMatchObject({ from: 560149.12, to: 633741.17, move: 73592.05, doubtful: [] });
    expect(Object.keys(json.causes)).toEqual(['extent', 'quantity', 'mapping', 'price', 'factors', 'rounding']);
    expect([cents(json.causes), json.causes.price, json.causes.factors]).toEqual([7359205, 0, 0]);
    for (const group of json.groups) expect(cents(group.causes)).toBe(Math.round(group.move * 100));
    const sum = (of: 'from' | 'to' | 'move') => json.groups.reduce((s: number, g: Record<string, number>) => s + Math.round(g[of]! * 100), 0); // biome-ignore format: one sum
    expect([sum('from'), sum('to'), sum('move')]).toEqual([56014912, 63374117, 7359205]);
    const { added, removed, changed, rematched } = json.elements;
    expect([added.length, removed.length, changed.length, rematched.length]).toEqual([52, 0, 34, 3]);
    for (const [old, now, score] of rematched) expect([old !== now, score > 0.5]).toEqual([true, true]);
  });
  it('compares two templates on one model: dearer mortar is a matter of price alone', async () => {
    const template = JSON.parse(readFileSync(TEMPLATE, 'utf8'));
    const { code: item, rate } = template.items.find((i: { code: string; rate: string | null }) => i.code === 'L-MASON' || i.rate !== null); // biome-ignore format: one item
    const items = template.items.map((i: { code: string }) => (i.code === item ? { ...i, rate: String(Number(rate) + 1) } : i)); // biome-ignore format: one change
    const dearer = file('dearer.json', JSON.stringify({ ...template, items }));
    const how = ['--template', TEMPLATE, '--new-template', dearer, '--group-by', 'kind'];
    const { json } = await tally('compare', R1, R1, ...how);
    expect(json.move).toBeGreaterThan(0);
    expect(json.causes).toEqual({ extent: 0, quantity: 0, mapping: 0, price: json.move, factors: 0, rounding: 0 });
    const back = await tally('compare', R1, R1, '--template', dearer, '--new-template', TEMPLATE);
    expect(back.json.causes).toMatchObject({ price: -json.move });
    expect((await tally('compare', R1, R1, ...how.slice(0, 4), '--group-by', 'colour')).json).toMatchObject({
      problem: { code: 'field-unknown' },
    });
  });
  it('freezes a plan with all that it is made of, and compares with it', async () => {
    const out = join(folder, 'B.tally');
    const { code, json } = await tally('baseline', R1, '--template', TEMPLATE, '--out', out);
    expect(code).toBe(0);
    expect(json).toMatchObject({ total: 560149.12, currency: 'EUR', elements: 441 });
    const [since, direct] = [await tally('compare', out, R2), await tally('compare', R1, R2, '--template', TEMPLATE)];
    expect(since.json).toEqual(direct.json);
    // Equal plans, equal bytes.
    const first = readFileSync(out);
    await tally('baseline', R1, '--template', TEMPLATE, '--out', out);
    const strip = (bytes: Buffer) => gunzipSync(bytes);
    expect(strip(readFileSync(out)).equals(strip(first))).toBe(true);
    const cut = join(folder, 'cut.tally');
    writeFileSync(cut, first.subarray(0, 5000));
    expect(await tally('compare', cut, R2)).toMatchObject({ code: 1, json: { problem: { code: 'baseline-unreadable' } } }); // biome-ignore format: one test
    const nowhere = await tally('baseline', R1, '--template', TEMPLATE, '--out', join(folder, 'none/B.tally'));
    expect(nowhere).toMatchObject({ code: 1, json: { problem: { code: 'file-not-written' } } });
  });
  it('checks a formula', async () => {
    expect(await tally('formula', 'NetSideArea * 60 each/m2', '--unit', 'each')).toMatchObject({
      code: 0,
      json: { ok: true, unit: 'each' },
    });
    expect(await tally('formula', 'NetSideArea', '--unit', 'm3')).toMatchObject({
      code: 1,
      json: { ok: false, unit: 'm2', problem: { code: 'formula-dimension' } },
    });
  });
  it('gives the figure of a formula for an element, in the unit that was asked for', async () => {
    const { json: taken } = await tally('takeoff', R1);
    const wall = taken.elements.find((e: { name: string }) => e.name === 'Outer wall north G2');
    const area = wall.quantities.find(
      (q: { name: string; basis: string }) => q.name === 'NetSideArea' && q.basis === 'measured',
    );
    const on = ['--model', R1, '--element', wall.globalId];
    const { code, json } = await tally('formula', 'NetSideArea * 0.18 l/m2', '--unit', 'ml', ...on);
    expect([code, json.unit]).toEqual([0, 'm3']);
    expect(json.value).toBeCloseTo(area.value * 180, 6);
    expect(await tally('formula', 'RidgeLength', '--unit', 'm', ...on)).toMatchObject({
      code: 1,
      json: { ok: false, value: null, problem: { code: 'formula-quantity-missing' } },
    });
    expect(await tally('formula', 'Length', '--unit', 'm', '--model', R1, '--element', 'none')).toMatchObject({
      code: 1,
      json: { problem: { code: 'element-unknown' } },
    });
  });
  it('prices with the rates of a sheet, and saves the plan as a spreadsheet whose sums are formulas', async () => {
    const out = join(folder, 'plan.xlsx');
    const sheet = file('yard.csv', 'Code;Price\nM-LOCK;130,00\nNONE;1,00\n');
    const { json } = await tally('price', R1, '--template', TEMPLATE, '--book', sheet, '--out', out);
    // 2.00 more for each of 24 lockers.
    expect(json.total).toBe(560197.12);
    expect(json.book).toEqual({ changed: 1, notInTemplate: 1, skipped: [], decimal: 'comma' });
    const read = await readSheets(out);
    if (!read.ok) throw new Error(read.problem.message);
    const total = read.value[0]!.rows.at(-1)!;
    expect(total[8]).toBe(560197.12);
    expect(total[0]).toBe(
      'Total so far: 16 of 431 elements are not fully priced (8 Furniture, 4 Space, 2 Window, 2 Member)',
    );
    expect(await tally('price', R1, '--template', TEMPLATE, '--book', file('bad.csv', 'a;b\n'))).toMatchObject({
      code: 1,
      json: { problem: { code: 'sheet-without-headings' } },
    });
  });
  it('lists what has to be bought', async () => {
    const template = JSON.parse(readFileSync(TEMPLATE, 'utf8'));
    const locker = template.items.find((i: { code: string }) => i.code === 'M-LOCK');
    locker.soldAs = { pack: 9, packPrice: '1000.00' };
    const { code, json } = await tally('purchases', R1, '--template', file('packs.json', JSON.stringify(template)));
    expect(code).toBe(0);
    // 24 lockers are three packs of nine.
    expect(json.items.find((i: { code: string }) => i.code === 'M-LOCK')).toMatchObject({
      unit: 'each',
      net: 24,
      waste: 0,
      toBuy: 27,
      packs: 3,
      surplus: 3,
      splices: 0,
      amount: 3000,
    });
  });
  it('answers bad input with its problem, wrong use with the usage, never with a stack', async () => {
    const bad = [
      await tally('takeoff', join(folder, 'none.ifc')),
      await tally('takeoff', file('empty.ifc', '')),
      await tally('price', R1, '--template', file('t.json', '{')),
      await tally('price', R1, '--template', file('u.json', '{}')),
    ];
    expect(bad.map((b) => [b.code, b.json.problem.code])).toEqual([
      [1, 'file-unreadable'],
      [1, 'file-empty'],
      [1, 'template-not-json'],
      [1, 'template-invalid'],
    ]);
    const wrong = [
      await tally(),
      await tally('weigh'),
      await tally('takeoff'),
      await tally('price', R1),
      await tally('takeoff', R1, '--colour', 'red'),
      await tally('takeoff', R1, R2),
    ];
    for (const { code, json, stderr } of wrong) {
      expect([code, json]).toEqual([2, null]);
      expect(stderr).toContain('Use:');
    }
    for (const { stderr } of [...bad, ...wrong]) expect(stderr).not.toMatch(/^\s+at /m);
  });
});

describe('what the command says of a mapping', () => {
  const STARTER = join(root, 'demo/starter.json');
  const LODGE = file('lodge.ifc', writeLodgeModel());
  it('prices any building by the starter, and finds in it what stands twice in one place, with the money', async () => {
    const lodge = (await tally('price', LODGE, '--template', STARTER)).json;
    expect([lodge.completeness, lodge.unpricedGlobalIds]).toEqual([{ unpriced: 0, partly: 0, priced: 63, leftOut: 0 }, []]); // biome-ignore format: one line
    const codes = (json: { findings: { code: string }[] }) => json.findings.map((f) => f.code);
    expect(codes(lodge)).not.toContain('double-count');
    const boathouse = (await tally('price', R1, '--template', TEMPLATE)).json;
    expect(boathouse.findings.filter((f: { code: string }) => /^(double|price|rule)/.test(f.code))).toMatchObject([
      { code: 'double-count', money: 2037.22, cause: 'IfcColumn and IfcColumn' },
      { code: 'rule-idle', cause: 'walls-rendered' },
      { code: 'rule-idle', cause: 'partitions-acoustic' },
    ]);
  });
  it('explains an element: who decides, who lost and why, why it is not priced', async () => {
    const { elements } = (await tally('takeoff', R1)).json;
    const flight = elements.find((e: { ifcClass: string }) => e.ifcClass === 'IfcStairFlight');
    const { json } = await tally('explain', R1, '--template', TEMPLATE, '--element', flight.globalId);
    const structure = json.sections.find((s: { section: string }) => s.section === 'structure');
    expect(structure).toEqual({
      section: 'structure',
      winner: { kind: 'order', id: 'stair-parts', name: expect.any(String), rank: 3 },
      others: [],
      parts: [],
      why: { code: 'left-out', message: 'Left out: Priced with the stair as a whole' },
    });
    const unknown = await tally('explain', R1, '--template', TEMPLATE, '--element', 'nobody');
    expect([unknown.code, unknown.json.problem.code]).toEqual([1, 'element-unknown']);
  });
  it('derives an amount: each line with its formula, its figures, waste and rate', async () => {
    const { elements } = (await tally('takeoff', R1)).json;
    const wall = elements.find((e: { name: string }) => e.name === 'Block wall G4');
    const { json } = await tally('derive', R1, '--template', TEMPLATE, '--element', wall.globalId);
    // A wall of 7.05 m x 3.40 m without an opening.
    const area = 7.05 * 3.4;
    const lines = json.lines.filter((l: { section: string }) => l.section === 'walls');
    expect(lines.map((l: { item: string; amount: number }) => [l.item, l.amount])).toEqual([
      ['M-BLK', Math.round(area * 10 * 1.04 * 315) / 100],
      ['M-MOR', Math.round(((area * 22) / 25) * 1.06 * 640) / 100],
      ['M-TIE', Math.round(area * 2.5 * 1.05 * 38) / 100],
      ['L-MAS', Math.round(area * 0.75 * 4610) / 100],
    ]);
    expect(lines[0]).toMatchObject({
      path: ['A-BLOCK'],
      quantity: { formula: 'Driver * 10 each/m2', withFigures: '23.97 m2 * 10 each/m2' },
      rate: { value: 3.15, source: 'Price list spring 2026', date: '2026-01-15' },
    });
    expect(lines[0].quantity.inputs).toMatchObject([{ name: 'NetSideArea', basis: 'measured', method: 'swept' }]);
    const none = await tally('derive', R1, '--template', TEMPLATE, '--element', wall.globalId, '--item', 'GONE');
    expect([none.code, none.json.problem.code]).toEqual([1, 'item-unknown']);
  });
  it('groups a plan at will: what is in a group adds up to it, and the whole is the same', async () => {
    interface Group {
      readonly amount: number;
      readonly groups: readonly Group[];
      readonly lines: readonly { readonly amount: number | null }[];
    }
    const cents = (amount: number | null) => Math.round((amount ?? 0) * 100);
    const check = (group: Group): void => {
      const inside = [...group.groups.map((g) => g.amount), ...group.lines.map((l) => l.amount)];
      expect(inside.reduce<number>((sum, a) => sum + cents(a), 0)).toBe(cents(group.amount));
      group.groups.forEach(check);
    };
    for (const by of ['storey,kind', 'supplier,section,type']) {
      const { json } = await tally('price', R1, '--template', TEMPLATE, '--group-by', by);
      check({ amount: json.total, groups: json.groups, lines: [] });
    }
    const wrong = await tally('price', R1, '--template', TEMPLATE, '--group-by', 'storey,colour');
    expect([wrong.code, wrong.json.problem.message]).toEqual([1, 'A plan cannot be grouped by "colour".']);
  });
  it('counts by class what is priced, and in which sections', async () => {
    const { classes, storeys } = (await tally('completeness', R1, '--template', TEMPLATE)).json;
    const walls = classes.filter((c: { ifcClass: string }) => /^IfcWall/.test(c.ifcClass));
    expect(walls.every((c: { sideAreaM2: { priced: number } }) => c.sideAreaM2.priced > 0)).toBe(true);
    // Every element stands in a storey or in none, and in a class.
    const count = (rows: { priced: number; partly: number; unpriced: number; leftOut: number }[]) => rows.reduce((n, r) => n + r.priced + r.partly + r.unpriced + r.leftOut, 0); // biome-ignore format: one line
    expect(count(storeys)).toBe(count(classes));
    const doors = classes.find((c: { ifcClass: string }) => c.ifcClass === 'IfcDoor');
    const all = doors.priced + doors.partly + doors.unpriced;
    expect(doors.sections.openings).toEqual({ priced: all, missing: 0 });
    expect(doors.sections.joinery.priced + doors.sections.joinery.missing).toBe(all);
    expect(classes.map((c: { ifcClass: string }) => c.ifcClass)).toEqual([...new Set(classes.map((c: { ifcClass: string }) => c.ifcClass))].sort()); // biome-ignore format: one line
  });
  it('tells what of the book the codes of a model mean', async () => {
    const { json } = await tally('suggest-codes', R1, '--template', TEMPLATE);
    expect(json.withCode).toBeGreaterThan(0);
    const windows = json.codes.find((c: { code: string }) => c.code === 'B2020');
    // What is of the class of windows in the demo's book.
    expect(windows.targets.map((t: { by: string }) => t.by)).toEqual(windows.targets.map(() => 'class'));
    expect(windows.targets.length).toBeGreaterThan(0);
  });
});

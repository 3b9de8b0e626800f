import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  buildElementTable,
  checkAssembly,
  listQuantityNames,
  type ModelElement,
  type Quantity,
  readTemplate,
  templateToBasis,
  tryAssembly,
} from '@tally/core';

const template = readTemplate(JSON.parse(readFileSync(join(import.meta.dirname, '../template.json'), 'utf8')));
if (!template.ok) throw new Error(template.problem.message);
const basis = templateToBasis(template.value);

const UNITS: Record<string, Quantity['unit']> = { Corners: 'each', Tees: 'each', Jambs: 'each', GrossSideArea: 'm2' }; // biome-ignore format: a table
function element(
  figures: Record<string, number>,
  openings: [number, number][] = [],
  properties: ModelElement['properties'] = {},
  key = 1,
) {
  const made: ModelElement = {
    globalId: 'e', ifcClass: 'IfcWall', name: 'E', typeName: null, tag: null, storey: null, space: null, parent: null, host: null,
    zones: [], materials: [], codes: [], layers: [], faces: [], finishes: null, box: null, properties,
    quantities: Object.entries(figures).map(([name, value]) => ({ name, value, unit: UNITS[name] ?? 'm', basis: 'measured', method: 'swept' })),
    openings: openings.map(([width, height], i) => ({ globalId: `o${i}`, width, height, area: width * height, perimeter: 2 * (width + height), sill: 0, filledBy: null })),
  }; // biome-ignore format: an element in short
  return buildElementTable([made], Int32Array.of(key));
}

/** Net quantities by item, in the order of the lines. */
function nets(code: string, driver: string, table: ReturnType<typeof element>): [string, number | null][] {
  const assembly = basis.assemblies.find((a) => a.code === code)!;
  return tryAssembly(assembly, { driver }, basis, table, 0)
    .filter((l) => l.isPart)
    .map((l) => [l.code, l.net === null ? null : Number(l.net.toFixed(6))]);
}

describe('the book of the demo', () => {
  it('a timber wall 2.5 m high that meets a lower one of 2.4 m at a corner, and ends free', () => {
    const axis = (row: number, topM: number) => ({ row, isFirstLeft: true, points: [0, 0, 1, 0], widthM: 0.1, bottomM: 0, topM }); // biome-ignore format: short
    const table = {
      ...element({ Length: 6, Height: 2.5, GrossSideArea: 15, Jambs: 0 }),
      wallAxes: [axis(0, 2.5), axis(1, 2.4)],
      junctions: [
        { kind: 'corner' as const, at: [0, 0] as const, owner: 0, walls: [0, 1] },
        { kind: 'free end' as const, at: [6, 0] as const, owner: 0, walls: [0] },
      ],
    };
    expect(nets('A-TWALL', '15 m2', table).slice(0, 2)).toEqual([
      ['M-STUD', 27.5], // 11 studs x 2.5 m
      ['M-STUD', 4.8], // two more of 2.4 m
    ]);
  });
  it('a book of some size, all of it usable', () => {
    expect(basis.items.length).toBeGreaterThanOrEqual(150);
    expect(basis.assemblies.length).toBeGreaterThanOrEqual(30);
    for (const assembly of basis.assemblies) {
      const { problem, lines, parameters } = checkAssembly(assembly, basis, listQuantityNames());
      const faults = [
        problem,
        ...parameters,
        ...lines.flatMap((l) => [l.run, l.quantity, l.when, l.piece, ...Object.values(l.parameters)]),
      ];
      expect([assembly.code, faults.filter((f) => f !== null)]).toEqual([assembly.code, []]);
    }
  });
});

import {
  buildElementTable,
  buildTakeoffTable,
  findJunctions,
  frameToMatrix,
  listTakeoffFields,
  measureSharedBodies,
  meshSweptSolid,
  type PlacedBody,
  type WallAxis,
} from '@tally/core';
import { makeElements } from './pricing.ts';

const SIZES = [10_000, 40_000] as const;

/** Rooms of four walls in rows, each wall drawn once. */
function makeWalls(count: number): WallAxis[] {
  return Array.from({ length: count }, (_, i): WallAxis => {
    const room = Math.floor(i / 4);
    const [x, y] = [(room % 100) * 6, Math.floor(room / 100) * 5];
    const corners = [[x, y], [x + 5, y], [x + 5, y + 4], [x, y + 4]] as const; // biome-ignore format: one outline
    return { points: [corners[i % 4]!, corners[(i + 1) % 4]!], widthM: 0.2, bottomM: 0, topM: 3 };
  });
}

function toBody({ points: [a, b], bottomM, topM }: WallAxis, i: number): PlacedBody {
  const [min, max] = [Math.min, Math.max].map((f) => [f(a![0], b![0]), f(a![1], b![1])] as const);
  const low = [min![0] - 0.1, min![1] - 0.1] as const;
  const high = [max![0] + 0.1, max![1] + 0.1] as const;
  const [dx, dy] = [high[0] - low[0], high[1] - low[1]];
  const placement = frameToMatrix([low[0] + dx / 2, low[1] + dy / 2, bottomM]);
  return {
    row: i,
    globalId: `w${i}`,
    ifcClass: 'IfcWall',
    label: `w${i}`,
    group: 'wall',
    spaceKind: null,
    wholes: [],
    min: [...low, bottomM],
    max: [...high, topM],
    volumeM3: dx * dy * (topM - bottomM),
    widthM: 0.2,
    shape: () => ({
      cuts: [],
      mesh: meshSweptSolid({
        profile: { kind: 'rectangle', x: dx, y: dy, radius: 0 },
        placement,
        direction: [0, 0, 1],
        depth: topM - bottomM,
      }),
    }),
  };
}

const time = (task: () => unknown): number => {
  const start = performance.now();
  task();
  return performance.now() - start;
};

/**
 * Growth of the searches for junctions and overlaps from 10,000 to 40,000 walls, against that of a sort of as many numbers; and a
 * takeoff table of 100,000 rows against building its element table.
 */
export async function benchSearch(): Promise<void> {
  const [small, large] = SIZES.map(makeWalls);
  const bodies = [small!, large!].map((walls) => walls.map(toBody));
  const numbers = SIZES.map((n) => Array.from({ length: n * 20 }, (_, i) => (i * 7919) % 1_000_003));
  const growth = (name: string, run: (i: 0 | 1) => unknown) => {
    run(0);
    const [a, b] = [time(() => run(0)), time(() => run(1))];
    console.log(`${name}: ${(b / a).toFixed(2)} x from ${SIZES[0]} to ${SIZES[1]}`);
  };
  growth('sort (n log n), the baseline', (i) => [...numbers[i]!].sort((a, b) => a - b));
  growth('junctions', (i) => findJunctions(i === 0 ? small! : large!));
  growth('overlaps', (i) => measureSharedBodies(bodies[i]!));

  const elements = Array.from({ length: 5 }, () => makeElements()).flat();
  let table = buildElementTable([]);
  const build = time(() => {
    table = buildElementTable(
      elements,
      Int32Array.from(elements, (_, i) => i + 1),
    );
  });
  const fields = listTakeoffFields([table], 'element');
  const spec = {
    row: 'element' as const,
    scope: null,
    columns: ['name', 'type', 'count', 'q:Length', 'q:NetSideArea', 'q:NetVolume'],
    groups: ['storey', 'class'],
    sort: null,
    isBundled: false,
    digitsOf: () => 2,
  };
  const plain = time(() => buildTakeoffTable([table], fields, spec));
  const bundled = time(() =>
    buildTakeoffTable([table], fields, { ...spec, columns: spec.columns.slice(1), isBundled: true }),
  );
  console.log(`takeoff table of ${elements.length} rows: ${(plain / build).toFixed(2)} x its element table`);
  console.log(`the same bundled: ${(bundled / build).toFixed(2)} x`);
}

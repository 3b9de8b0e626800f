import {
  applyProjectLayer,
  assignElementKeys,
  buildElementTable,
  type ElementTable,
  explainMove,
  PipelineMemory,
  type PricingBasis,
  type ProjectLayer,
  runPipeline,
  toMoveState,
} from '@tally/core';
import { makeElements } from './pricing.ts';
import { makeTypeRules, time } from './recompute.ts';

const LINES = 12;
const ASSEMBLIES = 20;
export const NOTHING: ProjectLayer = {
  attributes: new Map(),
  finishes: new Map(),
  wallFinishes: new Map(),
  zones: new Map(),
  leftOut: new Set(),
  materials: [],
  facts: new Map(),
  choices: {},
};

/** Twelve lines on each of 20,000 elements; one of them reads an attribute, one runs once for the project. */
export function makeBasis(): PricingBasis {
  const items = Array.from({ length: ASSEMBLIES * LINES }, (_, i) => ({
    code: `I${i}`,
    description: `Item ${i}`,
    kind: 'material' as const,
    unit: 'm2',
    rate: (1 + i * 0.37).toFixed(2),
    wastePercent: i % 8,
  }));
  const line = (a: number, l: number) => ({
    item: `I${a * LINES + l}`,
    quantity: l === 1 ? 'if(has("Grade"), Driver * 2, Driver)' : `Driver * ${1 + l / 10} + Length * 0.3 m`,
    ...(l === 0 && a === 0 ? { quantity: 'Driver * 0.1', per: 'project' as const } : {}),
  });
  return {
    currency: 'EUR',
    items,
    assemblies: Array.from({ length: ASSEMBLIES }, (_, a) => ({
      code: `A${a}`,
      description: `Assembly ${a}`,
      unit: 'm2',
      lines: Array.from({ length: LINES }, (_, l) => line(a, l)),
    })),
    sections: [{ id: 's', name: 'S' }],
    rules: makeTypeRules(ASSEMBLIES),
    pins: [],
  };
}

interface State {
  readonly basis: PricingBasis;
  readonly layer: ProjectLayer;
}

/** What one change costs, in cells and in time, against a run that remembers nothing. */
export async function benchGround(): Promise<void> {
  const plain = buildElementTable(makeElements());
  const table: ElementTable = { ...plain, keys: assignElementKeys(null, plain, 1).keys };
  const first: State = { basis: makeBasis(), layer: NOTHING };
  const sourcesOf = ({ layer }: State) => [{ sourceId: 's', table: applyProjectLayer(table, layer) }];
  const median = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
  const fulls: number[] = [];
  for (let turn = 0; turn < 7; turn++) {
    // A table of its own, so that nothing found in it before helps.
    const fresh = { ...buildElementTable(makeElements()), keys: table.keys };
    fulls.push(time(() => runPipeline(structuredClone(first.basis), [{ sourceId: 's', table: fresh }]))[1]);
  }
  const full = median(fulls.slice(2));
  const grade = (key: number, n: number): ProjectLayer => ({
    ...NOTHING,
    attributes: new Map([[key, { Grade: `${n}` }]]),
  });
  const { rules, items } = first.basis;
  /** Each with the cells that read what it changes: those of a rate and a mapping are the ones it prices. */
  const CHANGES: Record<string, { change: (n: number) => State; reads: number }> = {
    'one attribute': { change: (n) => ({ ...first, layer: grade(2, n) }), reads: 1 },
    'one attribute, read by a run too': { change: (n) => ({ ...first, layer: grade(1, n) }), reads: 1 },
    'one rate': {
      change: (n) => ({ ...first, basis: { ...first.basis, items: items.map((i) => (i.code === 'I31' ? { ...i, rate: `${n + 5}` } : i)) } }),
      reads: 1000,
    },
    'one rule': {
      change: (n) => ({ ...first, basis: { ...first.basis, rules: rules.map((r, i) => (i === 3 ? { ...r, assembly: `A${n % 2 ? 4 : 3}` } : r)) } }),
      reads: 1000 * LINES,
    },
    'one pin': {
      change: (n) => ({ ...first, basis: { ...first.basis, pins: n % 2 ? [{ id: 'p', element: 7, section: 's', assembly: 'A9', driver: 'NetSideArea' }] : [] } }),
      reads: LINES,
    },
  }; // biome-ignore format: one change a line
  console.log(`baseline: all ${20_000 * LINES} cells, nothing remembered`);
  for (const [name, { change, reads }] of Object.entries(CHANGES)) {
    const memory = new PipelineMemory();
    let before = toMoveState(first.basis, sourcesOf(first), runPipeline(first.basis, sourcesOf(first), memory));
    const times: number[] = [];
    const moves: number[] = [];
    let cells = 0;
    for (let n = 1; n <= 15; n++) {
      const state = change(n);
      const sources = sourcesOf(state);
      const [evaluated, priced] = [memory.evaluatedCells, memory.pricedCells];
      const [plan, ms] = time(() => runPipeline(state.basis, sources, memory));
      cells = Math.max(cells, Math.max(memory.evaluatedCells - evaluated, memory.pricedCells - priced));
      times.push(ms);
      const now = toMoveState(state.basis, sources, plan);
      moves.push(time(() => explainMove(before, now))[1]);
      before = now;
    }
    const [ms, move] = [median(times.slice(3)), median(moves.slice(3))];
    console.log(
      `${name}: ${cells} cells for ${reads} that read it (${(cells / reads).toFixed(2)} x); ${((100 * ms) / full).toFixed(2)} % of the baseline's time, telling the move ${((100 * move) / full).toFixed(2)} %`,
    );
  }
}

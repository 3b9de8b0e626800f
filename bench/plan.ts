import { buildElementTable, type CostItem, cutBars, explainElement, groupPlan, listBehind, PipelineMemory, type PricingBasis, runPipeline } from '@tally/core'; // biome-ignore format: one module
import { HyperFormula } from 'hyperformula';
import { makeElements } from './pricing.ts';
import { time } from './recompute.ts';

const LINES = 12;
const TURNS = 5;
const PIECES = 2000;

const median = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** A book of twelve items, all of them lines of one assembly that prices every element. */
function makeBasis(firstRate = '10.00'): PricingBasis {
  const items = Array.from({ length: LINES }, (_, i): CostItem => ({ code: `I${i}`, description: `Item ${i}`, kind: i % 3 === 0 ? 'labour' : 'material', unit: 'm2', rate: i === 0 ? firstRate : `${7 + i}.00`, supplier: `S${i % 4}`, wastePercent: i })); // biome-ignore format: one item
  return {
    currency: 'EUR',
    items,
    assemblies: [{ code: 'A', description: 'A', unit: 'm2', lines: items.map((i, n) => ({ id: `l${n}`, item: i.code, quantity: `Driver * ${1 + n / 10}` })) }],
    sections: [{ id: 's', name: 'S' }],
    rules: [{ id: 'r', name: 'R', scope: { field: 'class', op: 'present' }, section: 's', assembly: 'A', driver: 'NetSideArea' }],
    pins: [],
  }; // biome-ignore format: a basis in short
}

/** The same figures by a spreadsheet, those that a plan keeps of each cell: net, to buy, amount; and the sum of the amounts. */
function sumBySpreadsheet(areas: readonly number[]): number {
  const letter = (n: number): string =>
    (n < 26 ? '' : letter(Math.floor(n / 26) - 1)) + String.fromCharCode(65 + (n % 26));
  const rows = areas.map((area, r) => [
    area,
    ...Array.from({ length: LINES }, (_, n) => {
      const [net, buy] = [letter(1 + n * 3), letter(2 + n * 3)].map((l) => `${l}${r + 1}`);
      return [`=A${r + 1}*${1 + n / 10}`, `=${net}*${1 + n / 100}`, `=${buy}*${n === 0 ? 10 : 7 + n}`];
    }).flat(),
  ]);
  const amounts = Array.from(
    { length: LINES },
    (_, n) => `SUM(${letter(3 + n * 3)}1:${letter(3 + n * 3)}${rows.length})`,
  );
  const sheet = HyperFormula.buildFromArray([...rows, [`=${amounts.join('+')}`]], { licenseKey: 'gpl-v3' });
  const total = Number(sheet.getCellValue({ sheet: 0, row: rows.length, col: 0 }));
  sheet.destroy();
  return total;
}

/** A plan of 20,000 elements and 240,000 cells: broken down, opened, changed by one rate. Baseline: a full run without memory. Cutting: against first-fit-decreasing and the bound. */
export async function benchPlan(): Promise<void> {
  const table = buildElementTable(makeElements());
  const keyed = { ...table, keys: Int32Array.from({ length: table.count }, (_, i) => i + 1) };
  const sources = [{ sourceId: 'm', table: keyed }];
  const names = { sections: [{ id: 's', name: 'S' }] };
  const [full, one, grouped, behind, opened, peer]: number[][] = [[], [], [], [], [], []];
  let cells = 0;
  for (let turn = 0; turn < TURNS; turn++) {
    full!.push(time(() => runPipeline(makeBasis(), sources))[1]);
    const memory = new PipelineMemory();
    const [plan] = time(() => runPipeline(makeBasis(), sources, memory));
    cells = plan.parts[0]!.blocks.reduce((n, b) => n + b.lines.length * b.mapped.rows.length, 0);
    const [first, next] = [makeBasis(), makeBasis('10.50')];
    const changed = { ...first, items: first.items.map((i, n) => (n === 0 ? next.items[0]! : i)) };
    one!.push(time(() => runPipeline(changed, sources, memory))[1]);
    grouped!.push(time(() => groupPlan(plan, ['storey', 'kind'], names))[1]);
    const id = groupPlan(plan, ['storey'], names).groups[0]!.lines[0]!.id;
    behind!.push(time(() => listBehind(plan, ['storey'], names, id))[1]);
    opened!.push(time(() => explainElement(plan, 77))[1]);
  }
  const column = keyed.quantities.find((q) => q.name === 'NetSideArea')!;
  const areas = [...column.values].filter((v) => !Number.isNaN(v));
  // Once: a spreadsheet of 240,000 formulas takes its time.
  peer!.push(time(() => sumBySpreadsheet(areas))[1]);
  const base = median(full!);
  console.log(`plan of ${keyed.count} elements, ${cells} cells; 1 is a full run without memory`);
  for (const [
    name,
    list,
  ] of [['one rate', one], ['regroup by storey and kind', grouped], ['elements behind a line', behind], ['one element opened', opened]] as const) // biome-ignore format: one table
    console.log(`  ${name.padEnd(30)} ${(median(list!) / base).toFixed(4)}`);
  console.log(
    `  full run against hyperformula    ${(peer![0]! / base).toFixed(1)} x as fast (of ${areas.length} rows)`,
  );
  benchCutting();
}

function benchCutting(): void {
  let seed = 7;
  const random = () => {
    seed = (seed * 1_103_515_245 + 12_345) & 0x7fffffff;
    return seed / 0x7fffffff;
  };
  const needed = Array.from({ length: PIECES }, (_, i) => ({
    lengthM: 0.3 + Math.round(random() * 4200) / 1000,
    count: 1,
    from: String(i),
  }));
  const [plan, ms] = time(() => cutBars(needed, [{ lengthM: 6, price: null }], { kerfM: 0.003 }));
  if (!plan.ok) throw new Error(plan.problem.message);
  const [bars, firstMs] = time(() =>
    fitFirst(
      needed.map((p) => p.lengthM),
      6,
      0.003,
    ),
  );
  console.log(`cutting ${PIECES} pieces from bars of 6 m`);
  console.log(`  bars against the lower bound   ${(plan.value.stockM / plan.value.lowerBoundM).toFixed(4)}`);
  console.log(`  first-fit-decreasing           ${((bars * 6) / plan.value.lowerBoundM).toFixed(4)}`);
  console.log(`  time against first-fit         ${(ms / firstMs).toFixed(1)}`);
}

/** First-fit-decreasing, written apart from the code that is measured. */
function fitFirst(lengths: readonly number[], barM: number, kerfM: number): number {
  const rest: number[] = [];
  for (const length of [...lengths].sort((a, b) => b - a)) {
    const at = rest.findIndex((r) => r >= length + kerfM - 1e-9);
    if (at < 0) rest.push(barM - length);
    else rest[at]! -= length + kerfM;
  }
  return rest.length;
}

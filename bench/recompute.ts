import { assignElementKeys, buildElementTable, PipelineMemory, type PricingBasis, runPipeline } from '@tally/core';
import { HyperFormula } from 'hyperformula';
import { makeElements } from './pricing.ts';

const LINES = 12;
const ITEMS = 240;
/** Rates of the second run, a little dearer than those of the first. */
const dearer = (rate: number) => rate * 1.03;
const rateOf = (i: number) => 1 + i * 0.37;
const wasteOf = (i: number) => i % 8;

/** Rules by type: types run from 0 to 99, and each rule takes every so many-th of them, with an assembly of its own. */
export const makeTypeRules = (groups: number): PricingBasis['rules'] =>
  Array.from({ length: groups }, (_, a) => ({
    id: `r${a}`,
    name: `Rule ${a}`,
    scope: {
      any: [0, 1, 2, 3, 4].map((k) => ({ field: 'type' as const, op: 'is' as const, value: `Type ${a + k * groups}` })),
    },
    section: 's',
    assembly: `A${a}`,
    driver: 'NetSideArea',
  }));

/** Twelve lines on each element, each item used by one line in 240. */
function makeBasis(rate: (i: number) => number): PricingBasis {
  const groups = ITEMS / LINES;
  return {
    currency: 'EUR',
    items: Array.from({ length: ITEMS }, (_, i) => ({
      code: `I${i}`,
      description: `Item ${i}`,
      kind: 'material' as const,
      unit: 'm2',
      rate: rate(i).toFixed(6),
      wastePercent: wasteOf(i),
    })),
    assemblies: Array.from({ length: groups }, (_, a) => ({
      code: `A${a}`,
      description: `Assembly ${a}`,
      unit: 'm2',
      lines: Array.from({ length: LINES }, (_, l) => ({
        item: `I${a * LINES + l}`,
        quantity: `Driver * ${1 + l / 10} + Length * 0.3 m`,
      })),
    })),
    sections: [{ id: 's', name: 'S' }],
    rules: makeTypeRules(groups),
    pins: [],
  };
}

export function time<T>(task: () => T): [T, number] {
  const start = performance.now();
  const value = task();
  return [value, performance.now() - start];
}

/** The same figures as a sheet: quantities, net, amount of every line, and the total. */
function makeSheet(elements: ReturnType<typeof makeElements>): HyperFormula {
  const rates = Array.from({ length: ITEMS }, (_, i) => [rateOf(i), 1 + wasteOf(i) / 100]);
  const lines = elements.flatMap((e, i) => {
    const group = (i % 100) % (ITEMS / LINES);
    const figure = (name: string) => e.quantities.find((q) => q.name === name)!.value;
    return Array.from({ length: LINES }, (_, l) => {
      const row = i * LINES + l + 1;
      const at = group * LINES + l + 1;
      return [
        figure('NetSideArea'),
        figure('Length'),
        `=A${row}*${1 + l / 10}+B${row}*0.3`,
        `=ROUND(C${row}*Rates!B${at}*Rates!A${at},6)`,
      ];
    });
  });
  return HyperFormula.buildFromSheets(
    { Rates: rates, Lines: lines, Total: [[`=SUM(Lines!D1:D${lines.length})`]] },
    { licenseKey: 'gpl-v3', maxRows: 300_000 },
  );
}

/** All rates changed on 240,000 lines, and one of them. Baseline: the same numbers and formulas in a spreadsheet engine. */
export async function benchRecompute(): Promise<void> {
  const elements = makeElements();
  const plain = buildElementTable(elements);
  const sources = [{ sourceId: 's', table: { ...plain, keys: assignElementKeys(null, plain, 1).keys } }];
  const memory = new PipelineMemory();
  const [first, second] = [makeBasis(rateOf), makeBasis((i) => dearer(rateOf(i)))];
  runPipeline(first, sources, memory);
  runPipeline(second, sources, memory);
  runPipeline(first, sources, memory);
  const before = memory.pricedCells;
  const [plan, ours] = time(() => runPipeline(second, sources, memory));
  const cells = memory.pricedCells - before;
  const one = { ...second, items: second.items.map((i) => (i.code === 'I7' ? { ...i, rate: '99' } : i)) };
  const [, single] = time(() => runPipeline(one, sources, memory));
  const again = memory.pricedCells - before - cells;

  const sheet = makeSheet(elements);
  const rates = sheet.getSheetId('Rates')!;
  const setAll = (rate: (i: number) => number) =>
    sheet.batch(() => {
      for (let i = 0; i < ITEMS; i++) sheet.setCellContents({ sheet: rates, row: i, col: 0 }, [[rate(i)]]);
    });
  setAll((i) => dearer(rateOf(i)));
  setAll(rateOf);
  const [, peer] = time(() => setAll((i) => dearer(rateOf(i))));
  const total = sheet.getCellValue({ sheet: sheet.getSheetId('Total')!, row: 0, col: 0 }) as number;
  console.log(`baseline: hyperformula, ${ITEMS} rates changed under ${cells} lines`);
  console.log(`totals differ by ${(Math.abs(plan.total / 1e6 - total) / total).toExponential(1)} of the sum`);
  console.log(`all rates changed: ${(peer / ours).toFixed(1)} times as fast (at least 5)`);
  console.log(
    `one rate of ${((100 * again) / cells).toFixed(2)} % of the lines: ${again} lines priced again (at most twice as many), ${(peer / single).toFixed(1)} times as fast as the baseline's whole`,
  );
}

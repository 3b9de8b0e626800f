import {
  assignElementKeys,
  buildElementTable,
  type ElementTable,
  evaluateScope,
  explainDecisions,
  listElementKinds,
  MappingMemory,
  type ModelElement,
  mapElements,
  type Pin,
  type PricingRule,
} from '@tally/core';
import { makeElements } from './pricing.ts';
import { time } from './recompute.ts';

const RULES = 300;
const PINS = 2000;
const TURNS = 9;

const median = (list: number[]) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** Each catches a type and a material: one element in 1,700, over three sections. */
const makeRules = (): PricingRule[] =>
  Array.from({ length: RULES }, (_, i) => ({
    id: `r${i}`,
    name: `Rule ${i}`,
    scope: {
      all: [
        { field: 'type' as const, op: 'is' as const, value: `Type ${i % 100}` },
        { field: 'material' as const, op: 'contains' as const, value: `material ${i % 17}` },
      ],
    },
    section: `s${i % 3}`,
    item: 'X',
    driver: 'Count',
  }));
const makePins = (): Pin[] =>
  Array.from({ length: PINS }, (_, i) => ({ id: `p${i}`, element: 1 + i * 7, section: `s${i % 3}`, item: `P${i % 5}`, driver: 'Count' })); // biome-ignore format: one pin

/** The same by a plain loop: every rule asks every element that has no price in its section yet. */
function mapPlainly(elements: readonly ModelElement[], rules: readonly PricingRule[], pins: readonly Pin[]): number {
  const wanted = rules.map((r, i) => ({
    section: r.section!,
    type: `type ${i % 100}`,
    material: `material ${i % 17}`,
  }));
  const taken = new Map<string, Set<number>>(['s0', 's1', 's2'].map((s) => [s, new Set()]));
  for (const { element, section } of pins) taken.get(section)!.add(element - 1);
  let decided = pins.length;
  for (const { section, type, material } of wanted) {
    const of = taken.get(section)!;
    elements.forEach((e, row) => {
      if (of.has(row) || e.typeName!.toLowerCase() !== type) return;
      if (!e.materials.some((m) => m.toLowerCase().includes(material))) return;
      of.add(row);
      decided++;
    });
  }
  return decided;
}

/** Who prices what with 20,000 elements, 300 rules and 2,000 pins. Baseline: a plain loop of compiled tests. */
export async function benchMapping(): Promise<void> {
  const elements = makeElements();
  const [rules, pins] = [makeRules(), makePins()];
  const fresh = (): ElementTable => {
    const plain = buildElementTable(elements);
    return { ...plain, keys: assignElementKeys(null, plain, 1).keys };
  };
  const [plain, whole, changed, pinned, explained, kinds, typed]: number[][] = [[], [], [], [], [], [], []];
  for (let turn = 0; turn < TURNS; turn++) {
    plain!.push(time(() => mapPlainly(elements, rules, pins))[1]);
    // A table of its own, so that nothing found in it before helps.
    const table = fresh();
    const memory = new MappingMemory();
    const [mapping, ms] = time(() => mapElements(table, rules, pins, memory));
    whole!.push(ms);
    const other = rules.map((r, i) => (i === 40 ? { ...r, scope: { field: 'type' as const, op: 'is' as const, value: 'Type 3' } } : r)); // biome-ignore format: one rule
    changed!.push(time(() => mapElements(table, other, pins, memory))[1]);
    pinned!.push(time(() => mapElements(table, rules, [...pins, { ...pins[0]!, id: 'new', element: 12_345 }], memory))[1]); // biome-ignore format: one pin
    explained!.push(time(() => explainDecisions(table, 777, rules, pins, mapping))[1]);
    kinds!.push(time(() => listElementKinds([table], () => undefined))[1]);
    // A condition as it is typed: another text at each key, counted over all elements.
    for (const value of ['m', 'ma', 'mat', 'mate', 'mater', 'materi'])
      typed!.push(
        time(() =>
          evaluateScope(
            {
              all: [
                { field: 'type', op: 'contains', value: 'Type' },
                { field: 'material', op: 'contains', value },
              ],
            },
            table,
          ).reduce((n, hit) => n + hit, 0),
        )[1],
      );
  }
  const base = median(plain!);
  const tell = (what: string, list: number[]) =>
    console.log(`${what}: ${(median(list) / base).toFixed(3)} of the baseline`);
  console.log(`baseline: a plain loop of ${RULES} tests over ${elements.length} elements, ${PINS} pins`);
  tell('all of it', whole!);
  tell('one rule changed', changed!);
  tell('one pin set', pinned!);
  tell('one element explained', explained!);
  tell('the kinds of the building', kinds!);
  tell('a typed condition counted, per key', typed!);
  console.log(
    `a typed condition counted, per key: ${median(typed!).toFixed(2)} ms here, on the page's own thread (16 are a frame)`,
  );
}

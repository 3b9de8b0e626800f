import { benchBook } from './book.ts';
import { benchChanges } from './changes.ts';
import { benchExtraction } from './extraction.ts';
import { benchGround } from './ground.ts';
import { benchImportMemory } from './import-memory.ts';
import { benchMapping } from './mapping.ts';
import { benchPage } from './page.ts';
import { benchPlan } from './plan.ts';
import { benchPricing } from './pricing.ts';
import { benchRecompute } from './recompute.ts';
import { benchSearch } from './search.ts';
import { benchTable } from './table.ts';
import { benchViewer } from './viewer.ts';
import { benchWire } from './wire.ts';

/**
 * Measures speed and memory as ratios to a baseline of the same run: `npm run bench`, or `npm run bench -- pricing`.
 * Absolute times say nothing about another machine.
 */
const BENCHES: Record<string, () => Promise<void>> = {
  book: benchBook,
  changes: benchChanges,
  extraction: benchExtraction,
  ground: benchGround,
  'import-memory': benchImportMemory,
  mapping: benchMapping,
  plan: benchPlan,
  page: benchPage,
  pricing: benchPricing,
  recompute: benchRecompute,
  search: benchSearch,
  table: benchTable,
  viewer: benchViewer,
  wire: benchWire,
};

const wanted = process.argv.slice(2);
const unknown = wanted.find((name) => !(name in BENCHES));
if (unknown) {
  console.error(`There is no bench ${unknown}; take one of ${Object.keys(BENCHES).join(', ')}.`);
  process.exit(2);
}
for (const [name, run] of Object.entries(BENCHES)) {
  if (wanted.length > 0 && !wanted.includes(name)) continue;
  console.log(`\n== ${name}`);
  await run();
}

// Writes the parts of docs/ that follow from the code: the template's schema, the tables of quantities and functions.
// `--check` writes nothing and fails if a file is out of date.
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { FORMULA_FUNCTIONS, GROUP_QUANTITIES, QUANTITY_DEFINITIONS, templateSchema, UNIT_SYMBOLS } from '@tally/core';
import { z } from 'zod';

const docs = join(import.meta.dirname, '../docs');
const isCheck = process.argv.includes('--check');
let stale = 0;

function write(name: string, text: string): void {
  const path = join(docs, name);
  if (existsSync(path) && readFileSync(path, 'utf8') === text) return;
  if (isCheck) {
    console.error(`docs/${name} is out of date; run npm run docs.`);
    stale++;
  } else writeFileSync(path, text);
}

/** Exchanges the part of a page between its two markers. */
function writePart(name: string, part: string, text: string): void {
  const page = readFileSync(join(docs, name), 'utf8');
  const [open, close] = [`<!-- ${part} -->`, `<!-- end ${part} -->`];
  const [from, to] = [page.indexOf(open), page.indexOf(close)];
  if (from < 0 || to < from) throw new Error(`docs/${name} has no part "${part}".`);
  write(name, `${page.slice(0, from + open.length)}\n${text}\n${page.slice(to)}`);
}

const table = (headings: readonly string[], rows: readonly (readonly string[])[]) =>
  [headings, headings.map(() => '---'), ...rows]
    .map((cells) => `| ${cells.map((c) => c.replaceAll('|', '\\|')).join(' | ')} |`)
    .join('\n');

/** One assembly of each kind that shows what lines can say, from the demo's book. */
const WORKED: Readonly<Record<string, string>> = {
  'A-SMALLROOF': 'A roof in slates: by the area, by the roll, ridge, hips and eaves by their length, a crew.',
  'A-LINED': 'A lined wall: framing at centres, boards by side and layer, fixings that follow other lines.',
  'A-FLATROOF': 'A flat roof: screed by its thickness, membrane by the roll, upstands round the edge.',
  'A-PLINTH':
    'A stone wall: stone by the tonne from its volume and density, mortar by its volume, hours by consumption.',
  'A-TFLOOR': 'A timber floor: joists at centres, trimmers once per opening.',
  'A-TWALL': 'A timber wall: studs once per junction, trimmers only over wide openings, priced by the width.',
  'A-QUAY': 'A run of rings and fenders: at centres not exceeded, set back from the ends, none at a ladder.',
  'A-COATS': 'A finish by coats; its price comes from a scale by the name of the finish.',
  'A-DIG': 'Excavation priced by a depth that the rule sets; loads counted once for the whole project, hours by them.',
};
const book = templateSchema.parse(JSON.parse(readFileSync(join(docs, '../demo/template.json'), 'utf8')));
const worked = Object.entries(WORKED).map(([code, words]) => {
  const assembly = book.assemblies.find((a) => a.code === code);
  if (!assembly) throw new Error(`demo/template.json has no assembly ${code}.`);
  return { $comment: words, ...assembly };
});
const schema = z.toJSONSchema(templateSchema, { io: 'input', unrepresentable: 'any' });
Object.assign((schema.properties!.assemblies as { items: object }).items, { examples: worked });
write('template.schema.json', `${JSON.stringify(schema, null, 2)}\n`);

const groupsOf = (name: string) =>
  Object.entries(GROUP_QUANTITIES)
    .filter(([, names]) => names.includes(name))
    .map(([group]) => group);
writePart(
  'quantities.md',
  'quantities',
  table(
    ['Name', 'Unit', 'Meaning', 'Measured for'],
    QUANTITY_DEFINITIONS.map((q) => [q.name, q.unit, q.meaning, groupsOf(q.name).join(', ')]),
  ),
);
writePart(
  'formulas.md',
  'functions',
  table(
    ['Function', 'Meaning'],
    FORMULA_FUNCTIONS.map((f) => [`\`${f.usage}\``, f.meaning]),
  ),
);
writePart('formulas.md', 'units', UNIT_SYMBOLS.map((u) => `\`${u}\``).join(', '));
process.exit(stale > 0 ? 1 : 0);

// Checks what the folders promise: who may import whom, how long a file may be, how files are named.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve, sep } from 'node:path';

const root = join(import.meta.dirname, '..');
const problems = [];
/** Files whose lines are a table. */
const TABLES = new Set([
  'packages/ifc/src/schema/entity-table.ts',
  'packages/core/src/elements/ifc-product-classes.ts',
]);
const LONGEST = 500;
/** Folders of core from the ground up; a file may import its own and lower numbers. */
const LEVELS = {
  units: 0,
  result: 0,
  elements: 1,
  scopes: 2,
  geometry: 3,
  quantities: 4,
  formulas: 5,
  book: 6,
  cutting: 6.5,
  mapping: 7,
  lists: 7.5,
  recipes: 8,
  cells: 9,
  pricing: 10,
  tables: 11,
  plan: 12,
  checks: 13,
  changes: 14,
  baselines: 14.3,
  options: 14.6,
  offer: 15,
  reports: 17,
  contract: 18,
};
const MAY_IMPORT = {
  core: [],
  ifc: ['core'],
  files: ['core'],
  cli: ['core', 'ifc', 'files'],
  server: ['core', 'ifc', 'files', 'demo'],
  web: ['core'],
  demo: ['core'],
};

function* listFiles(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', 'out', 'migrations', '.git', 'data'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* listFiles(path);
    else if (/\.tsx?$/.test(entry.name)) yield path;
  }
}

function check(file) {
  const name = relative(root, file).split(sep).join('/');
  const text = readFileSync(file, 'utf8');
  const lines = text.split('\n').length;
  const isTest = /\.test\.tsx?$/.test(name);
  if (lines > LONGEST && !TABLES.has(name)) problems.push(`${name}: ${lines} lines; ${LONGEST} at most`);
  const base = name.split('/').at(-1);
  if (!/^[a-z0-9]+([-.][a-z0-9]+)*\.tsx?$/.test(base)) problems.push(`${name}: file names are in kebab-case`);
  if (/^(utils|helpers|misc|common)\.|manager/.test(base)) problems.push(`${name}: name it after what it holds`);
  if (base === 'index.ts' && /export \*/.test(text) && !name.includes('contract/'))
    problems.push(`${name}: export by name`);
  const owner = name.startsWith('packages/') ? name.split('/')[1] : name.startsWith('demo/') ? 'demo' : null;
  if (!owner) return;
  for (const [, target] of text.matchAll(/(?:from|import)\s*\(?\s*'([^']+)'/g)) {
    const other = /^@tally\/([a-z]+)/.exec(target)?.[1];
    if (other && !MAY_IMPORT[owner].includes(other) && !isTest)
      problems.push(`${name}: ${owner} does not import ${other}`);
    if (owner === 'core' && /^node:/.test(target) && !isTest) problems.push(`${name}: core knows nothing of Node`);
    if (!target.startsWith('.')) continue;
    const to = relative(root, resolve(dirname(file), target))
      .split(sep)
      .join('/');
    const folderOf = (path, prefix) => (path.startsWith(prefix) ? path.slice(prefix.length).split('/')[0] : null);
    if (owner === 'core' && !isTest) {
      const [from, into] = [folderOf(name, 'packages/core/src/'), folderOf(to, 'packages/core/src/')];
      if (from in LEVELS && !(LEVELS[into] <= LEVELS[from])) {
        if (!(from === 'contract' && into === 'pipeline.ts'))
          problems.push(`${name}: ${from}/ does not import ${into}`);
      }
    }
    if (owner === 'web') {
      const [from, into] = [folderOf(name, 'packages/web/src/features/'), folderOf(to, 'packages/web/src/features/')];
      if (from && into && from !== into) problems.push(`${name}: feature ${from} does not import feature ${into}`);
      if (
        !/^packages\/web\/src\/(?:app|testing)\//.test(name) &&
        to.startsWith('packages/web/src/app/') &&
        !name.endsWith('/main.tsx')
      )
        problems.push(`${name}: only main and tests import app/`);
      if (!name.includes('/viewer/') && to.includes('/viewer/') && !to.endsWith('/viewer/index.ts'))
        problems.push(`${name}: import the viewer by its index`);
    }
  }
}

const files = ['packages', 'demo', 'e2e', 'bench', 'scripts']
  .filter((f) => existsSync(join(root, f)))
  .flatMap((folder) => [...listFiles(join(root, folder))]);
for (const file of files) check(file);

/** What each file imports of its own package, values and types alike; an import counts for the file and for its folder. */
function findCycles(nodeOf) {
  const graph = new Map();
  for (const file of files) {
    if (/\.test\.tsx?$/.test(file)) continue;
    const from = nodeOf(file);
    if (from === null) continue;
    if (!graph.has(from)) graph.set(from, new Set());
    for (const [, target] of readFileSync(file, 'utf8').matchAll(/(?:from|import)\s*\(?\s*'(\.[^']+)'/g)) {
      const to = nodeOf(resolve(dirname(file), target));
      if (to !== null && to !== from) graph.get(from).add(to);
    }
  }
  const done = new Set();
  const cycles = [];
  const visit = (node, trail) => {
    if (trail.includes(node)) {
      cycles.push([...trail.slice(trail.indexOf(node)), node]);
      return;
    }
    if (done.has(node)) return;
    for (const next of graph.get(node) ?? []) visit(next, [...trail, node]);
    done.add(node);
  };
  for (const node of graph.keys()) visit(node, []);
  return cycles;
}

const fileNode = (path) => relative(root, path).split(sep).join('/');
for (const cycle of findCycles(fileNode)) problems.push(`files import each other: ${cycle.join(' > ')}`);
/** Folders below `src` of a package; what lies in `src` itself composes them. A noun of the server knows others by their rows. */
const folderNode = (path) =>
  /^packages\/(?!server)[a-z]+\/src\/(?:features\/)?[^/]+(?=\/)/.exec(fileNode(path))?.[0] ?? null;
for (const cycle of findCycles(folderNode)) problems.push(`folders import each other: ${cycle.join(' > ')}`);
if (problems.length > 0) {
  console.error(problems.join('\n'));
  process.exit(1);
}
console.log('Structure is as it should be.');

// Builds everything that runs: the server bundle with its workers, the seed database, the demo files and the pages.
import { execFileSync } from 'node:child_process';
import { existsSync, rmSync } from 'node:fs';
import { build } from 'esbuild';

const only = process.argv[2];
const run = (command, args) => execFileSync(command, args, { stdio: 'inherit' });

/** Small libraries that everything needs: inside a bundle they are read as one file, and only what is used of them. */
const INSIDE = [
  'zod',
  'polyclip-ts',
  'flatbush',
  'earcut',
  'currency-codes',
  'first-match',
  'nub',
  'splaytree-ts',
  'bignumber.js',
  'flatqueue',
];

/** Bundles for Node: our own packages and small libraries inside, everything else outside. */
const bundle = (outdir, entryPoints, { splitting = false } = {}) =>
  build({
    entryPoints,
    outdir,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    splitting,
    sourcemap: true,
    logLevel: 'warning',
    plugins: [
      {
        name: 'packages-stay-outside',
        setup: (b) =>
          void b.onResolve({ filter: /^[^./]/ }, ({ path }) =>
            path.startsWith('@tally/') || INSIDE.includes(path) ? null : { path, external: true },
          ),
      },
    ],
  });

if (!only || only === 'server') {
  const out = 'packages/server/dist';
  const src = 'packages/server/src';
  await bundle(out, {
    main: `${src}/main.ts`,
    'db-worker': `${src}/db/db-worker.ts`,
    'plan-worker': `${src}/engine/plan-worker.ts`,
    'sheet-worker': `${src}/importers/sheet-worker.ts`,
    'xlsx-worker': `${src}/importers/xlsx-worker.ts`,
    'reading-worker': `${src}/importers/reading-worker.ts`,
    'list-worker': `${src}/importers/list-worker.ts`,
    'drawing-worker': `${src}/importers/drawing-worker.ts`,
    'make-seed': `${src}/db/make-seed.ts`,
    'mesh-worker': 'packages/ifc/src/mesh/mesh-worker.ts',
  });
  // Making a database takes seconds: made once here, copied at the first start.
  if (!existsSync(`${out}/seed/PG_VERSION`)) {
    rmSync(`${out}/seed`, { recursive: true, force: true });
    run(process.execPath, [`${out}/make-seed.js`]);
  }
}
if (!only || only === 'cli') {
  // A command starts once for each question: what it always needs is one file, what it seldom needs is loaded when asked for. Chunks are
  // named by their content: those of before would stay.
  rmSync('packages/cli/dist', { recursive: true, force: true });
  await bundle(
    'packages/cli/dist',
    { tally: 'packages/cli/src/main.ts', 'mesh-worker': 'packages/ifc/src/mesh/mesh-worker.ts' },
    { splitting: true },
  );
}
if (!only || only === 'demo') run(process.execPath, ['--import', 'tsx', 'demo/src/write-revisions.ts']);
if (!only || only === 'web')
  run(process.execPath, ['node_modules/vite/bin/vite.js', 'build', 'packages/web', '--logLevel', 'warn']);

import { join } from 'node:path';
import { buildSync } from 'esbuild';

/**
 * Bundles a module as the server is bundled, so that what is measured is what runs: a loader that translates on the way names
 * every inner function at every call.
 */
export function bundleChild(name: string, external: readonly string[] = []): string {
  const root = join(import.meta.dirname, '..');
  const outfile = join(root, 'node_modules/.cache/tally-bench', `${name}.mjs`);
  buildSync({
    entryPoints: [join(import.meta.dirname, `${name}.ts`)],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    external: ['web-ifc', 'zod', 'decimal.js', ...external],
    logLevel: 'warning',
  });
  return outfile;
}

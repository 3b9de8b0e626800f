// The command line: the built bundle while it is as new as what it was built of, else the sources.
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = resolve(fileURLToPath(import.meta.url), '../..');
const bundle = join(root, 'packages/cli/dist/tally.js');

/** Time at which anything of the sources changed last. */
function findNewest(folder) {
  let newest = statSync(folder).mtimeMs;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    newest = Math.max(newest, entry.isDirectory() ? findNewest(path) : statSync(path).mtimeMs);
  }
  return newest;
}

const sources = ['core', 'ifc', 'files', 'cli'].map((name) => join(root, 'packages', name, 'src'));
if (existsSync(bundle) && statSync(bundle).mtimeMs > Math.max(...sources.map(findNewest)))
  await import(pathToFileURL(bundle).href);
else {
  const { register } = await import('tsx/esm/api');
  register();
  await import(pathToFileURL(join(root, 'packages/cli/src/main.ts')).href);
}

import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Folder of this package, found from sources and from the bundle alike. */
export function packageRoot(): string {
  for (let at = dirname(fileURLToPath(import.meta.url)); ; at = dirname(at)) {
    if (existsSync(join(at, 'migrations')) && existsSync(join(at, 'package.json'))) return at;
    if (dirname(at) === at) throw new Error('The folder of the server package was not found.');
  }
}

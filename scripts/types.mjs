// Checks the types of every package; each has the libraries it may use and no others.
import { spawnSync } from 'node:child_process';

const projects = [
  'packages/core',
  'packages/core/tsconfig.test.json',
  'packages/ifc',
  'packages/files',
  'packages/server',
  'packages/cli',
  'packages/web',
  '.',
];
let failed = false;
for (const project of projects) {
  const { status } = spawnSync(process.execPath, ['node_modules/typescript/bin/tsc', '-p', project], {
    stdio: 'inherit',
  });
  if (status !== 0) failed = true;
}
process.exit(failed ? 1 : 0);

// One command for a fresh machine: installs, builds what is out of date, loads the demo project, starts, prints the address.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const root = join(import.meta.dirname, '..');
process.chdir(root);
const [major, minor] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(`Node 20.19 or newer is needed; this is ${process.versions.node}.`);
  process.exit(1);
}

const mtime = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0);
function newest(folder) {
  let latest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist', 'out'].includes(entry.name)) continue;
    const path = join(folder, entry.name);
    latest = Math.max(latest, entry.isDirectory() ? newest(path) : mtime(path));
  }
  return latest;
}
function run(title, command, args) {
  console.log(title);
  const { status } = spawnSync(command, args, { stdio: 'inherit', shell: process.platform === 'win32' });
  if (status !== 0) process.exit(status ?? 1);
}

if (mtime('node_modules/.package-lock.json') < mtime('package-lock.json')) {
  run('Installing packages', 'npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  const now = new Date();
  utimesSync('node_modules/.package-lock.json', now, now);
}
const stamp = 'packages/server/dist/.built';
if (mtime(stamp) < Math.max(newest('packages'), newest('demo'), mtime('package-lock.json'))) {
  run('Building', process.execPath, ['scripts/build.mjs']);
  writeFileSync(stamp, '');
}
const server = spawn(process.execPath, ['packages/server/dist/main.js'], {
  stdio: 'inherit',
  env: { ...process.env, TALLY_DEMO: '1' },
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));

// Everything that must hold: types, lint, structure, unit tests, build, end-to-end tests. Installs what it needs.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';

process.chdir(join(import.meta.dirname, '..'));
const times = [];
const results = 'test-results';

function sh(command, args, env = {}) {
  return spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } }).status ?? 1;
}
function stage(name, work) {
  console.log(`\n== ${name}`);
  const start = Date.now();
  const status = work();
  times.push([name, (Date.now() - start) / 1000, status]);
  if (status !== 0) finish(1);
}
function counts() {
  let passed = 0;
  let failed = 0;
  const read = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null);
  const jest = read(`${results}/jest.json`);
  if (jest) [passed, failed] = [passed + jest.numPassedTests, failed + jest.numFailedTests];
  const e2e = read(`${results}/playwright.json`);
  if (e2e) [passed, failed] = [passed + e2e.stats.expected + e2e.stats.flaky, failed + e2e.stats.unexpected];
  const unsteady = e2e ? listSpecs(e2e.suites).filter((spec) => spec.tests.some((t) => t.status === 'flaky')) : [];
  return { passed, failed, unsteady };
}
function listSpecs(suites) {
  return suites.flatMap((suite) => [...(suite.specs ?? []), ...listSpecs(suite.suites ?? [])]);
}
function finish(status) {
  console.log('\nSeconds per stage');
  for (const [name, seconds, code] of times)
    console.log(`${seconds.toFixed(1).padStart(7)}  ${name}${code === 0 ? '' : '  FAILED'}`);
  const { passed, failed, unsteady } = counts();
  for (const { file, line, title } of unsteady) console.log(`\nPassed only the second time: ${file}:${line} ${title}`);
  console.log(`\n${passed} passed, ${failed} failed`);
  process.exit(status);
}
function aptInstall(packages) {
  if (process.getuid?.() !== 0) {
    console.error(`Missing: ${packages.join(', ')}. Install them as root: apt-get install ${packages.join(' ')}`);
    return 1;
  }
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  return (
    sh('apt-get', ['update', '-qq'], env) ||
    sh('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], env)
  );
}

rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
const mtime = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0);
stage('install', () => {
  if (mtime('node_modules/.package-lock.json') < mtime('package-lock.json')) {
    const status = sh('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
    if (status !== 0) return status;
  }
  if (!existsSync('/usr/bin/chromium')) {
    const status = aptInstall(['chromium']);
    if (status !== 0) return status;
  }
  // The repository tests also run on a real PostgreSQL; without it they say so.
  if (!existsSync('/usr/lib/postgresql') && aptInstall(['postgresql']) !== 0)
    console.warn('PostgreSQL could not be installed.');
  return 0;
});
stage('types', () => sh(process.execPath, ['scripts/types.mjs']));
stage('lint', () =>
  sh(process.execPath, ['node_modules/@biomejs/biome/bin/biome', 'check', '--error-on-warnings', '.']),
);
stage('structure', () => sh(process.execPath, ['scripts/check-structure.mjs']));
stage('docs', () => sh(process.execPath, ['--import', 'tsx', 'scripts/write-docs.ts', '--check']));
stage('build', () => sh(process.execPath, ['scripts/build.mjs']));
stage('unit', () =>
  sh(process.execPath, ['node_modules/jest/bin/jest.js', '--ci', '--json', `--outputFile=${results}/jest.json`], {
    NODE_OPTIONS: '--experimental-vm-modules --no-warnings',
  }),
);
stage('end to end', () =>
  sh(process.execPath, ['node_modules/@playwright/test/cli.js', 'test'], {
    PLAYWRIGHT_JSON_OUTPUT_NAME: `${results}/playwright.json`,
  }),
);
finish(0);

// The tests of the server run it as it is shipped: built once, before any of them.
const { execFileSync } = require('node:child_process');
const { resolve } = require('node:path');

module.exports = () =>
  void execFileSync(process.execPath, ['scripts/build.mjs', 'server'], {
    cwd: resolve(__dirname, '..'),
    stdio: 'ignore',
  });

// Starts the built server with a fresh data folder and the demo project.
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

process.env.TALLY_DATA = mkdtempSync(join(tmpdir(), 'tally-e2e-'));
process.env.TALLY_DEMO = '1';
process.env.PORT = process.argv[2];
await import('../packages/server/dist/main.js');

import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import pino from 'pino';
import { lock } from 'proper-lockfile';
import { createApp } from './app.ts';
import { readConfig } from './config.ts';
import { startDatabase } from './db/db-client.ts';
import { withEntryCache } from './db/entry-cache.ts';
import { packageRoot } from './db/package-root.ts';

/** Takes the data folder for this process; a second one would lose rows silently. */
async function lockData(folder: string): Promise<() => Promise<void>> {
  mkdirSync(folder, { recursive: true });
  try {
    return await lock(folder, { stale: 15_000, update: 5_000, lockfilePath: join(folder, 'in-use.lock') });
  } catch (error) {
    if ((error as { code?: string }).code !== 'ELOCKED') throw error;
    throw new Error(
      `The data folder ${folder} is in use by another Crisp Tally. Stop that one, or choose another folder with TALLY_DATA.`,
    );
  }
}

async function run(): Promise<void> {
  const config = readConfig(process.env, resolve(packageRoot(), '../..'));
  const logger = pino({ level: process.env.LOG_LEVEL ?? 'warn' });
  const unlock = await lockData(config.dataFolder);
  const db = await startDatabase(
    config.databaseUrl ? { url: config.databaseUrl } : { folder: join(config.dataFolder, 'database') },
  );
  const app = createApp(config, withEntryCache(db), logger);
  const server = app.express.listen(config.port, '127.0.0.1', (error?: Error) => {
    if (error) return fail(error);
    const address = server.address();
    const port = typeof address === 'object' && address ? address.port : config.port;
    process.stdout.write(`Crisp Tally is ready: http://localhost:${port}\n`);
  });
  await app.start();
  let isStopping = false;
  const stop = async () => {
    if (isStopping) return;
    isStopping = true;
    server.close();
    server.closeAllConnections();
    await app.close();
    await db.close();
    await unlock();
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
}

function fail(error: Error & { code?: string }): void {
  const message =
    error.code === 'EADDRINUSE' ? 'The port is taken by another program. Choose another with PORT=…' : error.message;
  process.stderr.write(`${message}\n`);
  process.exit(1);
}

run().catch(fail);

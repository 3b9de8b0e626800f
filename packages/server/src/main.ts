import { join, resolve } from 'node:path';
import pino from 'pino';
import { createApp } from './app.ts';
import { readConfig } from './config.ts';
import { startDatabase } from './db/db-client.ts';
import { withEntryCache } from './db/entry-cache.ts';
import { packageRoot } from './db/package-root.ts';
import { withOptions } from './db/with-options.ts';
import { lockData } from './lock-data.ts';

/** Time a stop may take before the process ends all the same. */
const LONGEST_STOP_MS = 10_000;

async function run(): Promise<void> {
  const config = readConfig(process.env, resolve(packageRoot(), '../..'));
  const logger = pino({ level: process.env.LOG_LEVEL ?? 'warn' });
  // Every chain has an owner; one that was overlooked is told, and ends nothing.
  process.on('unhandledRejection', (reason) => logger.error({ err: reason, isUnhandled: true }, 'unhandled rejection'));
  const unlock = await lockData(config.dataFolder);
  const db = await startDatabase(
    config.databaseUrl ? { url: config.databaseUrl } : { folder: join(config.dataFolder, 'database') },
    // Without its database the server can only fail: it ends, and says why, so that whoever watches it starts it anew.
    (cause) => {
      process.stderr.write(`Crisp Tally ends: ${cause.message}\n`);
      setTimeout(() => process.exit(1), 500).unref();
    },
  );
  const app = createApp(config, withOptions(withEntryCache(db)), logger);
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
    // A connection that never comes back must not hold up the end: what was answered is stored.
    setTimeout(() => process.exit(0), LONGEST_STOP_MS).unref();
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

import { cpSync, existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle as drizzlePg } from 'drizzle-orm/node-postgres';
import { migrate as migratePg } from 'drizzle-orm/node-postgres/migrator';
import { drizzle as drizzleLite } from 'drizzle-orm/pglite';
import { migrate as migrateLite } from 'drizzle-orm/pglite/migrator';
import pg from 'pg';
import { syncFolder } from '../importers/sync-file.ts';
import type { Database } from './database.ts';
import { DURABLE_START, DurableNodeFS } from './durable-node-fs.ts';
import { packageRoot } from './package-root.ts';
import * as schema from './schema.ts';

export interface OpenDatabase {
  readonly db: Database;
  readonly close: () => Promise<void>;
}

/** Where the data lies: a folder for the embedded database, a URL for a PostgreSQL server, or memory (tests). */
export type DatabaseLocation = { readonly folder: string } | { readonly url: string } | { readonly memory: true };

/** Folder of a fresh database made by the build, copied at the first start because making one takes seconds. */
export const SEED_FOLDER = () => join(packageRoot(), 'dist/seed');

/** Number under which a server holds a database for itself alone. */
const OWN_LOCK = 0x7a_11_c0_de;
/** How long the way to a PostgreSQL may take. */
const CONNECT_MS = 5_000;

/** How long a lock may be that of a connection which is lost already. */
const STALE_LOCK_MS = 30_000;

/** Opens the database and brings its tables up to date. */
export async function openDatabase(location: DatabaseLocation): Promise<OpenDatabase> {
  const migrationsFolder = join(packageRoot(), 'migrations');
  if ('url' in location) return openServer(location.url, migrationsFolder);
  const client = 'memory' in location ? await PGlite.create() : await openFolder(location.folder);
  const db = drizzleLite(client, { schema });
  await migrateLite(db, { migrationsFolder });
  return { db: db as unknown as Database, close: () => client.close() };
}

/**
 * Opens a database of a PostgreSQL server for this process alone. A connection that breaks is made anew with the next question; the
 * one that holds the lock is too, and if another server has taken the database meanwhile, this one ends.
 */
async function openServer(connectionString: string, migrationsFolder: string): Promise<OpenDatabase> {
  let isClosing = false;
  const holdLock = async (): Promise<pg.Client> => {
    const client = new pg.Client({ connectionString, keepAlive: true, connectionTimeoutMillis: CONNECT_MS });
    // What breaks before the lock is held rejects below, and is nobody else's business.
    let onLost = () => {};
    client.on('error', () => onLost());
    try {
      await client.connect();
      const { rows } = await client.query<{ held: boolean }>('select pg_try_advisory_lock($1) as held', [OWN_LOCK]);
      if (!rows[0]!.held) throw new InUse();
    } catch (error) {
      await client.end().catch(() => undefined);
      throw error;
    }
    onLost = () => {
      onLost = () => {};
      if (!isClosing) void regain();
    };
    return client;
  };
  let holder = await holdLock();
  const regain = async (): Promise<void> => {
    const since = Date.now();
    for (let wait = 200; !isClosing; wait = Math.min(wait * 2, 5_000)) {
      try {
        holder = await holdLock();
        return;
      } catch (error) {
        // A connection that broke without its server knowing keeps its lock for a while. After that it is another's.
        // Not caught by anyone: the thread ends, and with it the server, loudly.
        if (error instanceof InUse && Date.now() - since > STALE_LOCK_MS) throw error;
        await new Promise((done) => setTimeout(done, wait));
      }
    }
  };
  const pool = new pg.Pool({ connectionString, max: 4, keepAlive: true, connectionTimeoutMillis: CONNECT_MS });
  // A connection that breaks while nobody uses it concerns nobody.
  pool.on('error', () => undefined);
  // One that breaks while it is used rejects what it was asked; that it tells so as an event as well must end nothing.
  pool.on('connect', (client) => void client.on('error', () => undefined));
  const db = drizzlePg(pool, { schema });
  await migratePg(db, { migrationsFolder });
  const close = async () => {
    isClosing = true;
    await pool.end();
    await holder.end();
  };
  return { db: db as unknown as Database, close };
}

class InUse extends Error {
  constructor() {
    super('The database of DATABASE_URL is in use by another Crisp Tally. Stop that one, or choose another database.');
  }
}

async function openFolder(folder: string): Promise<PGlite> {
  if (!existsSync(join(folder, 'PG_VERSION')) && existsSync(SEED_FOLDER())) {
    mkdirSync(dirname(folder), { recursive: true });
    // Copied aside and named when it is whole: a copy that was cut off is never taken for a database.
    const draft = `${folder}.part`;
    rmSync(draft, { recursive: true, force: true });
    cpSync(SEED_FOLDER(), draft, { recursive: true });
    syncFolder(draft);
    rmSync(folder, { recursive: true, force: true });
    renameSync(draft, folder);
    syncFolder(dirname(folder), false);
  }
  mkdirSync(folder, { recursive: true });
  return PGlite.create({ fs: new DurableNodeFS(folder), startParams: DURABLE_START });
}

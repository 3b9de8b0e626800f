import { cpSync, existsSync, mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle as drizzlePg } from 'drizzle-orm/node-postgres';
import { migrate as migratePg } from 'drizzle-orm/node-postgres/migrator';
import { drizzle as drizzleLite } from 'drizzle-orm/pglite';
import { migrate as migrateLite } from 'drizzle-orm/pglite/migrator';
import pg from 'pg';
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

/** Opens the database and brings its tables up to date. */
export async function openDatabase(location: DatabaseLocation): Promise<OpenDatabase> {
  const migrationsFolder = join(packageRoot(), 'migrations');
  if ('url' in location) {
    const pool = new pg.Pool({ connectionString: location.url, max: 4 });
    const db = drizzlePg(pool, { schema });
    await migratePg(db, { migrationsFolder });
    return { db: db as unknown as Database, close: () => pool.end() };
  }
  const client = 'memory' in location ? await PGlite.create() : await openFolder(location.folder);
  const db = drizzleLite(client, { schema });
  await migrateLite(db, { migrationsFolder });
  return { db: db as unknown as Database, close: () => client.close() };
}

async function openFolder(folder: string): Promise<PGlite> {
  if (!existsSync(join(folder, 'PG_VERSION'))) {
    mkdirSync(dirname(folder), { recursive: true });
    if (existsSync(SEED_FOLDER())) cpSync(SEED_FOLDER(), folder, { recursive: true });
  }
  return PGlite.create({ fs: new DurableNodeFS(folder), startParams: DURABLE_START });
}

import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import type * as schema from './schema.ts';

/** A connection that repositories work on: PGlite or PostgreSQL, or a transaction on either. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;

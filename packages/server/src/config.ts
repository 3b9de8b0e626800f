import { join } from 'node:path';

/** What the server is started with, from the environment. */
export interface ServerConfig {
  /** Folder of everything that is kept. */
  readonly dataFolder: string;
  readonly port: number;
  /** A PostgreSQL server to use instead of the embedded database. */
  readonly databaseUrl: string | null;
  /** Makes the demo project at the first start. */
  readonly withDemo: boolean;
  /** Folder of the built pages, null if another server brings them. */
  readonly webFolder: string | null;
  readonly repositoryRoot: string;
}

export function readConfig(env: NodeJS.ProcessEnv, repositoryRoot: string): ServerConfig {
  const port = Number(env.PORT ?? 4310);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new Error(`PORT is "${env.PORT}"; it must be a number from 0 to 65535.`);
  return {
    dataFolder: env.TALLY_DATA ?? join(repositoryRoot, 'data'),
    port,
    databaseUrl: env.DATABASE_URL || null,
    withDemo: env.TALLY_DEMO === '1',
    webFolder: env.TALLY_PAGES ?? join(repositoryRoot, 'packages/web/dist'),
    repositoryRoot,
  };
}

import { openDatabase, SEED_FOLDER } from './open-database.ts';

/** Makes the fresh database that first starts copy. */
const { close } = await openDatabase({ folder: SEED_FOLDER() });
await close();

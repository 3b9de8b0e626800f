import { expose } from 'comlink';
import { TableReader } from './table-reader.ts';

/** Reads tables beside the page. */
expose(
  new TableReader(async (path) => {
    const answer = await fetch(`/api${path}`);
    if (!answer.ok) throw new Error(`The elements could not be read: the server answered ${answer.status}.`);
    return new Uint8Array(await answer.arrayBuffer());
  }),
);

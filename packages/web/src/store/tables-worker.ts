import { expose, transfer } from 'comlink';
import { copyToMove } from './copy-to-move.ts';
import { TableReader } from './table-reader.ts';

const reader = new TableReader(async (path) => {
  const answer = await fetch(`/api${path}`);
  if (!answer.ok) throw new Error(`The elements could not be read: the server answered ${answer.status}.`);
  return new Uint8Array(await answer.arrayBuffer());
});

/** Reads tables beside the page. Columns are copied here and moved: the page takes them as they are. */
expose({
  read: async (...asked: Parameters<TableReader['read']>) => {
    const { copy, buffers } = copyToMove(await reader.read(...asked));
    return transfer(copy, buffers);
  },
  map: (...asked: Parameters<TableReader['map']>) => reader.map(...asked),
  forget: (...asked: Parameters<TableReader['forget']>) => reader.forget(...asked),
});

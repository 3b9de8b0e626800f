import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import { gzipSync } from 'node:zlib';
import { reportStalls, streamMeshes } from '@tally/ifc';
import { writeWhole } from './file-store.ts';
import { FileStorePaths } from './file-store-paths.ts';
import type { DrawingMessage, DrawingOrder } from './import-messages.ts';
import { PicturePacker } from './picture-packer.ts';

/** Runs in a worker thread: what is to be drawn of a file becomes a picture in chunks. */
async function run({ filePath, storeRoot, revisionId, drawn }: DrawingOrder): Promise<void> {
  const store = new FileStorePaths(storeRoot);
  const byId = new Map(drawn.map((e) => [e.id, e]));
  let chunks = 0;
  let done = 0;
  const packer = new PicturePacker((chunk) => {
    writeWhole(store.picturePath(revisionId, chunks), gzipSync(chunk, { level: 4 }));
    chunks++;
    send({ kind: 'chunk', chunks });
  });
  const outcome = await streamMeshes({
    bytes: readShared(filePath),
    ids: [...byId.keys()],
    onMesh: (id, pieces) => {
      packer.add(byId.get(id)!.row, pieces);
      if (++done % 200 === 0) send({ kind: 'progress', stage: 'Drawing', share: 0.6 + (0.4 * done) / drawn.length });
    },
  });
  packer.flush();
  send({ kind: 'drawn', chunks, findings: reportStalls(outcome, byId) });
}

/** A file in memory that threads share: the one that meshes it needs no copy. */
function readShared(path: string): Uint8Array {
  const file = openSync(path, 'r');
  try {
    const bytes = new Uint8Array(new SharedArrayBuffer(fstatSync(file).size));
    for (let at = 0, read = -1; at < bytes.length && read !== 0; at += read)
      read = readSync(file, bytes, at, bytes.length - at, null);
    return bytes;
  } finally {
    closeSync(file);
  }
}

function send(message: DrawingMessage): void {
  parentPort!.postMessage(message);
}

run(workerData as DrawingOrder).catch((error: unknown) =>
  send({
    kind: 'failed',
    problem: {
      code: 'import-failed',
      message: `Drawing failed: ${error instanceof Error ? error.message : String(error)}`,
      remedy: 'Draw it again under Sources.',
    },
  }),
);

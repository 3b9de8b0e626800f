import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import { gzipSync } from 'node:zlib';
import {
  assignElementKeys,
  buildElementTable,
  encodeElementTable,
  type Finding,
  keyFindings,
  listKeysByGlobalId,
} from '@tally/core';
import { type FileModel, readIfc, reportStalls, streamMeshes, takeOffIfc } from '@tally/ifc';
import { readTableFile } from '../engine/table-files.ts';
import { writeWhole } from './file-store.ts';
import { FileStorePaths } from './file-store-paths.ts';
import type { ImportFigures, ImportMessage, ImportOrder } from './import-messages.ts';
import { PicturePacker } from './picture-packer.ts';

/** Runs in a worker thread: a file becomes an element table (figures first), then a picture in chunks. */
async function run(order: ImportOrder): Promise<void> {
  const bytes = readFileSync(order.filePath);
  const store = new FileStorePaths(order.storeRoot);
  if (order.pictureOf !== null) {
    const model = readAgain(bytes);
    if (model) send({ kind: 'done', ...(await takePicture(order, bytes, model, store)) });
    return;
  }
  const taken = await takeFigures(order, bytes, store);
  if (!taken) return;
  if (!order.isPictureFirst) send({ kind: 'figures', figures: taken.figures });
  const picture = await takePicture(order, bytes, taken.model, store);
  if (order.isPictureFirst) send({ kind: 'figures', figures: { ...taken.figures, chunks: picture.chunks } });
  send({ kind: 'done', ...picture });
}

function send(message: ImportMessage): void {
  parentPort!.postMessage(message);
}

function readAgain(bytes: Uint8Array): FileModel | null {
  const read = readIfc(bytes);
  if (!read.ok) send({ kind: 'failed', problem: read.problem });
  return read.ok ? read.value : null;
}

async function takeFigures(
  order: ImportOrder,
  bytes: Uint8Array,
  store: FileStorePaths,
): Promise<{ model: FileModel; figures: ImportFigures } | null> {
  const taken = await takeOffIfc(bytes, {
    onProgress: (stage, share) => send({ kind: 'progress', stage, share: share * 0.6 }),
  });
  if (!taken.ok) {
    send({ kind: 'failed', problem: taken.problem });
    return null;
  }
  const { elements, findings, model, site } = taken.value;
  if (elements.length === 0) {
    const damage = findings[0] ? ` ${findings[0].message}` : '';
    send({
      kind: 'failed',
      problem: {
        code: 'file-without-elements',
        message: `The file holds no building elements.${damage}`,
        remedy: 'Check what was exported.',
      },
    });
    return null;
  }
  const before = order.beforePath ? readTableFile(order.beforePath) : null;
  const plain = buildElementTable(elements, undefined, site);
  const { keys, matched, nextKey } = assignElementKeys(before, plain, order.nextKey);
  const encoded = gzipSync(encodeElementTable({ ...plain, keys }), { level: 6 });
  const tableHash = createHash('sha256').update(encoded).digest('hex');
  if (!existsSync(store.tablePath(tableHash))) writeWhole(store.tablePath(tableHash), encoded);
  const keysOf = listKeysByGlobalId({ ...plain, keys });
  const figures: ImportFigures = {
    tableHash,
    elements: elements.length,
    matched,
    known: before?.count ?? 0,
    nextKey,
    schema: model.schema,
    lengthUnit: model.units.lengthName,
    findings: keyFindings(findings, (id) => keysOf.get(id)),
    chunks: null,
  };
  return { model, figures };
}

async function takePicture(
  order: ImportOrder,
  bytes: Uint8Array,
  model: FileModel,
  store: FileStorePaths,
): Promise<{ chunks: number; findings: readonly Finding[] }> {
  const rowOf = new Map(model.elements.map((e, row) => [e.id, row]));
  const drawn = model.elements.filter((e) => e.body !== null && e.group !== 'space');
  let chunks = 0;
  let done = 0;
  const packer = new PicturePacker((chunk) => {
    writeWhole(store.picturePath(order.revisionId, chunks), gzipSync(chunk, { level: 4 }));
    chunks++;
    if (!order.isPictureFirst) send({ kind: 'chunk', chunks, share: done / drawn.length });
  });
  const outcome = await streamMeshes({
    bytes,
    ids: drawn.map((e) => e.id),
    onMesh: (id, pieces) => {
      packer.add(rowOf.get(id)!, pieces);
      if (++done % 200 === 0) send({ kind: 'progress', stage: 'Drawing', share: 0.6 + (0.4 * done) / drawn.length });
    },
  });
  packer.flush();
  return { chunks, findings: reportStalls(outcome, new Map(model.elements.map((e) => [e.id, e]))) };
}

run(workerData as ImportOrder).catch((error: unknown) =>
  send({
    kind: 'failed',
    problem: {
      code: 'import-failed',
      message: `The import failed: ${error instanceof Error ? error.message : String(error)}`,
      remedy: 'Try again; if it stays, send us the file.',
    },
  }),
);

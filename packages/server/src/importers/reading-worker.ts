import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import { gzipSync } from 'node:zlib';
import { assignElementKeys, buildElementTable, encodeElementTable, keyFindings, listKeysByGlobalId } from '@tally/core';
import { type FileModel, type ModelTakeoff, readIfc, takeOffIfc } from '@tally/ifc';
import { readNamedFile, readTableFile } from '../engine/table-files.ts';
import { writeWhole } from './file-store.ts';
import { FileStorePaths } from './file-store-paths.ts';
import type { DrawnElement, ImportFigures, ReadingMessage, ReadingOrder } from './import-messages.ts';

/** Runs in a worker thread: a file becomes an element table, and the list of what is drawn of it. */
async function run({ filePath, storeRoot, identity }: ReadingOrder): Promise<void> {
  const bytes = readFileSync(filePath);
  if (identity === null) {
    const read = readIfc(bytes);
    if (read.ok) send({ kind: 'read', figures: null, drawn: listDrawn(read.value) });
    else send({ kind: 'failed', problem: read.problem });
    return;
  }
  const taken = await takeOffIfc(bytes, {
    onProgress: (stage, share) => send({ kind: 'progress', stage, share: share * 0.6 }),
  });
  if (!taken.ok) return send({ kind: 'failed', problem: taken.problem });
  const { elements, findings, model } = taken.value;
  if (elements.length === 0) {
    const damage = findings[0] ? ` ${findings[0].message}` : '';
    return send({
      kind: 'failed',
      problem: {
        code: 'file-without-elements',
        message: `The file holds no building elements.${damage}`,
        remedy: 'Check what was exported.',
      },
    });
  }
  const figures = storeTable(taken.value, identity, new FileStorePaths(storeRoot));
  send({ kind: 'read', figures, drawn: listDrawn(model) });
}

function storeTable(
  { elements, findings, model, site }: ModelTakeoff,
  { beforePath, keysPath, nextKey: firstKey }: NonNullable<ReadingOrder['identity']>,
  store: FileStorePaths,
): ImportFigures {
  const before = beforePath ? readTableFile(beforePath) : null;
  const past = keysPath ? (JSON.parse(Buffer.from(readNamedFile(keysPath)).toString()) as [string, number][]) : [];
  const plain = buildElementTable(elements, undefined, site);
  const { keys, matched, nextKey, known } = assignElementKeys(before, plain, firstKey, new Map(past));
  const keysOf = listKeysByGlobalId({ ...plain, keys });
  const keysText = JSON.stringify([...known].sort(([, a], [, b]) => a - b));
  return {
    keysHash: storeNamed(Buffer.from(keysText), (hash) => store.keysPath(hash)),
    tableHash: storeNamed(encodeElementTable({ ...plain, keys }), (hash) => store.tablePath(hash)),
    elements: elements.length,
    matched,
    known: before?.count ?? 0,
    nextKey,
    schema: model.schema,
    lengthUnit: model.units.lengthName,
    findings: keyFindings(findings, (id) => keysOf.get(id)),
  };
}

/** Packs and stores content under the hash of it. */
function storeNamed(content: Uint8Array, pathOf: (hash: string) => string): string {
  const packed = gzipSync(content, { level: 6 });
  const hash = createHash('sha256').update(packed).digest('hex');
  const path = pathOf(hash);
  // One of this name that was damaged since is written over.
  if (!existsSync(path) || !readFileSync(path).equals(packed)) writeWhole(path, packed);
  return hash;
}

function listDrawn({ elements }: FileModel): DrawnElement[] {
  return elements.flatMap(({ id, body, group, globalId, ifcClass, name }, row) =>
    body !== null && group !== 'space' ? [{ id, row, globalId, ifcClass, name }] : [],
  );
}

function send(message: ReadingMessage): void {
  parentPort!.postMessage(message);
}

run(workerData as ReadingOrder).catch((error: unknown) =>
  send({
    kind: 'failed',
    problem: {
      code: 'import-failed',
      message: `The import failed: ${error instanceof Error ? error.message : String(error)}`,
      remedy: 'Try again; if it stays, send us the file.',
    },
  }),
);

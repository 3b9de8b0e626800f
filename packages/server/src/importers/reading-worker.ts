import { readFileSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { buildElementTable, keyFindings, listKeysByIdentity } from '@tally/core';
import { type FileModel, type ModelTakeoff, readFileTime, readIfc, takeOffIfc } from '@tally/ifc';
import { FileStorePaths } from './file-store-paths.ts';
import type { DrawnElement, ImportFigures, ReadingMessage, ReadingOrder } from './import-messages.ts';
import { storeTable } from './store-table.ts';

/** Runs in a worker thread, for one order after another: a file becomes an element table, and the list of what is drawn of it. */
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
  const stored = storeFigures(taken.value, identity, new FileStorePaths(storeRoot));
  const figures = { ...stored, fileTime: readFileTime(bytes) };
  send({ kind: 'read', figures, drawn: listDrawn(model) });
}

function storeFigures(
  { elements, findings, model, site }: ModelTakeoff,
  identity: NonNullable<ReadingOrder['identity']>,
  store: FileStorePaths,
): Omit<ImportFigures, 'fileTime'> {
  const { table, before, ...stored } = storeTable(buildElementTable(elements, undefined, site), identity, store);
  const keysOf = listKeysByIdentity(table);
  return {
    ...stored,
    elements: elements.length,
    known: before?.count ?? 0,
    schema: model.schema,
    lengthUnit: model.units.lengthName,
    findings: keyFindings(findings, (id) => keysOf.get(id)),
  };
}

function listDrawn({ elements }: FileModel): DrawnElement[] {
  return elements.flatMap(({ id, body, group, globalId, ifcClass, name }, row) =>
    body !== null && group !== 'space' ? [{ id, row, globalId, ifcClass, name }] : [],
  );
}

function send(message: ReadingMessage): void {
  parentPort!.postMessage(message);
}

parentPort!.on('message', (order: ReadingOrder) => {
  run(order).catch((error: unknown) =>
    send({
      kind: 'failed',
      problem: {
        code: 'import-failed',
        message: `The import failed: ${error instanceof Error ? error.message : String(error)}`,
        remedy: 'Try again; if it stays, send us the file.',
      },
    }),
  );
});

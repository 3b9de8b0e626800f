import { parentPort, workerData } from 'node:worker_threads';
import {
  buildElementTable,
  diffElements,
  type ElementTable,
  type Finding,
  type ListPreviewDto,
  type ListProfile,
  type Problem,
  type ReadList,
  readList,
  toListElements,
} from '@tally/core';
import { readSheets } from '@tally/files';
import { FileStorePaths } from './file-store-paths.ts';
import type { ListOrder, ListReply, ReadingMessage } from './import-messages.ts';
import { giveKeys, storeTable } from './store-table.ts';

/** Refused rows that are told one by one. */
const MOST_TOLD = 200;
/** Lines that are shown before a list is taken. */
const SHOWN_LINES = 100;

/** Runs in a worker thread: a list becomes an element table, or is looked at before it does. */
async function run({ filePath, storeRoot, profile, identity, isPreview }: ListOrder): Promise<void> {
  const sheets = await readSheets(filePath);
  const read = sheets.ok ? readList(sheets.value, profile) : sheets;
  if (!read.ok) return send({ kind: 'failed', problem: read.problem });
  const plain = buildTable(read.value, profile);
  if (isPreview) return send({ kind: 'preview', preview: lookAt(read.value, plain, identity) });
  const { table, before, ...stored } = storeTable(plain, identity, new FileStorePaths(storeRoot));
  const figures = {
    ...stored,
    elements: table.count,
    known: before?.count ?? 0,
    schema: 'List',
    fileTime: null,
    lengthUnit: '',
    findings: listFindings(read.value),
  };
  send({ kind: 'read', figures, drawn: [] });
}

function buildTable({ lines }: ReadList, { pricesCount }: ListProfile): ElementTable {
  return { ...buildElementTable(toListElements(lines)), origin: { kind: 'list', pricesCount } };
}

function lookAt(
  { lines, refused, alike, headings }: ReadList,
  plain: ElementTable,
  identity: ListOrder['identity'],
): Omit<ListPreviewDto, 'known'> & { readonly codes: readonly string[] } {
  const { table, before } = giveKeys(plain, identity);
  const diff = before ? diffElements(before, table) : null;
  return {
    lines: lines.length,
    sample: lines.slice(0, SHOWN_LINES).map(({ key: _, unit, ...line }) => ({ ...line, unit: unit.symbol })),
    refused: refused.slice(0, MOST_TOLD),
    refusedCount: refused.length,
    alike: alike.length,
    headings: headings.slice(0, MOST_TOLD),
    headingCount: headings.length,
    codes: lines.flatMap((l) => (l.code === null ? [] : [l.code])),
    priced: lines.filter((l) => l.price !== null).length,
    came: diff ? diff.added.length : lines.length,
    went: diff?.removed.length ?? 0,
    changed: diff?.changed.length ?? 0,
  };
}

function listFindings({ refused, alike }: ReadList): Finding[] {
  const about = { globalIds: [], cause: 'rows of the list' };
  const told = refused.slice(0, MOST_TOLD).map(
    ({ row, text, reason }): Finding => ({
      ...about,
      code: 'list-row-refused',
      severity: 'warning',
      message: `Row ${row}, ${text}: ${reason}`,
    }),
  );
  if (refused.length > MOST_TOLD)
    told.push({
      ...about,
      code: 'list-row-refused',
      severity: 'warning',
      message: `${refused.length - MOST_TOLD} more rows could not be used.`,
    });
  if (alike.length > 0)
    told.push({
      globalIds: [],
      code: 'list-key-twice',
      severity: 'notice',
      message: `${alike.length} lines share their key with a line above, the first of them in row ${alike[0]}.`,
    });
  return told;
}

function send(message: ReadingMessage | ListReply): void {
  parentPort!.postMessage(message);
}

run(workerData as ListOrder).catch((error: unknown) => {
  const problem: Problem = {
    code: 'import-failed',
    message: `The list could not be read: ${error instanceof Error ? error.message : String(error)}`,
    remedy: 'Save it again, or bring it as CSV.',
  };
  send({ kind: 'failed', problem });
});

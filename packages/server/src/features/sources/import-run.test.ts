import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import type { ReadingMessage, ReadingOrder } from '../../importers/import-messages.ts';
import { ImportRun, ImportStalled } from './import-run.ts';

const root = mkdtempSync(join(tmpdir(), 'tally-run-'));
const filePath = join(root, 'a.ifc');
const order: ReadingOrder = { filePath, storeRoot: root, identity: { beforePath: null, keysPath: null, nextKey: 1 } };
beforeAll(() => {
  mkdirSync(join(root, 'tables'));
  writeFileSync(filePath, writeBoathouse(REVISIONS.R1));
});

describe('one run of an import', () => {
  it('ends when all that was said is handled, in the order it was said', async () => {
    const kinds: string[] = [];
    let isHandling = false;
    await new ImportRun('reading', order, 1, async ({ kind }: ReadingMessage) => {
      expect(isHandling).toBe(false);
      isHandling = true;
      await new Promise((done) => setTimeout(done, 5));
      isHandling = false;
      if (kinds.at(-1) !== kind) kinds.push(kind);
    }).done;
    expect(kinds[0]).toBe('progress');
    expect(kinds.filter((k) => k !== 'progress')).toEqual(['read']);
  }, 60_000);
  it('that makes no headway is ended', async () => {
    await expect(new ImportRun('reading', order, 1, async () => undefined, 20).done).rejects.toBeInstanceOf(
      ImportStalled,
    );
  }, 60_000);
  it('whose message cannot be stored fails with that reason, and nothing else', async () => {
    const unhandled: unknown[] = [];
    const listen = (reason: unknown) => void unhandled.push(reason);
    process.on('unhandledRejection', listen);
    const run = new ImportRun('reading', order, 1, async ({ kind }) => {
      if (kind === 'read') throw new Error('the table is gone');
    });
    await expect(run.done).rejects.toThrow('the table is gone');
    await new Promise((done) => setTimeout(done, 50));
    process.off('unhandledRejection', listen);
    expect(unhandled).toEqual([]);
  }, 60_000);
  it('that is stopped ends without a failure', async () => {
    const run = new ImportRun('reading', order, 1, async () => undefined);
    setTimeout(() => void run.stop(), 300);
    await expect(run.done).resolves.toBeUndefined();
  }, 60_000);
});

import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import type { ReadingMessage, ReadingOrder } from '../../importers/import-messages.ts';
import { ReaderKeep } from '../../importers/reader-keep.ts';
import { ImportRun, ImportStalled } from './import-run.ts';

const root = mkdtempSync(join(tmpdir(), 'tally-run-'));
const filePath = join(root, 'a.ifc');
const order: ReadingOrder = { filePath, storeRoot: root, identity: { beforePath: null, keysPath: null, nextKey: 1 } };
const keep = new ReaderKeep();
afterAll(() => keep.close());
beforeAll(() => {
  mkdirSync(join(root, 'tables'));
  writeFileSync(filePath, writeBoathouse(REVISIONS.R1));
});

describe('one run of an import', () => {
  it('ends when all that was said is handled, in the order it was said', async () => {
    const kinds: string[] = [];
    let isHandling = false;
    await new ImportRun(keep, 'reading', order, 1, async ({ kind }: ReadingMessage) => {
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
    await expect(new ImportRun(keep, 'reading', order, 1, async () => undefined, 20).done).rejects.toBeInstanceOf(
      ImportStalled,
    );
  }, 60_000);
  it('whose message cannot be stored fails with that reason, and nothing else', async () => {
    const unhandled: unknown[] = [];
    const listen = (reason: unknown) => void unhandled.push(reason);
    process.on('unhandledRejection', listen);
    const run = new ImportRun(keep, 'reading', order, 1, async ({ kind }) => {
      if (kind === 'read') throw new Error('the table is gone');
    });
    await expect(run.done).rejects.toThrow('the table is gone');
    await new Promise((done) => setTimeout(done, 50));
    process.off('unhandledRejection', listen);
    expect(unhandled).toEqual([]);
  }, 60_000);
  it('that is stopped ends without a failure', async () => {
    const run = new ImportRun(keep, 'reading', order, 1, async () => undefined);
    setTimeout(() => void run.stop(), 300);
    await expect(run.done).resolves.toBeUndefined();
  }, 60_000);
});

describe('the thread that reads models', () => {
  const read = async (from: ReaderKeep, bytes = 1): Promise<string[]> => {
    const kinds: string[] = [];
    await new ImportRun(from, 'reading', order, bytes, async ({ kind }) => void kinds.push(kind)).done;
    return kinds.filter((kind) => kind !== 'progress');
  };
  it('is kept for the next file, and reads it as the first one', async () => {
    expect(await read(keep)).toEqual(['read']);
    const thread = keep.take();
    const { threadId } = thread;
    await keep.give(thread);
    expect(await read(keep)).toEqual(['read']);
    const again = keep.take();
    expect(again.threadId).toBe(threadId);
    await keep.give(again);
  }, 60_000);
  it('has a fellow for a second file at the same time, of whom one is kept', async () => {
    expect(await Promise.all([read(keep), read(keep)])).toEqual([['read'], ['read']]);
    const [first, second] = [keep.take(), keep.take()];
    await Promise.all([keep.give(first), keep.give(second)]);
    expect([first, second].filter((t) => t.threadId === -1)).toHaveLength(1);
  }, 60_000);
  it('that is killed while it waits is told nobody, and the next file has another', async () => {
    const thread = keep.take();
    await keep.give(thread);
    await thread.terminate();
    expect(await read(keep)).toEqual(['read']);
  }, 60_000);
  it('is ended with what made no headway, was stopped, or was large', async () => {
    const thread = keep.take();
    await keep.give(thread);
    await expect(new ImportRun(keep, 'reading', order, 1, async () => undefined, 1).done).rejects.toThrow('no headway');
    expect(thread.threadId).toBe(-1);
    const run = new ImportRun(keep, 'reading', order, 1, async () => undefined);
    await run.stop();
    await run.done;
    expect(await read(keep, 9 * 1024 ** 2)).toEqual(['read']);
    const next = keep.take();
    const code = await new Promise((done) => {
      next.on('message', done);
      next.postMessage({ ...order, filePath: join(root, 'gone.ifc') });
    });
    expect(code).toMatchObject({ kind: 'failed' });
    await keep.give(next);
  }, 60_000);
  it('is ended when nothing was asked of it for long, and when the server ends', async () => {
    const short = new ReaderKeep(30);
    const thread = short.take();
    const ended = new Promise((done) => thread.once('exit', done));
    await short.give(thread);
    await ended;
    const late = short.take();
    await short.close();
    await short.give(late);
    expect(late.threadId).toBe(-1);
  }, 60_000);
});

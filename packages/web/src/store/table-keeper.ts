import type { Pin, PricingRule } from '@tally/core';
import { wrap } from 'comlink';
import { getBytes } from './client.ts';
import { openSeen, type PackedSeen } from './packed-lists.ts';
import type { SeenTable } from './seen-table.ts';
import { applyPatch } from './table-patch.ts';
import { type SourceMapping, TableReader, type TablesAnswer, type TablesRequest } from './table-reader.ts';

/** What reads tables: in a worker, or here. */
export interface TableSource {
  read(request: TablesRequest): Promise<TablesAnswer>;
  map(projectId: string, rules: readonly PricingRule[], pins: readonly Pin[]): Promise<SourceMapping[]>;
  forget(projectId: string): Promise<void>;
  close(): void;
  /** Settles when it died. */
  readonly died: Promise<never>;
}

const NEVER = new Promise<never>(() => undefined);

/** Where there are no workers (in tests), tables are read beside nobody. */
function openHere(): TableSource {
  const reader = new TableReader(getBytes);
  return {
    read: (request) => reader.read(request),
    map: async (...asked) => reader.map(...asked),
    forget: async (projectId) => reader.forget(projectId),
    close: () => undefined,
    died: NEVER,
  };
}

function openWorker(): TableSource {
  const worker = new Worker(new URL('./tables-worker.ts', import.meta.url), { type: 'module' });
  const reader = wrap<TableReader>(worker);
  const died = new Promise<never>((_, fail) => {
    worker.onerror = (event) => fail(new Error(`The elements could not be prepared: ${event.message}`));
  });
  died.catch(() => undefined);
  return {
    read: (request) => reader.read(request),
    map: (...asked) => reader.map(...asked),
    forget: (projectId) => reader.forget(projectId),
    close: () => worker.terminate(),
    died,
  };
}

const openSource = (): TableSource => (typeof Worker === 'undefined' ? openHere() : openWorker());

/** Times that what reads tables is started again after it died. */
const MOST_STARTS = 3;

/**
 * Holds the tables of open projects as they were last read. One question is under way at a time; of those that wait, only the newest of a
 * project is asked, the others are answered with it.
 */
export class TableKeeper {
  private source: TableSource | null = null;
  private starts = 0;
  /** As they came: what changes is told of that. */
  private readonly held = new Map<string, ReadonlyMap<string, PackedSeen>>();
  private readonly waiting = new Map<string, { request: TablesRequest; answer: Promise<readonly SeenTable[]> }>();
  private last: Promise<unknown> = Promise.resolve();

  constructor(private readonly open: () => TableSource = openSource) {}

  /** The elements of a project's sources, with what it adds to them. Errors: they cannot be read, or what reads them died too often. */
  read(request: TablesRequest): Promise<readonly SeenTable[]> {
    const { projectId } = request;
    const known = this.waiting.get(projectId);
    if (known) {
      known.request = request;
      return known.answer;
    }
    const answer = this.last.then(() => {
      const { request: newest } = this.waiting.get(projectId)!;
      this.waiting.delete(projectId);
      return this.ask(newest);
    });
    this.waiting.set(projectId, { request, answer });
    this.last = answer.catch(() => undefined);
    return answer;
  }

  /** Who decides about the elements of a project, as they were read last, by source. Errors: what works it out died. */
  map(projectId: string, rules: readonly PricingRule[], pins: readonly Pin[]): Promise<SourceMapping[]> {
    const answer = this.last.then(() =>
      this.source ? Promise.race([this.source.map(projectId, rules, pins), this.source.died]) : [],
    );
    this.last = answer.catch(() => undefined);
    return answer;
  }

  /** Lets go of a project that nobody looks at any more. */
  forget(projectId: string): void {
    this.last = this.last.then(async () => {
      if (this.waiting.has(projectId)) return;
      this.held.delete(projectId);
      await Promise.race([this.source?.forget(projectId), this.source?.died]).catch(() => undefined);
    });
  }

  private async ask(request: TablesRequest): Promise<readonly SeenTable[]> {
    const source = this.source ?? this.start();
    let isDead = false;
    try {
      const answer = await Promise.race([
        source.read(request),
        source.died.catch((error) => {
          isDead = true;
          throw error;
        }),
      ]);
      const before = this.held.get(request.projectId);
      const tables = answer.map(({ id, patch }) => applyPatch(before?.get(id), patch) as PackedSeen);
      this.held.set(request.projectId, new Map(tables.map((t) => [t.id, t])));
      return tables.map(openSeen);
    } catch (error) {
      if (!isDead) throw error;
      this.end();
      return this.ask(request);
    }
  }

  private start(): TableSource {
    if (this.starts >= MOST_STARTS)
      throw new Error('The elements could not be prepared: it failed several times. Reload the page.');
    this.starts++;
    this.source = this.open();
    return this.source;
  }

  /** What was told is lost with what told it: all is read anew. */
  private end(): void {
    this.source?.close();
    this.source = null;
    this.held.clear();
  }
}

export const tableKeeper = new TableKeeper();

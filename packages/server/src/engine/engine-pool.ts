import { totalmem } from 'node:os';
import type { Worker } from 'node:worker_threads';
import type { MoveDto, PricingBasis } from '@tally/core';
import { startWorker } from '@tally/ifc';
import { HttpProblem } from '../http/http-problem.ts';
import {
  type PackedReading,
  type PlanQueries,
  type PlanReply,
  type PlanRequest,
  PREVIEW_DROPPED,
  type ReadingQuery,
} from './plan-messages.ts';
import { PreviewDropped, PreviewGate } from './preview-gate.ts';
import { PreviewLane } from './preview-lane.ts';

/** The thread of a plan is gone: what was asked has no answer, and can be asked again. */
export class EngineGone extends HttpProblem {
  constructor(cause?: string) {
    super(503, {
      code: 'calculation-stopped',
      message: `The calculation stopped${cause ? `: ${cause}` : ''}.`,
      remedy: 'Try again; nothing that was saved is lost.',
    });
  }
}

/** Readings that are kept at most. */
const MOST_READINGS = 12;

/** A plan worker of one project. */
export class PlanEngine {
  private readonly gate = new PreviewGate();
  private readonly previews = new PreviewLane();
  private readonly worker: Worker = startWorker(import.meta.url, 'plan-worker', this.gate.memory);
  private readonly waiting = new Map<number, { resolve: (value: unknown) => void; reject: (error: Error) => void }>();
  private last = 0;
  private readonly readings = new Map<string, Promise<PackedReading>>();
  isDead = false;
  /** The last update that was asked for, until it is done. */
  private updated: Promise<unknown> = Promise.resolve();
  private lastSeq: number | null = null;
  /** State that its plan is certain to be of; null while it is updated. */
  private held: number | null = null;

  constructor() {
    this.worker.on('message', (reply: PlanReply) => {
      const promise = this.waiting.get(reply.id);
      this.waiting.delete(reply.id);
      if ('error' in reply)
        promise?.reject(
          reply.code === PREVIEW_DROPPED
            ? new PreviewDropped()
            : Object.assign(new Error(reply.error), { code: reply.code }),
        );
      else promise?.resolve(reply.value);
    });
    const die = (cause?: string) => {
      this.isDead = true;
      for (const { reject } of this.waiting.values()) reject(new EngineGone(cause));
      this.waiting.clear();
    };
    this.worker.on('error', (error) => die(error.message));
    this.worker.on('exit', () => die());
  }

  /** Sequence number of the state it holds; null while it holds none. */
  get seq(): number | null {
    return this.lastSeq;
  }

  set seq(seq: number | null) {
    this.lastSeq = seq;
    this.held = seq;
  }

  /**
   * How the plan would move under another basis. Errors: PreviewDropped if a change came first or nobody waits for it any more.
   * @param seq the state that the basis was made of: what is compared with is that one
   * @param signal aborted when nobody waits any more
   */
  preview(basis: PricingBasis, seq: number, signal?: AbortSignal): Promise<MoveDto> {
    const request = { query: 'preview', args: [basis] } as const;
    return this.runApart<MoveDto>(request, signal, () => this.held === seq);
  }

  /**
   * How two states differ. It ends early for a change, as a preview does. Errors: PreviewDropped if a change came first or nobody waits
   * for it any more.
   * @param signal aborted when nobody waits any more
   */
  compare(args: Parameters<PlanQueries['compare']>, signal?: AbortSignal): Promise<ReturnType<PlanQueries['compare']>> {
    return this.runApart({ query: 'compare', args }, signal, () => true);
  }

  /** Asks for what gives way to changes, one after the other. @param isStill whether it is still to begin when its turn has come */
  private runApart<T>(
    request: Omit<PlanRequest, 'id'>,
    signal: AbortSignal | undefined,
    isStill: () => boolean,
  ): Promise<T> {
    let id = 0;
    return this.previews.runNext(
      async () => {
        await this.updated;
        if (!isStill() || signal?.aborted) throw new PreviewDropped();
        id = this.last + 1;
        return (await this.send(request)) as T;
      },
      () => this.gate.drop(id),
      signal,
    );
  }

  /** Asks the plan. */
  async ask<Q extends keyof PlanQueries>(
    query: Q,
    ...args: Parameters<PlanQueries[Q]>
  ): Promise<ReturnType<PlanQueries[Q]>> {
    if (query === 'update') {
      this.gate.countUpdates(1);
      this.held = null;
    }
    const asked = this.send({ query, args }).finally(() => {
      if (query === 'update') this.gate.countUpdates(-1);
    });
    if (query === 'update') this.updated = asked.catch(() => undefined);
    const answer = await asked;
    // What was read of the state before served those who asked while the new one was worked out, and serves no one else.
    if (query === 'update') this.readings.clear();
    return answer as ReturnType<PlanQueries[Q]>;
  }

  /**
   * A reading of the plan as it is sent. Many who read the same of one state are answered by one reading, packed once; while the plan is
   * updated they have the state before, as nobody has been told yet that there is another.
   */
  read<Q extends ReadingQuery>(query: Q, ...args: Parameters<PlanQueries[Q]>): Promise<PackedReading> {
    const key = JSON.stringify([query, args]);
    const known = this.readings.get(key);
    if (known) return known;
    const reading = this.send({ query, args, isPacked: true }) as Promise<PackedReading>;
    if (this.readings.size >= MOST_READINGS) this.readings.clear();
    this.readings.set(key, reading);
    reading.catch(() => this.readings.delete(key));
    return reading;
  }

  private send(request: Omit<PlanRequest, 'id'>): Promise<unknown> {
    if (this.isDead) return Promise.reject(new EngineGone());
    return new Promise((resolve, reject) => {
      const id = ++this.last;
      this.waiting.set(id, { resolve, reject });
      this.worker.postMessage({ id, ...request } satisfies PlanRequest);
    });
  }

  async stop(): Promise<void> {
    await this.worker.terminate();
  }
}

/** How much may be kept ready. */
export interface PoolBounds {
  /** Memory of the process above which plans that nobody uses are put away. */
  readonly bytes: number;
  /** Plans that are kept ready at most. */
  readonly plans: number;
  /** How long a plan waits for one that is in use, when there is no room. */
  readonly waitMs: number;
}

const BOUNDS: PoolBounds = { bytes: Math.min(totalmem() * 0.4, 8 * 1024 ** 3), plans: 24, waitMs: 20_000 };

interface Slot {
  readonly engine: Promise<PlanEngine>;
  /** Tasks that use it now: it is not put away under them. */
  leases: number;
}

/**
 * One long-lived engine per project in use. `load` brings a fresh one up to the database's truth. What is leased is never put away; the
 * ones not used for longest go when memory or number is above its bound.
 */
export class EnginePool {
  private readonly slots = new Map<string, Slot>();
  private readonly released: (() => void)[] = [];
  private memoryRead = { at: 0, bytes: 0 };

  constructor(
    private readonly load: (projectId: string, engine: PlanEngine) => Promise<void>,
    private readonly bounds: PoolBounds = BOUNDS,
  ) {}

  /** True if a plan of the project is ready or being made ready. */
  has(projectId: string): boolean {
    return this.slots.has(projectId);
  }

  /** Projects and options whose plans are ready or being made ready. */
  listIds(): string[] {
    return [...this.slots.keys()];
  }

  /** Number of plans that are ready or being made ready. */
  get size(): number {
    return this.slots.size;
  }

  /**
   * Does something with the engine of a project, which stays until it is done. What an engine is asked changes nothing but itself: a
   * task whose engine goes away under it is done once more. Errors: 503 if there is no room, or it goes away again.
   */
  async withEngine<T>(projectId: string, task: (engine: PlanEngine) => Promise<T>): Promise<T> {
    try {
      return await this.withEngineOnce(projectId, task);
    } catch (error) {
      if (error instanceof EngineGone) return this.withEngineOnce(projectId, task);
      throw error;
    }
  }

  private async withEngineOnce<T>(projectId: string, task: (engine: PlanEngine) => Promise<T>): Promise<T> {
    const slot = await this.lease(projectId);
    try {
      const engine = await slot.engine;
      if (engine.isDead) {
        this.forget(projectId, slot);
        throw new EngineGone();
      }
      return await task(engine);
    } catch (error) {
      if (error instanceof EngineGone) this.forget(projectId, slot);
      throw error;
    } finally {
      slot.leases--;
      // All look again: one that has given up since must not have the only call.
      for (const tell of this.released.splice(0)) tell();
      this.makeRoom();
    }
  }

  private async lease(projectId: string): Promise<Slot> {
    if (!this.slots.has(projectId) && !this.makeRoom(1)) await this.waitForRoom();
    let slot = this.slots.get(projectId);
    if (!slot) {
      const made: Slot = { engine: this.start(projectId), leases: 0 };
      slot = made;
      made.engine.catch(() => this.forget(projectId, made));
    }
    slot.leases++;
    // To the end: the first is the one not used for longest.
    this.slots.delete(projectId);
    this.slots.set(projectId, slot);
    return slot;
  }

  /** Puts idle plans away until there is room for so many more; false if there is none. */
  private makeRoom(more = 0): boolean {
    for (const [projectId, slot] of this.slots) {
      const isRoom = this.slots.size + more <= this.bounds.plans && this.readMemory() <= this.bounds.bytes;
      if (isRoom) return true;
      if (slot.leases === 0) this.putAway(projectId, slot);
    }
    return this.slots.size + more <= this.bounds.plans;
  }

  /** Memory of the process, read again after a second: reading it takes as long as answering a request. */
  private readMemory(): number {
    const now = Date.now();
    if (now - this.memoryRead.at > 1000) this.memoryRead = { at: now, bytes: process.memoryUsage.rss() };
    return this.memoryRead.bytes;
  }

  /** Waits until a plan in use is given back. Errors: 503 after the bounded wait. */
  private async waitForRoom(): Promise<void> {
    const end = Date.now() + this.bounds.waitMs;
    while (!this.makeRoom(1)) {
      if (Date.now() >= end)
        throw new HttpProblem(503, {
          code: 'server-busy',
          message: 'More projects are being calculated than there is room for.',
          remedy: 'Try again in a moment.',
        });
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, Math.max(1, end - Date.now()));
        this.released.push(() => {
          clearTimeout(timer);
          resolve();
        });
      });
    }
  }

  private forget(projectId: string, slot: Slot): void {
    if (this.slots.get(projectId) === slot) this.slots.delete(projectId);
  }

  private putAway(projectId: string, slot: Slot): void {
    this.forget(projectId, slot);
    slot.engine.then((e) => e.stop()).catch(() => undefined);
  }

  /** Puts the engine of a project away, so that the next one is made from the database's truth. */
  drop(projectId: string): void {
    const slot = this.slots.get(projectId);
    if (slot) this.putAway(projectId, slot);
  }

  async close(): Promise<void> {
    const slots = [...this.slots.values()];
    this.slots.clear();
    await Promise.all(slots.map((slot) => slot.engine.then((e) => e.stop()).catch(() => undefined)));
  }

  private async start(projectId: string): Promise<PlanEngine> {
    const engine = new PlanEngine();
    try {
      await this.load(projectId, engine);
      return engine;
    } catch (error) {
      await engine.stop();
      throw error;
    }
  }
}

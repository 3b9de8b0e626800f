import type { Worker } from 'node:worker_threads';
import { startWorker } from '@tally/ifc';
import type { PlanQueries, PlanReply, PlanRequest } from './plan-messages.ts';

/** Projects whose plan is kept ready at once; the one not used for longest is dropped first. */
const MOST_OPEN = 4;

/** A plan worker of one project. */
export class PlanEngine {
  private readonly worker: Worker = startWorker(import.meta.url, 'plan-worker', null);
  private readonly waiting = new Map<number, { resolve: (value: never) => void; reject: (error: Error) => void }>();
  private last = 0;
  isDead = false;

  constructor() {
    this.worker.on('message', (reply: PlanReply) => {
      const promise = this.waiting.get(reply.id);
      this.waiting.delete(reply.id);
      if ('error' in reply) promise?.reject(new Error(reply.error));
      else promise?.resolve(reply.value as never);
    });
    const die = (error: Error) => {
      this.isDead = true;
      for (const { reject } of this.waiting.values()) reject(error);
      this.waiting.clear();
    };
    this.worker.on('error', die);
    this.worker.on('exit', () => die(new Error('The calculation stopped; try again.')));
  }

  ask<Q extends keyof PlanQueries>(query: Q, ...args: Parameters<PlanQueries[Q]>): Promise<ReturnType<PlanQueries[Q]>> {
    if (this.isDead) return Promise.reject(new Error('The calculation stopped; try again.'));
    return new Promise((resolve, reject) => {
      const id = ++this.last;
      this.waiting.set(id, { resolve: resolve as (value: never) => void, reject });
      this.worker.postMessage({ id, query, args } satisfies PlanRequest);
    });
  }

  async stop(): Promise<void> {
    await this.worker.terminate();
  }
}

/** One long-lived engine per open project. `load` brings a fresh one up to the database's truth. */
export class EnginePool {
  private readonly engines = new Map<string, Promise<PlanEngine>>();

  constructor(private readonly load: (projectId: string, engine: PlanEngine) => Promise<void>) {}

  async get(projectId: string): Promise<PlanEngine> {
    const known = this.engines.get(projectId);
    const engine = known ? await known.catch(() => null) : null;
    if (engine && !engine.isDead) {
      // Move to the end: the first is the one not used for longest.
      this.engines.delete(projectId);
      this.engines.set(projectId, known!);
      return engine;
    }
    const started = this.start(projectId);
    this.engines.set(projectId, started);
    started.catch(() => this.engines.get(projectId) === started && this.engines.delete(projectId));
    while (this.engines.size > MOST_OPEN) await this.drop(this.engines.keys().next().value!);
    return started;
  }

  /** Asks the plan of a project without keeping it ready for that; the ones that are ready stay so. */
  async borrow<T>(projectId: string, use: (engine: PlanEngine) => Promise<T>): Promise<T> {
    const known = await this.engines.get(projectId)?.catch(() => null);
    if (known && !known.isDead) return use(known);
    const engine = await this.start(projectId);
    try {
      return await use(engine);
    } finally {
      await engine.stop();
    }
  }

  async drop(projectId: string): Promise<void> {
    const engine = this.engines.get(projectId);
    this.engines.delete(projectId);
    await engine?.then((e) => e.stop()).catch(() => undefined);
  }

  async close(): Promise<void> {
    await Promise.all([...this.engines.keys()].map((id) => this.drop(id)));
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

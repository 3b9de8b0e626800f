import { parentPort } from 'node:worker_threads';
import { LivePlan } from './live-plan.ts';
import type { PlanReply, PlanRequest } from './plan-messages.ts';

/** Runs in a worker thread: one live plan, asked by message. */
const plan = new LivePlan();

parentPort!.on('message', ({ id, query, args }: PlanRequest) => {
  try {
    const value = (plan[query] as (...a: unknown[]) => unknown)(...args);
    parentPort!.postMessage({ id, value } satisfies PlanReply);
  } catch (error) {
    parentPort!.postMessage({ id, error: error instanceof Error ? error.message : String(error) } satisfies PlanReply);
  }
});

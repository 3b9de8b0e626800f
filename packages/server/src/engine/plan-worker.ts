import { createHash } from 'node:crypto';
import { parentPort } from 'node:worker_threads';
import { gzipSync } from 'node:zlib';
import { LivePlan } from './live-plan.ts';
import type { PackedReading, PlanReply, PlanRequest } from './plan-messages.ts';

/** Runs in a worker thread: one live plan, asked by message. */
const plan = new LivePlan();

parentPort!.on('message', ({ id, query, args, isPacked }: PlanRequest) => {
  try {
    const answer = (plan[query] as (...a: unknown[]) => unknown)(...args);
    parentPort!.postMessage({ id, value: isPacked ? pack(answer) : answer } satisfies PlanReply);
  } catch (error) {
    const { message = String(error), code } = error as Error & { code?: string };
    parentPort!.postMessage({ id, error: message, code } satisfies PlanReply);
  }
});

function pack(answer: unknown): PackedReading {
  const text = JSON.stringify(answer);
  const tag = `"${createHash('sha256').update(text).digest('base64url').slice(0, 27)}"`;
  return { gzip: gzipSync(text, { level: 4 }), tag };
}

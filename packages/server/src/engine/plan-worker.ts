import { createHash } from 'node:crypto';
import { parentPort, workerData } from 'node:worker_threads';
import { gzipSync } from 'node:zlib';
import { LivePlan } from './live-plan.ts';
import { type PackedReading, type PlanReply, type PlanRequest, PREVIEW_DROPPED } from './plan-messages.ts';
import { PreviewGate } from './preview-gate.ts';

/** Runs in a worker thread: one live plan, asked by message. */
const plan = new LivePlan();
const gate = new PreviewGate(workerData as SharedArrayBuffer);

parentPort!.on('message', ({ id, query, args, isPacked }: PlanRequest) => {
  plan.onPreviewStep = () => {
    if (gate.isClosed(id)) throw Object.assign(new Error('The preview ended early.'), { code: PREVIEW_DROPPED });
  };
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

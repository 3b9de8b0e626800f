import { CIRCLE_SEGMENTS } from '@tally/core';
import type { MeshJob, MeshMessage, MeshPiece } from './mesh-messages.ts';
import { shortenTexts } from './shorten-texts.ts';
import { startWorker } from './start-worker.ts';

export interface MeshStreamOptions {
  readonly bytes: Uint8Array;
  readonly ids: readonly number[];
  readonly isGross?: boolean;
  /** Chords per full circle; those of pictures if absent. */
  readonly segments?: number;
  /** Called for each element in turn; no pieces if it has no picture. */
  readonly onMesh: (id: number, pieces: readonly MeshPiece[]) => void;
  readonly signal?: AbortSignal;
  /** Longest time on one element, ms. */
  readonly stallMs?: number;
}

export interface MeshStreamOutcome {
  /** Elements the reader never came back from; they were skipped. */
  readonly stalled: readonly number[];
  /** Why meshing ended early, if it did: the rest has no picture. */
  readonly failure: string | null;
}

const STALL_MS = 5000;
const MOST_RESTARTS = 3;
/** Opening is one step without a beat: it may take longer for big files. */
const OPEN_BYTES_PER_MS = 4000;
/** A thread may take so long to start on a busy machine; that says nothing about the file. */
const START_MS = 20_000;
const CHECK_MS = 200;

/**
 * Meshes elements in a worker that is watched: if one element takes longer than the limit the worker is ended and started
 * again without it, three times at most.
 */
export async function streamMeshes(options: MeshStreamOptions): Promise<MeshStreamOutcome> {
  const bytes = toShared(shortenTexts(options.bytes));
  const stalled: number[] = [];
  const left = new Set(options.ids);
  for (let start = 0; left.size > 0; start++) {
    options.signal?.throwIfAborted();
    if (start > MOST_RESTARTS) return { stalled, failure: `meshing stalled ${start} times` };
    const end = await runWorker({ ...options, bytes }, [...left], (id) => left.delete(id));
    if (end.kind === 'done') return { stalled, failure: null };
    if (end.kind === 'failed') return { stalled, failure: end.reason };
    if (end.culprit === null)
      return { stalled, failure: 'the geometry reader did not come back from opening the file' };
    stalled.push(end.culprit);
    left.delete(end.culprit);
  }
  return { stalled, failure: null };
}

type End = { kind: 'done' } | { kind: 'failed'; reason: string } | { kind: 'stalled'; culprit: number | null };

function runWorker(
  { bytes, isGross = false, segments = CIRCLE_SEGMENTS, onMesh, signal, stallMs = STALL_MS }: MeshStreamOptions,
  ids: number[],
  finished: (id: number) => void,
): Promise<End> {
  const heartbeat = new Int32Array(new SharedArrayBuffer(8));
  const job: MeshJob = { bytes, ids, isGross, segments, heartbeat };
  const worker = startWorker(import.meta.url, 'mesh-worker', job);
  return new Promise((resolve, reject) => {
    let beat = -1;
    let since = Date.now();
    let isOpen = false;
    let isStarted = false;
    const settle = (end: () => void) => {
      clearInterval(watch);
      signal?.removeEventListener('abort', abort);
      void worker.terminate().then(end, end);
    };
    const abort = () => settle(() => reject(signal!.reason));
    const watch = setInterval(() => {
      const now = Atomics.load(heartbeat, 0);
      if (now !== beat) {
        beat = now;
        since = Date.now();
      }
      const limit = isOpen ? stallMs : isStarted ? stallMs + bytes.length / OPEN_BYTES_PER_MS : START_MS;
      if (Date.now() - since > limit)
        settle(() => resolve({ kind: 'stalled', culprit: now > 0 ? Atomics.load(heartbeat, 1) : null }));
    }, CHECK_MS);
    signal?.addEventListener('abort', abort);
    worker.on('message', (message: MeshMessage) => {
      if (message.kind === 'started') {
        isStarted = true;
        since = Date.now();
      } else if (message.kind === 'opened') isOpen = true;
      else if (message.kind === 'mesh') {
        finished(message.id);
        onMesh(message.id, message.pieces);
      } else
        settle(() => resolve(message.kind === 'done' ? { kind: 'done' } : { kind: 'failed', reason: message.reason }));
    });
    worker.on('error', (error) => settle(() => resolve({ kind: 'failed', reason: error.message })));
  });
}

function toShared(bytes: Uint8Array): Uint8Array {
  if (bytes.buffer instanceof SharedArrayBuffer) return bytes;
  const shared = new Uint8Array(new SharedArrayBuffer(bytes.length));
  shared.set(bytes);
  return shared;
}

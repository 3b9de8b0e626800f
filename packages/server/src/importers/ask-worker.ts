import type { Worker } from 'node:worker_threads';

/**
 * The one answer of a worker, which ends with it. Errors: the worker's own; `silent` if it ends without a word.
 * @param longest how long it may take, and the answer if it takes longer
 */
export function askWorker<T>(
  worker: Worker,
  silent: string,
  longest?: { readonly ms: number; readonly answer: T },
): Promise<T> {
  return new Promise<T>((resolve, reject) => {
    const timer = longest && setTimeout(() => resolve(longest.answer), longest.ms);
    worker.once('message', resolve);
    worker.once('error', reject);
    worker.once('exit', () => {
      clearTimeout(timer);
      reject(new Error(silent));
    });
  }).finally(() => worker.terminate());
}

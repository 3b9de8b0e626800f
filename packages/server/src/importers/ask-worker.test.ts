import { Worker } from 'node:worker_threads';
import { askWorker } from './ask-worker.ts';

const start = (code: string) => new Worker(code, { eval: true });
const SEND = `require('node:worker_threads').parentPort.postMessage('twelve');`;
const STAY = 'setInterval(() => undefined, 1000);';

test('a worker that answers is ended, however long it would stay', async () => {
  const worker = start(`${SEND} ${STAY}`);
  expect(await askWorker(worker, 'silent')).toBe('twelve');
  expect(worker.threadId).toBe(-1);
});

test('a worker that takes too long is ended, and its answer is the one for that', async () => {
  const worker = start(STAY);
  expect(await askWorker(worker, 'silent', { ms: 50, answer: 'too long' })).toBe('too long');
  expect(worker.threadId).toBe(-1);
});

test('a worker that ends without a word, or is killed, is told', async () => {
  await expect(askWorker(start('process.exit(0);'), 'It said nothing.')).rejects.toThrow('It said nothing.');
  const killed = start(STAY);
  const asked = askWorker(killed, 'It said nothing.', { ms: 60_000, answer: 'late' });
  await killed.terminate();
  await expect(asked).rejects.toThrow('It said nothing.');
});

test('an error of the worker is the error of the asking', async () => {
  await expect(askWorker(start(`throw new Error('torn');`), 'silent')).rejects.toThrow('torn');
});

import type { PictureChunk, PictureEdges } from '@tally/core';
import { EdgeFinder, type EdgeWorker, receiveChunk, type SentChunk } from './edge-finder.ts';

const chunk: PictureChunk = {
  origin: [0, 0, 0],
  elements: [
    { row: 7, firstVertex: 0, vertexCount: 3, firstIndex: 0, indexCount: 3 },
    { row: 9, firstVertex: 3, vertexCount: 4, firstIndex: 3, indexCount: 6 },
  ],
  positions: new Float32Array(21),
  colours: new Uint8Array(28),
  indices: new Uint32Array(9),
};
const edges: PictureEdges = { positions: new Float32Array(6), rows: new Float32Array(2) };

class FakeWorker implements EdgeWorker {
  onmessage: EdgeWorker['onmessage'] = null;
  onerror: EdgeWorker['onerror'] = null;
  readonly asked: number[] = [];
  isEnded = false;
  readonly sent: SentChunk[] = [];
  postMessage = ({ id, chunk: sent }: { id: number; chunk: SentChunk }) => {
    this.asked.push(id);
    this.sent.push(structuredClone(sent));
  };
  terminate = () => {
    this.isEnded = true;
  };
}

describe('edges found beside the page', () => {
  it('are found of the chunk as it was, with all its elements', () => {
    const worker = new FakeWorker();
    void new EdgeFinder(() => worker).find(chunk);
    expect(receiveChunk(worker.sent[0]!)).toEqual(chunk);
  });
  it('come to whoever asked for them', async () => {
    const worker = new FakeWorker();
    const finder = new EdgeFinder(() => worker);
    const [first, second] = [finder.find(chunk), finder.find(chunk)];
    worker.onmessage!({ data: { id: worker.asked[1]!, edges } });
    worker.onmessage!({ data: { id: worker.asked[0]!, edges: { ...edges, rows: new Float32Array(4) } } });
    expect((await first)!.rows).toHaveLength(4);
    expect(await second).toBe(edges);
  });
  it('are none where the worker dies; it is started again, not for ever', async () => {
    const started: FakeWorker[] = [];
    const finder = new EdgeFinder(() => {
      const worker = new FakeWorker();
      started.push(worker);
      return worker;
    });
    for (let n = 0; n < 5; n++) {
      const asked = finder.find(chunk);
      started.at(-1)!.onerror!(new Error('killed'));
      expect(await asked).toBeNull();
    }
    expect(started).toHaveLength(3);
    expect(started.every((w) => w.isEnded)).toBe(true);
  });
  it('that nobody waits for any more end with the worker', async () => {
    const worker = new FakeWorker();
    const finder = new EdgeFinder(() => worker);
    const asked = finder.find(chunk);
    finder.dispose();
    expect([await asked, worker.isEnded]).toEqual([null, true]);
    expect(await finder.find(chunk)).toBeNull();
  });
});

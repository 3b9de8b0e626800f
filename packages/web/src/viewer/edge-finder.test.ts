import type { PictureChunk, PictureEdges } from '@tally/core';
import { EdgeFinder, type EdgeWorker } from './edge-finder.ts';

const chunk = {} as PictureChunk;
const edges: PictureEdges = { positions: new Float32Array(6), rows: new Float32Array(2) };

class FakeWorker implements EdgeWorker {
  onmessage: EdgeWorker['onmessage'] = null;
  onerror: EdgeWorker['onerror'] = null;
  readonly asked: number[] = [];
  isEnded = false;
  postMessage = ({ id }: { id: number }) => void this.asked.push(id);
  terminate = () => {
    this.isEnded = true;
  };
}

describe('edges found beside the page', () => {
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

import { PreviewDropped, PreviewGate } from './preview-gate.ts';
import { PreviewLane } from './preview-lane.ts';

/** A preview that ends when it is told to. */
function makePreview() {
  let finish: (value: string) => void = () => undefined;
  const state = { isBegun: false, isEnded: false };
  const run = () => {
    state.isBegun = true;
    return new Promise<string>((resolve) => {
      finish = resolve;
    });
  };
  const end = () => {
    state.isEnded = true;
  };
  return { state, run, end, finish: (value: string) => finish(value) };
}
const turn = () => new Promise((done) => setImmediate(done));

describe('the lane of previews', () => {
  it('runs one after another, in the order in which they came', async () => {
    const lane = new PreviewLane();
    const [a, b] = [makePreview(), makePreview()];
    const first = lane.runNext(a.run, a.end);
    const second = lane.runNext(b.run, b.end);
    await turn();
    expect([a.state.isBegun, b.state.isBegun]).toEqual([true, false]);
    a.finish('A');
    expect(await first).toBe('A');
    await turn();
    expect(b.state.isBegun).toBe(true);
    b.finish('B');
    expect(await second).toBe('B');
  });
  it('never begins what was given up while it waited, and ends what runs', async () => {
    const lane = new PreviewLane();
    const [a, b, c] = [makePreview(), makePreview(), makePreview()];
    const [goneA, goneB] = [new AbortController(), new AbortController()];
    const first = lane.runNext(a.run, a.end, goneA.signal);
    const second = lane.runNext(b.run, b.end, goneB.signal);
    const third = lane.runNext(c.run, c.end);
    goneB.abort();
    await expect(second).rejects.toBeInstanceOf(PreviewDropped);
    goneA.abort();
    expect(a.state.isEnded).toBe(true);
    a.finish('late');
    await first;
    await turn();
    expect([b.state.isBegun, c.state.isBegun]).toEqual([false, true]);
    c.finish('C');
    expect(await third).toBe('C');
  });
  it('goes on after one that fails, and refuses more than can wait', async () => {
    const lane = new PreviewLane();
    await expect(
      lane.runNext(
        () => Promise.reject(new Error('no')),
        () => undefined,
      ),
    ).rejects.toThrow('no');
    const a = makePreview();
    const first = lane.runNext(a.run, a.end);
    const others = Array.from({ length: 20 }, () =>
      lane.runNext(
        async () => 'done',
        () => undefined,
      ),
    );
    await expect(
      lane.runNext(
        async () => 'one too many',
        () => undefined,
      ),
    ).rejects.toMatchObject({ status: 503 });
    a.finish('A');
    expect(await Promise.all([first, ...others])).toEqual(['A', ...others.map(() => 'done')]);
  });
});

describe('the gate of previews', () => {
  it('is closed while a change waits, and for one that nobody waits for', () => {
    const asking = new PreviewGate();
    const thread = new PreviewGate(asking.memory);
    expect(thread.isClosed(3)).toBe(false);
    asking.countUpdates(1);
    asking.countUpdates(1);
    asking.countUpdates(-1);
    expect(thread.isClosed(3)).toBe(true);
    asking.countUpdates(-1);
    asking.drop(3);
    expect([thread.isClosed(3), thread.isClosed(4)]).toEqual([true, false]);
  });
});

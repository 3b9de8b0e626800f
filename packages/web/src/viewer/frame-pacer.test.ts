import { FramePacer } from './frame-pacer.ts';

describe('how often a view is drawn', () => {
  it('waits for nothing where frames cost next to nothing, nor before the first', () => {
    const pacer = new FramePacer();
    expect([pacer.pauseAt(0), pacer.isSlow]).toEqual([0, false]);
    pacer.note(1000, 1004);
    // Four times 4 ms, of which 10 are over.
    expect(pacer.pauseAt(1014)).toBe(6);
    expect([pacer.pauseAt(1020), pacer.isSlow]).toEqual([0, false]);
  });
  it('gives the page four fifths of the time where they are slow', () => {
    const pacer = new FramePacer();
    pacer.note(1000, 1500);
    expect([pacer.pauseAt(1500), pacer.pauseAt(2500), pacer.pauseAt(3500)]).toEqual([2000, 1000, 0]);
    expect(pacer.isSlow).toBe(true);
  });
  it('lets nobody wait for more than a few seconds, and goes by the last frame alone', () => {
    const pacer = new FramePacer();
    pacer.note(0, 9000);
    expect(pacer.pauseAt(9000)).toBe(6000);
    pacer.note(9000, 9010);
    expect([pacer.pauseAt(9010), pacer.isSlow]).toEqual([40, false]);
  });
});

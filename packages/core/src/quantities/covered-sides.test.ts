import { measureCoveredSidesM2 } from './covered-sides.ts';
import type { WallAxis } from './wall-junctions.ts';

const wall = (x0: number, y0: number, x1: number, y1: number, more: Partial<WallAxis> = {}): WallAxis => ({
  points: [
    [x0, y0],
    [x1, y1],
  ],
  widthM: 0.2,
  bottomM: 0,
  topM: 3,
  ...more,
});
const near = (value: number) => expect.closeTo(value, 9);

describe('sides that other walls cover', () => {
  it('walls back to back share length x height', () =>
    expect(measureCoveredSidesM2([wall(0, 0, 5, 0), wall(2, 0.2, 7, 0.2)])).toEqual([near(9), near(9)]));
  it('a lining of half the height, drawn the other way round', () =>
    expect(measureCoveredSidesM2([wall(0, 0, 5, 0), wall(4, 0.15, 1, 0.15, { widthM: 0.1, topM: 1.5 })])).toEqual([
      near(4.5),
      near(4.5),
    ]));
  it('on both sides', () =>
    expect(measureCoveredSidesM2([wall(0, 0, 5, 0), wall(0, 0.2, 5, 0.2), wall(0, -0.2, 1, -0.2)])[0]).toEqual(
      near(18),
    ));
  it.each([
    ['apart', wall(0, 0.3, 5, 0.3)],
    ['in one line', wall(5, 0, 9, 0)],
    ['across', wall(2, 0.1, 2, 4)],
    ['above', wall(0, 0.2, 5, 0.2, { bottomM: 3, topM: 6 })],
  ])('walls %s cover nothing', (_, other) => expect(measureCoveredSidesM2([wall(0, 0, 5, 0), other])).toEqual([0, 0]));
});

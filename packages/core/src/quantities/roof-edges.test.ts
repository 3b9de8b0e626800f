import type { Vector3 } from '../geometry/vector.ts';
import { measurePitchDegrees, measureRoof } from './roof-edges.ts';

const plane = (...outline: Vector3[]) => ({ outline, thicknessM: 0 });
const near = (value: number) => expect.closeTo(value, 4);

describe('roofs', () => {
  it('a gable roof over 10 x 6 m at 45°', () => {
    const south = plane([0, 0, 0], [10, 0, 0], [10, 3, 3], [0, 3, 3]);
    const north = plane([10, 6, 0], [0, 6, 0], [0, 3, 3], [10, 3, 3]);
    // Slope 3 x sqrt 2 = 4.2426 m.
    expect(measureRoof([south, north])).toEqual({
      slopedAreaM2: near(84.8528),
      eavesM: near(20),
      ridgeM: near(10),
      hipM: near(0),
      valleyM: near(0),
      vergeM: near(16.9706),
    });
    expect(measurePitchDegrees(south.outline)).toBeCloseTo(45, 6);
  });
  it('a gable roof drawn bay by bay is the same', () => {
    const bay = (x: number) => [
      plane([x, 0, 0], [x + 5, 0, 0], [x + 5, 3, 3], [x, 3, 3]),
      plane([x + 5, 6, 0], [x, 6, 0], [x, 3, 3], [x + 5, 3, 3]),
    ];
    expect(measureRoof([...bay(0), ...bay(5)])).toMatchObject({
      eavesM: near(20),
      ridgeM: near(10),
      vergeM: near(16.9706),
    });
  });
  it('a hipped roof over 10 x 6 m at 45°: four hips of 3 x sqrt 3, a ridge of 4', () => {
    const [a, b]: Vector3[] = [[3, 3, 3], [7, 3, 3]]; // biome-ignore format: ridge ends
    const roof = measureRoof([
      plane([0, 0, 0], [10, 0, 0], b!, a!),
      plane([10, 6, 0], [0, 6, 0], a!, b!),
      plane([0, 6, 0], [0, 0, 0], a!),
      plane([10, 0, 0], [10, 6, 0], b!),
    ]);
    expect(roof).toMatchObject({
      eavesM: near(32),
      ridgeM: near(4),
      hipM: near(20.7846),
      valleyM: near(0),
      vergeM: near(0),
      slopedAreaM2: near(60 * Math.SQRT2),
    });
  });
  it('two slopes that rise from a gutter are a valley, a single pitch has eaves, a top edge and verges', () => {
    const valley = measureRoof([
      plane([0, 0, 2], [8, 0, 2], [8, 3, 0], [0, 3, 0]),
      plane([0, 3, 0], [8, 3, 0], [8, 6, 2], [0, 6, 2]),
    ]);
    expect(valley).toMatchObject({ valleyM: near(8), ridgeM: near(16), eavesM: near(0) });
    const single = measureRoof([plane([0, 0, 0], [8, 0, 0], [8, 4, 3], [0, 4, 3])]);
    expect(single).toMatchObject({ eavesM: near(8), ridgeM: near(8), vergeM: near(10) });
  });
  it('pieces cut square leave a gap at the ridge that is none', () => {
    const thick = (outline: Vector3[]) => ({ outline, thicknessM: 0.3 });
    const roof = measureRoof([
      thick([[0, 0, 0], [10, 0, 0], [10, 2.9, 2.9], [0, 2.9, 2.9]]),
      thick([[10, 6, 0], [0, 6, 0], [0, 3.1, 2.9], [10, 3.1, 2.9]]),
    ]); // biome-ignore format: outlines
    expect(roof.ridgeM).toBeCloseTo(10, 6);
  });
  it('a flat roof has none of these', () => {
    expect(measureRoof([plane([0, 0, 3], [5, 0, 3], [5, 5, 3], [0, 5, 3])])).toMatchObject({
      slopedAreaM2: 0,
      eavesM: 0,
    });
  });
});

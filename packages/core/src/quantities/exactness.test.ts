import fc from 'fast-check';
import type { Profile } from '../geometry/profile.ts';
import { measureSweptSolid, type SweptSolid } from '../geometry/swept-solid.ts';
import { frameToMatrix, normalize, type Vector2, type Vector3 } from '../geometry/vector.ts';
import { measureSweptFaces } from './face-areas.ts';
import { measureLayers } from './layer-quantities.ts';
import { measureElement } from './measure-element.ts';

/** What is promised of every figure. */
const PROMISED = 0.001;
const expectNear = (found: number, wanted: number) =>
  expect(Math.abs(found - wanted)).toBeLessThanOrEqual(PROMISED * Math.abs(wanted) + 1e-9);

const length = fc.double({ min: 0.3, max: 12, noNaN: true });
const angle = fc.double({ min: -Math.PI, max: Math.PI, noNaN: true });

/** A profile with its area and outer perimeter by closed formula. */
interface Known {
  readonly profile: Profile;
  readonly area: number;
  readonly perimeter: number;
}
const rectangle = fc.tuple(length, length).map(
  ([x, y]): Known => ({
    profile: { kind: 'rectangle', x, y, radius: 0 },
    area: x * y,
    perimeter: 2 * (x + y),
  }),
);
const circle = length.map(
  (radius): Known => ({
    profile: { kind: 'circle', radius },
    area: Math.PI * radius ** 2,
    perimeter: 2 * Math.PI * radius,
  }),
);
const tube = fc.tuple(length, fc.double({ min: 0.05, max: 0.8, noNaN: true })).map(
  ([radius, share]): Known => ({
    profile: { kind: 'circle-hollow', radius, thickness: radius * share },
    area: Math.PI * (radius ** 2 - (radius * (1 - share)) ** 2),
    perimeter: 2 * Math.PI * radius,
  }),
);
/** A star-shaped polygon: corners at even turns, each at its own distance. Area by the triangles around its middle. */
const polygon = fc.array(length, { minLength: 3, maxLength: 9 }).map((radii): Known => {
  const turn = (2 * Math.PI) / radii.length;
  const corners = radii.map((r, i): Vector2 => [r * Math.cos(i * turn), r * Math.sin(i * turn)]);
  const next = (i: number) => (i + 1) % radii.length;
  return {
    profile: { kind: 'outline', outer: corners.map(([x, y]) => ({ x, y, sweep: 0 })), holes: [] },
    area: radii.reduce((sum, r, i) => sum + (r * radii[next(i)]! * Math.sin(turn)) / 2, 0),
    perimeter: corners.reduce((sum, [x, y], i) => sum + Math.hypot(corners[next(i)]![0] - x, corners[next(i)]![1] - y), 0), // biome-ignore format: one sum
  };
});
const anyProfile = fc.oneof(rectangle, circle, tube, polygon);
const anyFrame = fc.tuple(length, length, length, angle, angle).map(([x, y, z, a, b]) => {
  const axis: Vector3 = [Math.sin(a) * Math.cos(b), Math.sin(a) * Math.sin(b), Math.cos(a)];
  const across: Vector3 = Math.abs(axis[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  return frameToMatrix([x, y, z], axis, across);
});

describe('every figure is within 0.1 % of its closed formula', () => {
  it('volume and faces of any profile swept straight, wherever it lies', () => {
    fc.assert(
      fc.property(anyProfile, anyFrame, length, ({ profile, area, perimeter }, placement, depth) => {
        const solid: SweptSolid = { profile, placement, direction: [0, 0, 1], depth };
        const measures = measureSweptSolid(solid);
        expectNear(measures.volumeM3, area * depth);
        expectNear(measures.areaM2, area);
        expectNear(measures.lateralAreaM2, perimeter * depth);
        const faces = measureSweptFaces(solid, { up: [0, 0, 1] });
        expectNear(faces.topM2 + faces.bottomM2 + faces.sidesM2 + faces.endsM2, 2 * area + perimeter * depth);
      }),
    );
  });
  it('volume of a slanting sweep: what it rises by counts', () => {
    const lean = fc.double({ min: 0, max: 1.2, noNaN: true });
    fc.assert(
      fc.property(anyProfile, length, lean, angle, ({ profile, area }, depth, tilt, turn) => {
        const direction = normalize([Math.sin(tilt) * Math.cos(turn), Math.sin(tilt) * Math.sin(turn), Math.cos(tilt)]);
        const solid: SweptSolid = { profile, placement: frameToMatrix([0, 0, 0]), direction, depth };
        expectNear(measureSweptSolid(solid).volumeM3, area * depth * Math.cos(tilt));
      }),
    );
  });
  it('a wall with any openings apart from each other, and its layers', () => {
    const opening = fc.record({ width: fc.double({ min: 0.1, max: 0.9, noNaN: true }), height: fc.double({ min: 0.1, max: 0.9, noNaN: true }) }); // biome-ignore format: one record
    const layers = fc.array(fc.double({ min: 0.005, max: 0.2, noNaN: true }), { minLength: 1, maxLength: 7 });
    fc.assert(
      fc.property(fc.array(opening, { maxLength: 6 }), length, layers, angle, (list, height, set, turn) => {
        const width = set.reduce((sum, m) => sum + m, 0);
        // One opening to a bay of 1 m, so that none covers another.
        const run = Math.max(2, list.length + 1) + width;
        const rect = (x: number, y: number, z: number, at: Vector3): SweptSolid => ({
          profile: { kind: 'rectangle', x, y, radius: 0 },
          placement: turned(at, turn),
          direction: [0, 0, 1],
          depth: z,
        });
        const { quantities } = measureElement({
          group: 'wall',
          body: {
            solids: [rect(run, width, height, [run / 2, 0, 0])],
            isClipped: false,
            hasOther: false,
            openings: list.map((o, i) => ({
              globalId: `o${i}`,
              filledBy: null,
              solid: rect(o.width, width + 0.4, o.height * height * 0.9, [i + 0.5, 0, height * 0.05]),
            })),
          },
          meshes: null,
          layersM: width,
          overall: null,
        });
        const figure = (name: string) => quantities.find((q) => q.name === name)!.value;
        const open = list.reduce((sum, o) => sum + o.width * o.height * height * 0.9, 0);
        expectNear(figure('GrossSideArea'), run * height);
        expectNear(figure('NetSideArea'), run * height - open);
        expectNear(figure('GrossVolume') - figure('NetVolume'), open * width);
        expectNear(figure('SidesArea'), 2 * (run * height - open));
        const parts = measureLayers(set.map((thicknessM) => ({ material: 'M', thicknessM })), quantities); // biome-ignore format: one call
        expectNear(parts.reduce((sum, l) => sum + l.volume!, 0), figure('NetVolume')); // biome-ignore format: one sum
        expect(parts.every((l) => Math.abs(l.area! - figure('NetSideArea')) < 1e-9)).toBe(true);
      }),
    );
  });
});

/** A place turned about the upward axis. */
function turned([x, y, z]: Vector3, angle: number) {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return frameToMatrix([x * cos - y * sin, x * sin + y * cos, z], [0, 0, 1], [cos, sin, 0]);
}

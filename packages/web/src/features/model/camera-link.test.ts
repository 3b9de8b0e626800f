import type { CameraPlace } from '../../viewer/index.ts';
import { CameraLink } from './camera-link.ts';

/** A view that tells when it stands elsewhere, as the real one does whoever moves it. */
function makeView() {
  const listeners = new Set<() => void>();
  const at = (x: number): CameraPlace => ({ position: [x, 0, 0], target: [0, 0, 0] });
  return {
    cameraPlace: at(0),
    moves: 0,
    standAt(place: CameraPlace) {
      this.cameraPlace = place;
      this.moves++;
      for (const tell of listeners) tell();
    },
    onTurned: (listener: () => void) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    turnTo(x: number) {
      this.standAt(at(x));
    },
  };
}

describe('linked views', () => {
  it('stand where one of them was moved to, each moved once', () => {
    const [link, a, b, c] = [new CameraLink(), makeView(), makeView(), makeView()];
    link.join(a);
    link.join(b);
    const leave = link.join(c);
    a.turnTo(5);
    expect([b, c].map((v) => [v.cameraPlace.position[0], v.moves])).toEqual([[5, 1], [5, 1]]); // biome-ignore format: two views
    leave();
    b.turnTo(9);
    expect([a.cameraPlace.position[0], c.cameraPlace.position[0]]).toEqual([9, 5]);
  });
});

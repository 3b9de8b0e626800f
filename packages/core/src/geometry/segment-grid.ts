import { TOLERANCE } from './tolerances.ts';
import type { Vector2 } from './vector.ts';

const distance = (a: Vector2, b: Vector2) => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** A run of straight edges with a width, metres. */
export interface WideLine {
  readonly points: readonly Vector2[];
  readonly widthM: number;
}

/** Lines by the squares of a grid they touch, so that only neighbours are compared. */
export class SegmentGrid {
  private readonly cells = new Map<string, number[]>();
  private readonly size: number;

  constructor(private readonly walls: readonly WideLine[]) {
    const lengths = walls.map((w) =>
      w.points.reduce((sum, p, i) => (i > 0 ? sum + distance(w.points[i - 1]!, p) : 0), 0),
    );
    this.size = Math.max(1, lengths.reduce((a, b) => a + b, 0) / Math.max(1, walls.length));
    for (const [i] of walls.entries()) {
      for (const key of this.keysOf(i)) {
        const cell = this.cells.get(key);
        if (cell) cell.push(i);
        else this.cells.set(key, [i]);
      }
    }
  }

  private keysOf(i: number): string[] {
    const { points, widthM } = this.walls[i]!;
    const margin = widthM + TOLERANCE.joint;
    const keys = new Set<string>();
    for (let k = 0; k + 1 < points.length; k++) {
      const [a, b] = [points[k]!, points[k + 1]!];
      // Walked in steps of half a square, so that a long slanting wall does not fill its whole rectangle.
      const steps = Math.max(1, Math.ceil(distance(a, b) / (this.size / 2)));
      for (let s = 0; s <= steps; s++) {
        const [x, y] = [a[0] + ((b[0] - a[0]) * s) / steps, a[1] + ((b[1] - a[1]) * s) / steps];
        for (const cx of span(x, margin, this.size))
          for (const cy of span(y, margin, this.size)) keys.add(`${cx},${cy}`);
      }
    }
    return [...keys];
  }

  /** Other lines in the squares of a line. */
  near(i: number): number[] {
    const found = new Set<number>();
    for (const key of this.keysOf(i)) for (const j of this.cells.get(key) ?? []) if (j !== i) found.add(j);
    return [...found].sort((a, b) => a - b);
  }
}

function span(v: number, margin: number, size: number): number[] {
  const [from, to] = [Math.floor((v - margin) / size), Math.floor((v + margin) / size)];
  return Array.from({ length: to - from + 1 }, (_, k) => from + k);
}

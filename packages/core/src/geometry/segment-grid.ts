import { TOLERANCE } from './tolerances.ts';
import { distanceBetween, type Vector2 } from './vector.ts';

/** A run of straight edges with a width, metres. */
export interface WideLine {
  readonly points: readonly Vector2[];
  readonly widthM: number;
}

/** Lines by the squares of a grid they touch, so that only neighbours are compared. */
export class SegmentGrid {
  private readonly cells = new Map<number, number[]>();
  private readonly keys: number[][];
  private readonly size: number;

  constructor(lines: readonly WideLine[]) {
    const lengths = lines.map((w) =>
      w.points.reduce((sum, p, i) => (i > 0 ? sum + distanceBetween(w.points[i - 1]!, p) : 0), 0),
    );
    this.size = Math.max(1, lengths.reduce((a, b) => a + b, 0) / Math.max(1, lines.length));
    this.keys = lines.map((line) => this.listKeys(line));
    for (const [i, keys] of this.keys.entries()) {
      for (const key of keys) {
        const cell = this.cells.get(key);
        if (cell) cell.push(i);
        else this.cells.set(key, [i]);
      }
    }
  }

  private listKeys({ points, widthM }: WideLine): number[] {
    const margin = widthM + TOLERANCE.joint;
    const keys: number[] = [];
    for (let k = 0; k + 1 < points.length; k++) {
      const [a, b] = [points[k]!, points[k + 1]!];
      // Walked in steps of half a square, so that a long slanting wall does not fill its whole rectangle.
      const steps = Math.max(1, Math.ceil(distanceBetween(a, b) / (this.size / 2)));
      for (let s = 0; s <= steps; s++) {
        const x = a[0] + ((b[0] - a[0]) * s) / steps;
        const y = a[1] + ((b[1] - a[1]) * s) / steps;
        const [left, right] = [this.square(x - margin), this.square(x + margin)];
        const [low, high] = [this.square(y - margin), this.square(y + margin)];
        for (let cx = left; cx <= right; cx++)
          for (let cy = low; cy <= high; cy++) {
            const key = cx * ROW + cy;
            if (!keys.includes(key)) keys.push(key);
          }
      }
    }
    return keys;
  }

  private square(v: number): number {
    return Math.floor(v / this.size);
  }

  /** Lines in the squares of a line that need not be one of them. */
  nearLine(line: WideLine): number[] {
    const found = new Set<number>();
    for (const key of this.listKeys(line)) for (const j of this.cells.get(key) ?? []) found.add(j);
    return [...found].sort((a, b) => a - b);
  }

  /** Other lines in the squares of a line. */
  near(i: number): number[] {
    const found = new Set<number>();
    for (const key of this.keys[i]!) for (const j of this.cells.get(key) ?? []) if (j !== i) found.add(j);
    return [...found].sort((a, b) => a - b);
  }
}

/** Squares in a row: more than any site has, so that two numbers make one key. */
const ROW = 2 ** 26;

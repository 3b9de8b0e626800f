import Flatbush from 'flatbush';
import { TOLERANCE } from './tolerances.ts';
import type { Vector2 } from './vector.ts';

/** A run of straight edges with a width, metres. */
export interface WideLine {
  readonly points: readonly Vector2[];
  readonly widthM: number;
}

type Box = readonly [left: number, low: number, right: number, high: number];

/** Lines by the boxes of their edges, so that only neighbours are compared. */
export class LineIndex {
  private readonly index: Flatbush | null;
  /** Number of the line that each box is of. */
  private readonly owners: number[] = [];

  constructor(private readonly lines: readonly WideLine[]) {
    const boxes = lines.map(listBoxes);
    const count = boxes.reduce((sum, list) => sum + list.length, 0);
    this.index = count > 0 ? new Flatbush(count) : null;
    for (const [i, list] of boxes.entries()) {
      for (const box of list) {
        this.index?.add(...box);
        this.owners.push(i);
      }
    }
    this.index?.finish();
  }

  /** Lines near a line that need not be one of them, in their order: all that come within its width and theirs, and some beside. */
  nearLine(line: WideLine): number[] {
    const found = new Set<number>();
    for (const box of listBoxes(line)) for (const at of this.index?.search(...box) ?? []) found.add(this.owners[at]!);
    return [...found].sort((a, b) => a - b);
  }

  /** Other lines near a line. */
  near(i: number): number[] {
    return this.nearLine(this.lines[i]!).filter((j) => j !== i);
  }
}

/** Boxes of the edges of a line with its width and what joints may be apart. */
function listBoxes({ points, widthM }: WideLine): Box[] {
  const margin = widthM + TOLERANCE.joint;
  return points.slice(1).map(([x, y], k): Box => {
    const [px, py] = points[k]!;
    return [Math.min(x, px) - margin, Math.min(y, py) - margin, Math.max(x, px) + margin, Math.max(y, py) + margin];
  });
}

import type { Vector2 } from './vector.ts';

interface Edge {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
  readonly shape: number;
}

/** A plane figure: one outline, then its holes, in any order and direction; what lies in an odd number of them is inside. */
export type Figure = readonly (readonly Vector2[])[];

/**
 * Area covered by figures, m2, what several cover counted once. Between the corners and crossings every edge is straight, so
 * that strip by strip the covered length grows evenly: strip width x covered length in its middle is exact.
 * @example two 2 x 2 squares that share a 1 x 2 strip cover 6
 */
export function measureUnionAreaM2(figures: readonly Figure[]): number {
  const edges = figures.flatMap((figure, shape) => figure.flatMap((ring) => ringToEdges(ring, shape)));
  const cuts = [...new Set([...edges.flatMap((e) => [e.x0, e.x1]), ...listCrossings(edges)])].sort((a, b) => a - b);
  let area = 0;
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [from, to] = [cuts[i]!, cuts[i + 1]!];
    if (to - from > 1e-9) area += (to - from) * measureCoveredM(edges, (from + to) / 2);
  }
  return area;
}

function ringToEdges(ring: readonly Vector2[], shape: number): Edge[] {
  return ring.flatMap((a, i): Edge[] => {
    const b = ring[(i + 1) % ring.length]!;
    if (a[0] === b[0]) return [];
    const [p, q] = a[0] < b[0] ? [a, b] : [b, a];
    return [{ x0: p[0], y0: p[1], x1: q[0], y1: q[1], shape }];
  });
}

const yAt = (e: Edge, x: number) => e.y0 + ((e.y1 - e.y0) * (x - e.x0)) / (e.x1 - e.x0);

function listCrossings(edges: readonly Edge[]): number[] {
  const out: number[] = [];
  const sorted = [...edges].sort((a, b) => a.x0 - b.x0);
  for (let i = 0; i < sorted.length; i++) {
    for (let j = i + 1; j < sorted.length && sorted[j]!.x0 < sorted[i]!.x1; j++) {
      const [a, b] = [sorted[i]!, sorted[j]!];
      if (a.shape === b.shape) continue;
      const [from, to] = [Math.max(a.x0, b.x0), Math.min(a.x1, b.x1)];
      const [d0, d1] = [yAt(a, from) - yAt(b, from), yAt(a, to) - yAt(b, to)];
      if (d0 * d1 < 0) out.push(from + ((to - from) * d0) / (d0 - d1));
    }
  }
  return out;
}

/** Length of the line x = const that lies in any figure. */
function measureCoveredM(edges: readonly Edge[], x: number): number {
  const hits = new Map<number, number[]>();
  for (const e of edges) {
    if (e.x0 >= x || e.x1 <= x) continue;
    const list = hits.get(e.shape);
    if (list) list.push(yAt(e, x));
    else hits.set(e.shape, [yAt(e, x)]);
  }
  const spans: [number, number][] = [];
  for (const ys of hits.values()) {
    ys.sort((a, b) => a - b);
    for (let i = 0; i + 1 < ys.length; i += 2) spans.push([ys[i]!, ys[i + 1]!]);
  }
  spans.sort((a, b) => a[0] - b[0]);
  let covered = 0;
  let reached = Number.NEGATIVE_INFINITY;
  for (const [from, to] of spans) {
    if (to <= reached) continue;
    covered += to - Math.max(from, reached);
    reached = to;
  }
  return covered;
}

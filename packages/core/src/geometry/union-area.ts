import type { Vector2 } from './vector.ts';

/** A straight edge on a plane, from left to right, of the figure with this number. */
export interface PlaneEdge {
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
  return measureEdgesM2(listFigureEdges(figures), (spans) => measureCoveredM(spans));
}

/** Area that two groups of figures share, m2: what lies in at least one of each. */
export function measureSharedAreaM2(a: readonly Figure[], b: readonly Figure[]): number {
  const edges = listFigureEdges([...a, ...b]);
  return measureEdgesM2(edges, (spans) => {
    const [inA, inB] = [spans.filter((s) => s.shape < a.length), spans.filter((s) => s.shape >= a.length)];
    return measureCoveredM(inA) + measureCoveredM(inB) - measureCoveredM(spans);
  });
}

/** Edges of figures; upright ones bound nothing from above or below and are left out. */
export function listFigureEdges(figures: readonly Figure[]): PlaneEdge[] {
  return figures.flatMap((figure, shape) => figure.flatMap((ring) => ringToEdges(ring, shape)));
}

/** A stretch of an upright line that lies within a figure. */
export interface Span {
  readonly from: number;
  readonly to: number;
  readonly shape: number;
}

/**
 * Area of what `measure` makes of the stretches of upright lines within figures, m2: strip by strip between all corners and
 * crossings. Edges that begin further right are not looked at, so that many figures side by side cost no more than each alone.
 */
export function measureEdgesM2(edges: readonly PlaneEdge[], measure: (spans: readonly Span[]) => number): number {
  const sorted = [...edges].sort((a, b) => a.x0 - b.x0);
  const cuts = [...new Set([...edges.flatMap((e) => [e.x0, e.x1]), ...listCrossings(sorted)])].sort((a, b) => a - b);
  let area = 0;
  let next = 0;
  let active: PlaneEdge[] = [];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [from, to] = [cuts[i]!, cuts[i + 1]!];
    const x = (from + to) / 2;
    while (next < sorted.length && sorted[next]!.x0 < x) active.push(sorted[next++]!);
    active = active.filter((e) => e.x1 > x);
    if (to - from > 1e-9 && active.length > 0) area += (to - from) * measure(listSpans(active, x));
  }
  return area;
}

function ringToEdges(ring: readonly Vector2[], shape: number): PlaneEdge[] {
  return ring.flatMap((a, i): PlaneEdge[] => {
    const b = ring[(i + 1) % ring.length]!;
    if (a[0] === b[0]) return [];
    const [p, q] = a[0] < b[0] ? [a, b] : [b, a];
    return [{ x0: p[0], y0: p[1], x1: q[0], y1: q[1], shape }];
  });
}

const yAt = (e: PlaneEdge, x: number) => e.y0 + ((e.y1 - e.y0) * (x - e.x0)) / (e.x1 - e.x0);

function listCrossings(sorted: readonly PlaneEdge[]): number[] {
  const out: number[] = [];
  let active: PlaneEdge[] = [];
  for (const b of sorted) {
    active = active.filter((a) => a.x1 > b.x0);
    const [low, high] = b.y0 < b.y1 ? [b.y0, b.y1] : [b.y1, b.y0];
    for (const a of active) {
      if (a.shape === b.shape) continue;
      if ((a.y0 > high && a.y1 > high) || (a.y0 < low && a.y1 < low)) continue;
      const [from, to] = [Math.max(a.x0, b.x0), Math.min(a.x1, b.x1)];
      const [d0, d1] = [yAt(a, from) - yAt(b, from), yAt(a, to) - yAt(b, to)];
      if (d0 * d1 < 0) out.push(from + ((to - from) * d0) / (d0 - d1));
    }
    active.push(b);
  }
  return out;
}

function listSpans(edges: readonly PlaneEdge[], x: number): Span[] {
  const hits = new Map<number, number[]>();
  for (const e of edges) {
    const list = hits.get(e.shape);
    if (list) list.push(yAt(e, x));
    else hits.set(e.shape, [yAt(e, x)]);
  }
  const spans: Span[] = [];
  for (const [shape, ys] of hits) {
    ys.sort((a, b) => a - b);
    for (let i = 0; i + 1 < ys.length; i += 2) spans.push({ from: ys[i]!, to: ys[i + 1]!, shape });
  }
  return spans.sort((a, b) => a.from - b.from);
}

/** Length that sorted stretches cover together. */
export function measureCoveredM(spans: readonly Span[]): number {
  let covered = 0;
  let reached = Number.NEGATIVE_INFINITY;
  for (const { from, to } of spans) {
    if (to <= reached) continue;
    covered += to - Math.max(from, reached);
    reached = to;
  }
  return covered;
}

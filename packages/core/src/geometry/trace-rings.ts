import { appendToList } from '../result/append-to-list.ts';

/**
 * Closed runs of directed edges between numbered points. Edges that are there both ways cancel: what is left bounds the faces they
 * are of. A run that does not come back to where it began is given as far as it goes, with `isClosed` false.
 */
export function traceRings(
  edges: Iterable<readonly [number, number]>,
): { readonly points: number[]; readonly isClosed: boolean }[] {
  const open = new Map<string, readonly [number, number]>();
  for (const [a, b] of edges) if (a !== b && !open.delete(`${b}/${a}`)) open.set(`${a}/${b}`, [a, b]);
  const onward = new Map<number, number[]>();
  for (const [a, b] of open.values()) appendToList(onward, a, b);
  const rings: { points: number[]; isClosed: boolean }[] = [];
  for (const [start, ends] of onward) {
    while (ends.length > 0) {
      const points = [start];
      let at = ends.pop();
      for (; at !== undefined && at !== start; at = onward.get(at)?.pop()) points.push(at);
      rings.push({ points, isClosed: at === start });
    }
  }
  return rings;
}

const QUOTE = 39;
/** The geometry reader does not come back from texts much longer than this. */
const LONGEST = 30_000;
const KEPT = 1000;

/**
 * The file with over-long texts cut short, for the geometry reader, which needs none of them. Returns the same bytes where there are
 * none. Doubled quotes inside a text only make it look like two.
 */
export function shortenTexts(bytes: Uint8Array): Uint8Array {
  const cuts: [from: number, to: number][] = [];
  for (let open = bytes.indexOf(QUOTE); open >= 0; ) {
    const close = bytes.indexOf(QUOTE, open + 1);
    if (close < 0) break;
    if (close - open > LONGEST) cuts.push([open + KEPT, close]);
    open = bytes.indexOf(QUOTE, close + 1);
  }
  if (cuts.length === 0) return bytes;
  const out = new Uint8Array(bytes.length - cuts.reduce((sum, [from, to]) => sum + to - from, 0));
  let read = 0;
  let write = 0;
  for (const [from, to] of [...cuts, [bytes.length, bytes.length] as const]) {
    out.set(bytes.subarray(read, from), write);
    write += from - read;
    read = to;
  }
  return out;
}

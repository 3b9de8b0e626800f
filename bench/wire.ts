import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import type { CostItem, EntrySliceDto } from '@tally/core';
import { KilledServer } from '../packages/server/src/testing/kill-run.ts';

const ITEMS = 20_000;
const MOST_KB = 20;

/** Bytes that a change of one rate sends to a page, with a large book, against reading the project anew. Needs `npm run build`. */
export async function benchWire(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'tally-bench-wire-'));
  const server = new KilledServer(data);
  const stop = new AbortController();
  try {
    await server.start();
    const make = { name: 'Large book', currency: 'EUR', withTemplate: true };
    const { id } = await server.call<{ id: string }>('/projects', make);
    const own = (i: number): CostItem => ({ code: `Y-${i}`, description: `Thing ${i} of the yard`, kind: 'material', unit: 'm', rate: `${i % 900}.25` }); // biome-ignore format: one item
    const added = Array.from({ length: ITEMS }, (_, i) => ({ kind: 'item', id: `Y-${i}`, body: own(i) }));
    const change = (base: number, diff: object) =>
      server.call<{ seq: number }>(`/projects/${id}/changes`, {
        base,
        cause: 'Prices',
        diff: { added: [], updated: [], removed: [], ...diff },
      });
    const { seq } = await change(1, { added });
    // What goes over the wire: packed as the server packs it.
    const weigh = async (path: string) => {
      const text = await (await fetch(`${server.base}${path}`)).text();
      return gzipSync(text).length;
    };
    const slices = ['book', 'rules', 'layer', 'settings', 'notes'].map((s) => `/projects/${id}/slices/${s}`);
    const always = [`/projects/${id}`, `/projects/${id}/changes?limit=30`];
    const sum = async (paths: readonly string[]) => {
      let bytes = 0;
      for (const path of paths) bytes += await weigh(path);
      return bytes;
    };
    const anew = await sum([...slices, ...always, `/projects/${id}/sources`]);
    const events = await fetch(`${server.base}/events?projects=${id}`, { signal: stop.signal });
    const reader = events.body!.getReader();
    await reader.read();
    const book = await server.call<EntrySliceDto>(slices[0]!);
    const from = book.entries.find((e) => e.id === 'Y-7')!.body as CostItem;
    await change(seq, { updated: [{ kind: 'item', id: 'Y-7', from, to: { ...from, rate: '8.00' } }] });
    let event = '';
    while (!event.includes('"kind":"change"')) event += new TextDecoder().decode((await reader.read()).value);
    const read = await sum([`${slices[0]}?since=${seq}`, ...always]);
    const kb = (bytes: number) => (bytes / 1000).toFixed(1);
    console.log(`baseline: the project read anew, ${ITEMS} items: ${kb(anew)} kB`);
    console.log(`the event of one rate: ${event.length} bytes`);
    console.log(`event and reading after it: ${kb(event.length + read)} kB (at most ${MOST_KB}), ${((100 * (event.length + read)) / anew).toFixed(1)} % of the baseline`); // biome-ignore format: one line
  } finally {
    stop.abort();
    await server.kill();
    rmSync(data, { recursive: true, force: true });
  }
}

import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Browser, type CDPSession, chromium, type Page } from '@playwright/test';
import type { CostItem, ProjectSourcesDto } from '@tally/core';
import { writeWallModel } from '@tally/demo';
import { KilledServer } from '../packages/server/src/testing/kill-run.ts';
import config from '../playwright.config.ts';

const WALLS = 20_000;
const ITEMS = 20_000;
const PAGES = ['plan', 'takeoff', 'mapping', 'model'] as const;
const [MOST_KB, MOST_MS] = [20, 30];

/** What the browser spent for a page: script of its main thread, and bytes as they came over the wire. */
interface Spent {
  readonly scriptMs: number;
  readonly kb: number;
}

/**
 * What a page costs to open, and what a rate costs that somebody else changes, with a large model and a large book. Baseline: the pages in the folder
 * that `TALLY_BASELINE_PAGES` names (those of an older build), else nothing but the same pages' first opening. Needs `npm run build`.
 */
export async function benchPage(): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'tally-bench-page-'));
  const older = process.env.TALLY_BASELINE_PAGES;
  if (older && !existsSync(join(older, 'index.html'))) throw new Error(`There are no built pages in ${older}.`);
  const browser = await chromium.launch(config.use?.launchOptions);
  try {
    const projectId = await fill(data);
    const baseline = older ? await measure(data, projectId, browser, older) : null;
    const ours = await measure(data, projectId, browser, null);
    for (const page of PAGES) {
      const [now, before] = [ours.opening[page]!, baseline?.opening[page]];
      const ratio = before
        ? `; script ${(now.scriptMs / before.scriptMs).toFixed(2)}, bytes ${(now.kb / before.kb).toFixed(2)} of the baseline (at most 0.5)`
        : '';
      console.log(`opening ${page}: script ${now.scriptMs.toFixed(0)} ms, ${now.kb.toFixed(0)} kB${ratio}`);
      const [edit, then] = [ours.edit[page]!, baseline?.edit[page]];
      const against = then ? `; script ${(edit.scriptMs / then.scriptMs).toFixed(2)} of the baseline` : '';
      console.log(
        `another's rate on ${page}: script ${edit.scriptMs.toFixed(0)} ms (at most ${MOST_MS}), ${edit.kb.toFixed(1)} kB (at most ${MOST_KB})${against}`,
      );
    }
  } finally {
    await browser.close();
    rmSync(data, { recursive: true, force: true });
  }
}

/** A project with a large book and a large model; its id. */
export async function fill(data: string): Promise<string> {
  // Before the server starts: writing it holds up this process longer than a connection is kept.
  const model = new Blob([writeWallModel(WALLS)]);
  const server = new KilledServer(data);
  await server.start();
  const { id } = await server.call<{ id: string }>('/projects', { name: 'Large', currency: 'EUR', withTemplate: true });
  const item = (i: number): CostItem => ({ code: `Y-${i}`, description: `Thing ${i} of the yard`, kind: 'material', unit: 'm', rate: `${i % 900}.25` }); // biome-ignore format: one item
  const added = Array.from({ length: ITEMS }, (_, i) => ({ kind: 'item', id: `Y-${i}`, body: item(i) }));
  await server.call(`/projects/${id}/changes`, { base: 1, cause: 'Prices', diff: { added, updated: [], removed: [] } });
  const form = new FormData();
  form.append('file', model, 'walls.ifc');
  await fetch(`${server.base}/projects/${id}/uploads`, { method: 'POST', body: form });
  for (;;) {
    const { sources } = await server.call<ProjectSourcesDto>(`/projects/${id}/sources`);
    if (sources[0]?.revisions[0]?.geometryState === 'done') break;
    await new Promise((done) => setTimeout(done, 1000));
  }
  await server.kill('SIGTERM');
  return id;
}

interface Measured {
  readonly opening: Readonly<Record<string, Spent>>;
  readonly edit: Readonly<Record<string, Spent>>;
}

async function measure(data: string, projectId: string, browser: Browser, pages: string | null): Promise<Measured> {
  const server = new KilledServer(data, pages ? { TALLY_PAGES: pages } : {});
  await server.start();
  const address = server.base.replace('/api', '');
  const [opening, edit]: [Record<string, Spent>, Record<string, Spent>] = [{}, {}];
  try {
    // The first reading works out the plan: not a page's cost.
    await server.call(`/projects/${projectId}/plan?by=section`);
    for (const [n, name] of PAGES.entries()) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      const counters = await watch(page);
      await page.goto(`${address}/projects/${projectId}/${name}`);
      opening[name] = await counters.spentUntilQuiet();
      const { project } = await server.call<{ project: { seq: number } }>(`/projects/${projectId}`);
      const slice = await server.call<{ entries: { id: string; body: CostItem }[] }>(
        `/projects/${projectId}/slices/book`,
      );
      const from = slice.entries.find((e) => e.id === 'Y-7')!.body;
      const to = { ...from, rate: `${100 + n + (pages ? 10 : 0)}.00` };
      const updated = [{ kind: 'item', id: 'Y-7', from, to }];
      await server.call(`/projects/${projectId}/changes`, { base: project.seq, cause: 'Rate', diff: { added: [], updated, removed: [] } }); // biome-ignore format: one call
      edit[name] = await counters.spentUntilQuiet();
      await page.close();
    }
  } finally {
    await server.kill('SIGTERM');
  }
  return { opening, edit };
}

/** Counts what a page spends between two calls; each waits until it has nothing to do any more. */
async function watch(page: Page): Promise<{ spentUntilQuiet: () => Promise<Spent> }> {
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Performance.enable');
  await devtools.send('Network.enable');
  let bytes = 0;
  devtools.on('Network.dataReceived', (e) => {
    bytes += e.encodedDataLength;
  });
  let [scriptBefore, bytesBefore] = [0, 0];
  return {
    async spentUntilQuiet() {
      let last = -1;
      for (let quiet = 0; quiet < 5; ) {
        await page.waitForTimeout(1000);
        const now = (await readCounter(devtools, 'TaskDuration')) + bytes;
        quiet = now - last < 0.02 ? quiet + 1 : 0;
        last = now;
      }
      const script = await readCounter(devtools, 'ScriptDuration');
      const spent = { scriptMs: (script - scriptBefore) * 1000, kb: (bytes - bytesBefore) / 1000 };
      [scriptBefore, bytesBefore] = [script, bytes];
      return spent;
    },
  };
}

const readCounter = async (devtools: CDPSession, name: string) =>
  (await devtools.send('Performance.getMetrics')).metrics.find((m) => m.name === name)!.value;

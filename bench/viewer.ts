import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Browser, chromium } from '@playwright/test';
import { build } from 'vite';
import config from '../playwright.config.ts';
import type { DrawnFigures } from './viewer-page.ts';

const ELEMENTS = 20_000;
const FRAMES = 200;

/** Draw calls, buffer bytes and main thread time per frame of the viewer. Baseline: all of it as one merged mesh. */
export async function benchViewer(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'tally-bench-'));
  const browser = await chromium.launch(config.use?.launchOptions);
  try {
    await build({
      logLevel: 'error',
      configFile: false,
      build: {
        outDir: folder,
        lib: {
          entry: join(import.meta.dirname, 'viewer-page.ts'),
          formats: ['iife'],
          name: 'page',
          fileName: () => 'page.js',
        },
      },
    });
    const script = readFileSync(join(folder, 'page.js'), 'utf8');
    const baseline = await measure(browser, script, 'mesh');
    const viewer = await measure(browser, script, 'viewer');
    console.log(
      `viewer ${ELEMENTS} elements: ${viewer.drawCalls} draw calls (one mesh: ${baseline.drawCalls}; at most 20)`,
    );
    console.log(`viewer / one mesh, buffer bytes: ${(viewer.bufferBytes / baseline.bufferBytes).toFixed(2)}`);
    console.log(
      `viewer / one mesh, main thread time per frame: ${(viewer.frameMs / baseline.frameMs).toFixed(2)} (at most 2)`,
    );
  } finally {
    await browser.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

async function measure(
  browser: Browser,
  script: string,
  kind: 'viewer' | 'mesh',
): Promise<DrawnFigures & { frameMs: number }> {
  const page = await browser.newPage({ viewport: { width: 800, height: 600 } });
  await page.setContent('<!doctype html><body></body>');
  await page.addScriptTag({ content: script });
  await page.evaluate(`startDrawing('${kind}', ${ELEMENTS})`);
  await page.evaluate('turnFrames(10)');
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Performance.enable');
  const mainThreadSeconds = async () =>
    (await devtools.send('Performance.getMetrics')).metrics.find((m) => m.name === 'TaskDuration')!.value;
  const from = await mainThreadSeconds();
  const figures = (await page.evaluate(`turnFrames(${FRAMES})`)) as DrawnFigures;
  const frameMs = ((await mainThreadSeconds()) - from) * (1000 / FRAMES);
  return { ...figures, frameMs };
}

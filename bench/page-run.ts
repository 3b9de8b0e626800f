import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Browser, chromium, type Page } from '@playwright/test';
import { build } from 'vite';
import config from '../playwright.config.ts';

/** Bundles a page of this folder and runs a task with it in the browser. */
export async function runInBrowser(
  entry: string,
  task: (open: () => Promise<Page>, browser: Browser) => Promise<void>,
): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'tally-bench-'));
  const browser = await chromium.launch(config.use?.launchOptions);
  try {
    await build({
      logLevel: 'error',
      configFile: false,
      define: { 'process.env.NODE_ENV': '"production"' },
      build: {
        outDir: folder,
        lib: { entry: join(import.meta.dirname, entry), formats: ['iife'], name: 'page', fileName: () => 'page.js' },
      },
    });
    const script = readFileSync(join(folder, 'page.js'), 'utf8');
    const open = async () => {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await page.setContent('<!doctype html><body style="margin:0;height:100vh;display:flex"></body>');
      await page.addScriptTag({ content: script });
      return page;
    };
    await task(open, browser);
  } finally {
    await browser.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Runs an expression on a page and returns its value with the seconds that a counter of the browser went on by. */
export async function spend<T>(
  page: Page,
  counter: 'TaskDuration' | 'ScriptDuration',
  expression: string,
): Promise<{ value: T; seconds: number }> {
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Performance.enable');
  const read = async () =>
    (await devtools.send('Performance.getMetrics')).metrics.find((m) => m.name === counter)!.value;
  const from = await read();
  const value = (await page.evaluate(expression)) as T;
  return { value, seconds: (await read()) - from };
}

import type { Page } from '@playwright/test';
import { runInBrowser, spend } from './page-run.ts';
import type { ScrolledFigures } from './table-page.ts';

const ROWS = 100_000;
const FEW = 1_000;
const FRAMES = 200;

/** Script time per frame while a takeoff table of 100,000 rows is scrolled. Baseline: the same table with 1,000 rows. */
export function benchTable(): Promise<void> {
  return runInBrowser('table-page.ts', async (open) => {
    const few = await measure(await open(), FEW);
    const many = await measure(await open(), ROWS);
    console.log(`table ${ROWS} rows: ${many.lines} lines, ${many.drawn} of them drawn (${FEW} rows: ${few.drawn})`);
    console.log(
      `table ${ROWS} / ${FEW} rows, script time per frame while scrolling: ${(many.frameMs / few.frameMs).toFixed(2)} (at most 1.5)`,
    );
  });
}

async function measure(page: Page, rows: number): Promise<ScrolledFigures & { frameMs: number }> {
  await page.evaluate(`startTable(${rows})`);
  await page.waitForSelector('[role="row"]');
  await page.evaluate('scrollFrames(10)');
  const { value, seconds } = await spend<ScrolledFigures>(page, 'ScriptDuration', `scrollFrames(${FRAMES})`);
  await page.close();
  return { ...value, frameMs: (seconds * 1000) / FRAMES };
}

import type { Page } from '@playwright/test';
import { runInBrowser, spend } from './page-run.ts';
import type { DrawnFigures } from './viewer-page.ts';

const ELEMENTS = 20_000;
const FRAMES = 200;

/** Draw calls, buffer bytes and main thread time per frame of the viewer. Baseline: all of it as one merged mesh. */
export function benchViewer(): Promise<void> {
  return runInBrowser('viewer-page.ts', async (open) => {
    const baseline = await measure(await open(), 'mesh');
    const viewer = await measure(await open(), 'viewer');
    console.log(
      `viewer ${ELEMENTS} elements: ${viewer.drawCalls} draw calls (one mesh: ${baseline.drawCalls}; at most 20)`,
    );
    console.log(`viewer / one mesh, buffer bytes: ${(viewer.bufferBytes / baseline.bufferBytes).toFixed(2)}`);
    console.log(
      `viewer / one mesh, main thread time per frame: ${(viewer.frameMs / baseline.frameMs).toFixed(2)} (at most 2)`,
    );
  });
}

async function measure(page: Page, kind: 'viewer' | 'mesh'): Promise<DrawnFigures & { frameMs: number }> {
  await page.evaluate(`startDrawing('${kind}', ${ELEMENTS})`);
  await page.evaluate('turnFrames(10)');
  const { value, seconds } = await spend<DrawnFigures>(page, 'TaskDuration', `turnFrames(${FRAMES})`);
  await page.close();
  return { ...value, frameMs: (seconds * 1000) / FRAMES };
}

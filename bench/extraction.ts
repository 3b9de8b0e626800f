import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeWallModel } from '@tally/demo';
import { bundleChild } from './bundle-child.ts';
import { runChild, runCold } from './child-run.ts';

const SIZES = [5_000, 10_000, 20_000, 40_000];
const COMPARED = 20_000;

/**
 * Elements and quantities of generated wall models (one window each, four layers). Baseline: web-ifc opening the same file
 * and streaming its geometry.
 */
export async function benchExtraction(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'tally-bench-'));
  const worker = bundleChild('extraction-child');
  try {
    let first: number | null = null;
    let ours = 0;
    for (const size of SIZES) {
      const file = join(folder, `${size}.ifc`);
      writeFileSync(file, writeWallModel(size));
      const { seconds, peakMb, note } = runChild(worker, 'takeoff', file);
      first ??= seconds / size;
      const growth = seconds / size / first;
      console.log(
        `takeoff ${size} walls: ${note}; per wall ${growth.toFixed(2)} x that of ${SIZES[0]}; peak ${peakMb.toFixed(0)} MB`,
      );
      if (size === COMPARED) ours = seconds;
    }
    const peer = runChild(worker, 'web-ifc', join(folder, `${COMPARED}.ifc`));
    console.log(`web-ifc ${COMPARED} walls: ${peer.note}; peak ${peer.peakMb.toFixed(0)} MB`);
    const tally = runCold(['scripts/tally.mjs', 'takeoff', join(folder, `${COMPARED}.ifc`)]);
    const cold = runCold([worker, 'web-ifc', join(folder, `${COMPARED}.ifc`)]);
    console.log(`tally as a whole, started cold / web-ifc so: ${(tally / cold).toFixed(3)} (at most 0.5)`);
    console.log(`takeoff / web-ifc at ${COMPARED} walls: ${(ours / peer.seconds).toFixed(3)} (at most 0.5)`);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

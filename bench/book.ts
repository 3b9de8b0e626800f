import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { compileFormula, listQuantityNames, parseUnit } from '@tally/core';
import { writeXlsx } from '@tally/files';
import { HyperFormula } from 'hyperformula';
import { bundleChild } from './bundle-child.ts';
import { runChild } from './child-run.ts';

const ROWS = 20_000;
const ROUNDS = 400;
/** Formulas as estimators write them, and the same as a spreadsheet has them. */
const FORMULAS: readonly (readonly [string, string, string])[] = [
  ['NetSideArea * 60 each/m2', 'each', '=A1*60'],
  ['(atCentres(Length, 0.6 m) + 2) * Height', 'm', '=(CEILING(B1/0.6,1)+1+2)*C1'],
  ['if(Height > 3 m, 1.2, 1) * NetVolume * 2.4 t/m3', 'kg', '=IF(C1>3,1.2,1)*D1*2400'],
  ['max(NetSideArea, 2 m2) * 22 kg/m2 / 25 kg/bag', 'bag', '=MAX(A1,2)*22/25'],
];

function median(work: () => void): number {
  const times = Array.from({ length: ROUNDS }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[ROUNDS / 2]!;
}

/** Compiling and checking a formula (baseline: a spreadsheet engine parsing it), and reading a price sheet (baseline: loading it whole). */
export async function benchBook(): Promise<void> {
  const names = listQuantityNames();
  const sheet = HyperFormula.buildEmpty({ licenseKey: 'gpl-v3' });
  for (const [text, unit, peer] of FORMULAS) {
    const needed = parseUnit(unit);
    if (!needed.ok || !compileFormula(text, names, needed.value).ok) throw new Error(text);
    const ours = median(() => void compileFormula(text, names, needed.value));
    const theirs = median(() => void sheet.validateFormula(peer));
    console.log(`compile and check ${text}: median ${(ours / theirs).toFixed(2)} x parsing ${peer}`);
  }
  const folder = mkdtempSync(join(tmpdir(), 'tally-bench-'));
  try {
    const file = join(folder, 'prices.xlsx');
    const rows = Array.from({ length: ROWS }, (_, i) => [`C-${i}`, `Thing ${i}`, 'm2', 1 + i / 100]);
    writeFileSync(file, await writeXlsx([{ name: 'Prices', columns: ['Code', 'Description', 'Unit', 'Price'], rows }]));
    const child = bundleChild('price-sheet-child', ['exceljs', 'papaparse']);
    const ours = runChild(child, 'compare', file);
    const peer = runChild(child, 'load', file);
    console.log(
      `price sheet of ${ROWS} rows, ${ours.note}: ${(ours.seconds / peer.seconds).toFixed(2)} x loading it whole; peak ${ours.peakMb.toFixed(0)} MB against ${peer.peakMb.toFixed(0)} MB`,
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

import type { Finding } from './finding.ts';
import { bundleFindings } from './finding-table.ts';

const finding = (id: string, code: Finding['code'], cause?: string): Finding => ({
  code,
  severity: 'warning',
  message: `${code} of ${id}`,
  globalIds: [id],
  ...(cause === undefined ? {} : { cause }),
});
const ids = (lines: ReturnType<typeof bundleFindings>) => lines.map((l) => l.findings.map((f) => f.globalIds[0]));

describe('lines of findings', () => {
  const found = [
    finding('a', 'density-missing', 'Quilt'),
    finding('b', 'open-body'),
    finding('c', 'density-missing', 'Quilt'),
    finding('d', 'density-missing', 'Board'),
    finding('e', 'open-body'),
    finding('f', 'absurd-size', 'Quilt'),
  ];
  it('are one for each cause of a kind, in the order in which they come; what has no cause stands alone', () => {
    expect(ids(bundleFindings(found))).toEqual([['a', 'c'], ['b'], ['d'], ['e'], ['f']]);
    expect(bundleFindings(found)[0]).toMatchObject({ code: 'density-missing', cause: 'Quilt' });
    expect(bundleFindings(found)[1]!.cause).toBeNull();
  });
  it('keep apart what is accepted and what is not', () => {
    const accepted = new Set([found[2]]);
    expect(ids(bundleFindings(found, (f) => String(accepted.has(f)))).slice(0, 3)).toEqual([['a'], ['b'], ['c']]);
  });
});

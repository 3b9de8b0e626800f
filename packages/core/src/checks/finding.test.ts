import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { FINDING_CODES } from './finding.ts';

it('documents every finding code once', () => {
  const text = readFileSync(join(__dirname, '../../../../docs/findings.md'), 'utf8');
  const documented = [...text.matchAll(/^\| `([a-z-]+)` \|/gm)].map((m) => m[1]);
  expect(documented.sort()).toEqual([...FINDING_CODES].sort());
});

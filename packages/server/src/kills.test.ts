import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { REVISIONS, writeBoathouse } from '@tally/demo';
import { makeChance } from '../../ifc/src/testing/damage-file.ts';
import { runKills } from './testing/kill-run.ts';

describe('a server that is killed at any moment', () => {
  it('has everything that it answered, once, and starts again', async () => {
    const models = [REVISIONS.R1, REVISIONS.R2].map((r) => writeBoathouse(r));
    const found = await runKills(mkdtempSync(join(tmpdir(), 'tally-kill-')), 4, models, makeChance(4));
    expect(found).toMatchObject({
      kills: 4, lost: 0, doubled: 0, stale: 0, unmoved: 0, unfinished: 0, failedStarts: 0, logged: [],
    }); // biome-ignore format: all of them
  }, 240_000);
});

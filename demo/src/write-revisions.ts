import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { writeBoathouse } from './build-boathouse.ts';
import { REVISIONS, type RevisionName } from './parameters.ts';

/** Writes R1, R2 and R3 to demo/out. With `--copies N` also the house N times over, for measuring speed. */
const out = join(import.meta.dirname, '../out');
mkdirSync(out, { recursive: true });
for (const name of Object.keys(REVISIONS) as RevisionName[]) {
  const fileName = `heron-wharf-${name}.ifc`;
  writeFileSync(join(out, fileName), writeBoathouse(REVISIONS[name], { fileName }));
}
const at = process.argv.indexOf('--copies');
if (at > 0)
  writeFileSync(
    join(out, 'heron-wharf-many.ifc'),
    writeBoathouse(REVISIONS.R1, { fileName: 'heron-wharf-many.ifc', copies: Number(process.argv[at + 1]) }),
  );

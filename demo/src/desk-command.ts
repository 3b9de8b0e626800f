import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { writeBoathouse } from './build-boathouse.ts';
import { type BoathouseParameters, checkParameters, REVISIONS, type RevisionName } from './parameters.ts';

/**
 * The design desk as a command: issues a revision of Heron Wharf into a project's drop folder, as the designers' own
 * program would. `npm run desk -- --from R2 --bays 8 --project heron-wharf`
 */
const { values } = parseArgs({
  options: {
    project: { type: 'string', default: 'heron-wharf' },
    data: { type: 'string', default: process.env.TALLY_DATA ?? join(import.meta.dirname, '../../data') },
    from: { type: 'string', default: 'R1' },
    name: { type: 'string' },
    bays: { type: 'string' },
    storeyHeight: { type: 'string' },
    outerWall: { type: 'string' },
    clubFloor: { type: 'string' },
  },
});
const base: BoathouseParameters | undefined = REVISIONS[values.from as RevisionName];
if (!base) fail(`There is no issue ${values.from}; take one of ${Object.keys(REVISIONS).join(', ')}.`);
if (values.outerWall !== undefined && values.outerWall !== 'timber-clad' && values.outerWall !== 'rendered')
  fail('outerWall is timber-clad or rendered.');
const parameters: BoathouseParameters = {
  ...base,
  ...(values.bays ? { bays: Number(values.bays) } : {}),
  ...(values.storeyHeight ? { storeyHeight: Number(values.storeyHeight) } : {}),
  ...(values.outerWall ? { outerWall: values.outerWall as BoathouseParameters['outerWall'] } : {}),
  ...(values.clubFloor ? { clubFloor: values.clubFloor } : {}),
};
const fault = checkParameters(parameters);
if (fault) fail(fault);
const folder = join(values.data, 'drop', values.project);
const fileName = values.name ?? `heron-wharf-${values.from}.ifc`;
mkdirSync(folder, { recursive: true });
const draft = join(folder, `.${fileName}.part`);
writeFileSync(draft, writeBoathouse(parameters, { fileName, timestamp: new Date().toISOString().slice(0, 19) }));
renameSync(draft, join(folder, fileName));
process.stdout.write(`${join(folder, fileName)}\n`);

function fail(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(1);
}

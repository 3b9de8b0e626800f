import { readFileSync } from 'node:fs';
import { takeOffIfc } from '@tally/ifc';
import * as WebIFC from 'web-ifc';
import { measureChild } from './child-run.ts';

const [task, file] = process.argv.slice(2) as [string, string];

async function takeOff(): Promise<string> {
  const taken = await takeOffIfc(readFileSync(file));
  if (!taken.ok) throw new Error(taken.problem.message);
  const { elements } = taken.value;
  return `${elements.length} elements, ${elements.reduce((n, e) => n + e.quantities.length, 0)} quantities`;
}

async function streamGeometry(): Promise<string> {
  const api = new WebIFC.IfcAPI();
  await api.Init();
  api.SetLogLevel(WebIFC.LogLevel.LOG_LEVEL_OFF);
  const model = api.OpenModel(new Uint8Array(readFileSync(file)), { CIRCLE_SEGMENTS: 48, TAPE_SIZE: 4 << 20 });
  let meshes = 0;
  api.StreamAllMeshes(model, () => {
    meshes++;
  });
  return `${meshes} meshes`;
}

await measureChild(task === 'takeoff' ? takeOff : streamGeometry);

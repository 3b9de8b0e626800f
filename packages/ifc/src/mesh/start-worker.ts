import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';
import { type ResourceLimits, Worker } from 'node:worker_threads';

/** Reading and measuring make many short-lived objects: room for them saves a sixth of the time. */
const YOUNG: ResourceLimits = { maxYoungGenerationSizeMb: 96 };

/**
 * Starts a worker thread from a module beside the caller: the `.ts` source in development and tests (through tsx, which a
 * thread does not inherit), the bundled `.js` of the same name in production, where all lie in one folder.
 * @param callerUrl the caller's import.meta.url
 * @param limits what it may have of memory, beside room for short-lived objects
 */
export function startWorker(callerUrl: string, name: string, workerData: unknown, limits: ResourceLimits = {}): Worker {
  const resourceLimits = { ...YOUNG, ...limits };
  if (!callerUrl.endsWith('.ts'))
    return new Worker(new URL(`./${name.split('/').at(-1)}.js`, callerUrl), { workerData, resourceLimits });
  const tsx = new URL('./dist/esm/api/index.mjs', pathToFileURL(createRequire(callerUrl).resolve('tsx/package.json')))
    .href;
  const source = new URL(`./${name}.ts`, callerUrl).href;
  const code = `import(${JSON.stringify(tsx)}).then(({ register }) => { register(); return import(${JSON.stringify(source)}); });`;
  return new Worker(code, { eval: true, workerData, resourceLimits });
}

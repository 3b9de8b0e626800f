import { writeFileSync } from 'node:fs';
import { gunzipSync, gzipSync } from 'node:zlib';
import {
  amountToMinor,
  type Baseline,
  decodeBaseline,
  ENGINE_VERSION,
  encodeBaseline,
  failure,
  holdBaseline,
  listTemplateSources,
  minorToMajor,
  type PricingBasis,
  type Result,
  runPipeline,
  success,
  type Template,
  templateToBasis,
  toMoveState,
  toStoredPlan,
} from '@tally/core';
import { readBytes, readModel, readTemplateFile, toTable } from '../input.ts';
import { type CompareOptions, compareWith } from './compare.ts';

type Frozen = Baseline<PricingBasis>;

/** `baseline MODEL.ifc --template T.json --out B.tally`: freezes the plan of a model with all that it was made of. */
export async function baseline(path: string, templatePath: string, outPath: string): Promise<Result<unknown>> {
  const template = readTemplateFile(templatePath);
  if (!template.ok) return template;
  const model = await readModel(path);
  if (!model.ok) return model;
  const basis = templateToBasis(template.value);
  const sources = listTemplateSources(template.value, toTable(model.value));
  const plan = runPipeline(basis, sources);
  const frozen: Frozen = {
    basis,
    sources: sources.map((s) => ({ ...s, name: s.sourceId === 'model' ? path : s.sourceId })),
    plan: toStoredPlan(plan, ENGINE_VERSION),
    template: template.value,
  };
  const bytes = gzipSync(encodeBaseline(frozen), { level: 6 });
  try {
    writeFileSync(outPath, bytes);
  } catch (error) {
    return failure(
      'file-not-written',
      `${outPath} cannot be written: ${(error as NodeJS.ErrnoException).code ?? 'error'}.`,
      {
        path: outPath,
        remedy: 'Check the folder and the rights.',
      },
    );
  }
  return success({
    out: outPath,
    engine: ENGINE_VERSION,
    currency: plan.currency,
    total: minorToMajor(amountToMinor(plan.total), plan.minorDigits),
    elements: frozen.plan.elements.keys.length,
    cells: frozen.plan.cells.keys.length,
    bytes: bytes.length,
  });
}

/** Reads a frozen plan. Errors: `file-unreadable`, `baseline-unreadable`. */
function readBaseline(path: string): Result<Frozen> {
  const bytes = readBytes(path);
  if (!bytes.ok) return bytes;
  try {
    return decodeBaseline<PricingBasis>(gunzipSync(bytes.value));
  } catch {
    return decodeBaseline<PricingBasis>(bytes.value);
  }
}

/** Whether a path is that of a frozen plan. */
export const isBaselinePath = (path: string): boolean => path.toLowerCase().endsWith('.tally');

/** `compare B.tally NEW.ifc`: what moved since a plan was frozen, and whether this version still works the frozen one out to what it was. */
export async function compareBaseline(
  path: string,
  newPath: string,
  options: CompareOptions,
): Promise<Result<unknown>> {
  const read = readBaseline(path);
  if (!read.ok) return read;
  const { basis, sources, plan: frozen, template } = read.value;
  const model = sources.find((s) => !s.table.origin);
  if (!model || template === undefined)
    return failure('baseline-unreadable', `${path} holds no model with the template that priced it.`, {
      path,
      remedy: 'Freeze a model by its template.',
    });
  const plan = runPipeline(basis, sources);
  const drift = holdBaseline(frozen, toStoredPlan(plan, ENGINE_VERSION));
  const before = { table: model.table, state: toMoveState(basis, sources, plan) };
  const compared = await compareWith(before, newPath, template as Template, options);
  if (!compared.ok || !drift) return compared;
  const major = (amount: number) => minorToMajor(amountToMinor(amount), plan.minorDigits);
  const [then, now] = drift.total;
  return success({
    ...(compared.value as object),
    drift: { engine: drift.engine, cells: drift.cells, total: [major(then), major(now)] },
  });
}

import { readFileSync } from 'node:fs';
import {
  assignElementKeys,
  buildElementTable,
  type ElementTable,
  failure,
  listTemplateSources,
  type Plan,
  type PricingBasis,
  type Result,
  readTemplate,
  readText,
  runPipeline,
  success,
  type Template,
  templateToBasis,
} from '@tally/core';
import { type ModelTakeoff, takeOffIfc } from '@tally/ifc';

/** Reads a file. Errors: `file-unreadable`. */
export function readBytes(path: string): Result<Uint8Array> {
  try {
    return success(readFileSync(path));
  } catch (error) {
    return failure('file-unreadable', `${path} cannot be read: ${(error as NodeJS.ErrnoException).code ?? 'error'}.`, {
      path,
      remedy: 'Check the name and the rights.',
    });
  }
}

/** Takes a model file off. */
export async function readModel(path: string): Promise<Result<ModelTakeoff>> {
  const bytes = readBytes(path);
  return bytes.ok ? await takeOffIfc(bytes.value) : bytes;
}

/** Reads and checks a template file. Errors: `file-unreadable`, `template-not-json`, `template-invalid`. */
export function readTemplateFile(path: string): Result<Template> {
  const bytes = readBytes(path);
  if (!bytes.ok) return bytes;
  let value: unknown;
  try {
    value = JSON.parse(new TextDecoder().decode(bytes.value));
  } catch (error) {
    return failure('template-not-json', `${path} is not JSON: ${(error as Error).message}`, {
      path,
      remedy: 'Correct the file.',
    });
  }
  return readTemplate(value);
}

/** A takeoff as a table with keys, continuing those of the revision before. */
export function toTable(takeoff: ModelTakeoff, before: ElementTable | null = null): ElementTable {
  const table = buildElementTable(takeoff.elements, undefined, takeoff.site);
  const next = before ? Math.max(0, ...before.keys) + 1 : 1;
  const { keys, identified } = assignElementKeys(before, table, next);
  return { ...table, keys, ...(identified ? { identified } : {}) };
}

/** A template, a model and the plan that the one gives of the other. */
export interface ReadPlan {
  readonly template: Template;
  readonly takeoff: ModelTakeoff;
  readonly basis: PricingBasis;
  readonly plan: Plan;
}

/** Prices a model file by a template file. Errors: those of reading either. */
export async function readPlan(path: string, templatePath: string): Promise<Result<ReadPlan>> {
  const template = readTemplateFile(templatePath);
  if (!template.ok) return template;
  const read = await readModel(path);
  if (!read.ok) return read;
  const basis = templateToBasis(template.value);
  const plan = runPipeline(basis, listTemplateSources(template.value, toTable(read.value)));
  return success({ template: template.value, takeoff: read.value, basis, plan });
}

/** Row of the element of a GlobalId. Errors: `element-unknown`. */
export function findElement(table: ElementTable, globalId: string, path: string): Result<number> {
  for (let row = 0; row < table.count; row++) if (readText(table.identity, row) === globalId) return success(row);
  return failure('element-unknown', `${path} has no element ${globalId}.`, {
    path: globalId,
    remedy: 'Take a GlobalId from the takeoff.',
  });
}

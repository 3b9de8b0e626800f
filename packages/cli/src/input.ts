import { readFileSync } from 'node:fs';
import {
  assignElementKeys,
  buildElementTable,
  type ElementTable,
  failure,
  type Result,
  readTemplate,
  success,
  type Template,
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
  return { ...table, keys: assignElementKeys(before, table, next).keys };
}

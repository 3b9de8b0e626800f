import { type Result, readText, success, tellDecisions } from '@tally/core';
import { findElement, readPlan } from '../input.ts';

/** `explain MODEL.ifc --template T.json --element GLOBALID`: what decides about an element, section by section, and why it is not priced. */
export async function explain(path: string, templatePath: string, globalId: string): Promise<Result<unknown>> {
  const read = await readPlan(path, templatePath);
  if (!read.ok) return read;
  const { basis, plan } = read.value;
  const { table } = plan.parts[0]!;
  const found = findElement(table, globalId, path);
  if (!found.ok) return found;
  const row = found.value;
  const sections = tellDecisions(plan, basis, table.keys[row]!, (of) => readText(table.identity, of) ?? '');
  return success({ globalId, ifcClass: readText(table.ifcClass, row), name: readText(table.name, row), sections });
}

import { type CodeTarget, matchCodes, type Result, readText, success } from '@tally/core';
import { readModel, readTemplateFile, toTable } from '../input.ts';

const tell = ({ kind, code, description, unit, by }: CodeTarget) => ({ kind, code, description, unit, by });

/**
 * `suggest-codes MODEL.ifc --template T.json [--property SET.NAME]`: the codes that elements carry, what of the book each means, and for those
 * that it does not know what is written most like them.
 */
export async function suggestCodes(
  path: string,
  templatePath: string,
  property: string | null,
): Promise<Result<unknown>> {
  const template = readTemplateFile(templatePath);
  if (!template.ok) return template;
  const read = await readModel(path);
  if (!read.ok) return read;
  const table = toTable(read.value);
  const matched = matchCodes(table, template.value, property);
  const carrying = new Set(matched.flatMap((m) => m.rows));
  return success({
    elements: table.count,
    withCode: carrying.size,
    codes: matched.map(({ code, rows, targets, nearest }) => ({
      code,
      globalIds: rows.map((row) => readText(table.identity, row)),
      targets: targets.map(tell),
      nearest: nearest.map(tell),
    })),
  });
}

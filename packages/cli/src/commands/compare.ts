import {
  diffElements,
  listTemplateSources,
  minorToMajor,
  type Result,
  readText,
  runPipeline,
  showMove,
  splitMove,
  success,
  templateToBasis,
} from '@tally/core';
import { readModel, readTemplateFile, toTable } from '../input.ts';

/** `compare OLD.ifc NEW.ifc --template T.json`: what came, went and changed, and the move of the total. */
export async function compare(oldPath: string, newPath: string, templatePath: string): Promise<Result<unknown>> {
  const template = readTemplateFile(templatePath);
  if (!template.ok) return template;
  const old = await readModel(oldPath);
  if (!old.ok) return old;
  const fresh = await readModel(newPath);
  if (!fresh.ok) return fresh;
  const basis = templateToBasis(template.value);
  const before = toTable(old.value);
  const after = toTable(fresh.value, before);
  const [from, to] = [before, after].map((table) => runPipeline(basis, listTemplateSources(template.value, table))) as [
    ReturnType<typeof runPipeline>,
    ReturnType<typeof runPipeline>,
  ];
  const move = showMove(splitMove(from, to));
  const major = (minor: number) => minorToMajor(minor, to.minorDigits);
  const diff = diffElements(before, after);
  return success({
    currency: to.currency,
    from: major(move.before),
    to: major(move.after),
    move: major(move.move),
    causes: Object.fromEntries(Object.entries(move.causes).map(([cause, minor]) => [cause, major(minor)])),
    elements: {
      added: diff.added.map((row) => readText(after.identity, row)),
      removed: diff.removed.map((row) => readText(before.identity, row)),
      changed: diff.changed.map(({ row, quantities, attributes }) => ({
        globalId: readText(after.identity, row),
        quantities,
        attributes,
      })),
    },
  });
}

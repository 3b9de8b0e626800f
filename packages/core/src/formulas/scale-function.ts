import { failure, success } from '../result/result.ts';
import { dimensionToUnitName, fitsDimension } from '../units/dimension.ts';
import { dimensionOf, type FormulaFunction, mismatch, NO_RUN } from './formula-function.ts';
import { describeFormulaType } from './formula-types.ts';

/** Looks a figure up in a scale of the book. What the scale does not cover is unknown, never 0. */
export const SCALE_FUNCTION: FormulaFunction = {
  name: 'scale',
  usage: 'scale("Scale", Depth) or scale("Scale", Depth, text("Set.Name"))',
  meaning: 'The figure of a scale for a quantity or a text, or for two of them.',
  arity: [2, 3],
  check: ([first, ...keys], names) => {
    if (first!.type.kind !== 'text' || !first!.isConstant)
      return failure('formula-arguments', 'scale needs the name of a scale in quotation marks.', {
        remedy: 'e.g. scale("Excavation", Depth)',
      });
    const name = String(first!.evaluate(NO_RUN));
    const found = names.findScale(name);
    if (!found)
      return failure('scale-unknown', `There is no usable scale "${name}" in the book.`, {
        remedy: 'Add it under Scales, or correct its name.',
      });
    if (found.problem)
      return failure(found.problem.code, `The scale cannot be used: ${found.problem.message}`, {
        remedy: found.problem.remedy,
      });
    if (keys.length !== found.keys.length)
      return failure(
        'formula-arguments',
        `The scale ${found.name} is looked up by ${found.keys.length === 1 ? 'one value' : 'two values'}; it got ${keys.length}.`,
      );
    for (const [i, needed] of found.keys.entries()) {
      const given = dimensionOf(keys[i]!);
      const isFit = needed === null ? keys[i]!.type.kind === 'text' : given !== null && fitsDimension(given, needed);
      if (!isFit)
        return mismatch(
          `The scale ${found.name} is looked up by ${needed === null ? 'a text' : dimensionToUnitName(needed)}; it got ${describeFormulaType(keys[i]!.type)}.`,
        );
    }
    return success({ kind: 'number', dimension: found.dimension });
  },
  compile: ([first, ...keys], names) => {
    const scale = names.findScale(String(first!.evaluate(NO_RUN)))!;
    return (run) => {
      const values = keys.map((k) => k.evaluate(run) as number | string);
      if (run.problem) return Number.NaN;
      const found = scale.find(values);
      if (typeof found === 'number') return found;
      run.problem = found;
      return Number.NaN;
    };
  },
};

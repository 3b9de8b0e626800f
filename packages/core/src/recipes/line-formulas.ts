import { type BuildUpLine, isSharedRun, type LineRun } from '../book/assembly.ts';
import { readConsumption } from '../book/consumption.ts';
import { type CompiledFormula, compileFormula } from '../formulas/compile-formula.ts';
import type { FormulaNames } from '../formulas/formula-types.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import type { Unit } from '../units/unit.ts';
import { PART_NAMES } from './part-names.ts';
import { nameShared } from './shared-line.ts';

/** The condition of a line; null if it has none. Errors: those of the formula, `formula-dimension` for a figure. */
export function compileWhen(when: string | undefined, names: FormulaNames): Result<CompiledFormula | null> {
  if (!when?.trim()) return success(null);
  const formula = compileFormula(when, names);
  if (formula.ok && formula.value.type.kind !== 'truth')
    return failure('formula-dimension', `"${when}" is no condition.`, {
      remedy: 'Compare two figures, e.g. Height > 3 m.',
    });
  return formula;
}

export type ItemLine = Omit<BuildUpLine, 'assembly'>;

/** Names that a line may use beside those of its assembly, by what it runs over. */
export function nameRun(run: LineRun | undefined, names: FormulaNames): FormulaNames {
  if (!run) return names;
  return isSharedRun(run) ? nameShared(names, run) : names.with(PART_NAMES[run]);
}

/** Why a line cannot be what it says it is; null if it can. Errors: `line-run`, `parameter-unknown` for an item that is handed any. */
export function checkRun({ per, assembly, piece, parameters = {} }: BuildUpLine): Problem | null {
  if (assembly === undefined && Object.keys(parameters).length > 0)
    return {
      code: 'parameter-unknown',
      message: 'A line with an item hands nothing on; it has no parameters.',
      remedy: 'Take them out, or take an assembly.',
    };
  if (isSharedRun(per) && assembly !== undefined)
    return {
      code: 'line-run',
      message: 'A line with an assembly does not run once for several elements.',
      remedy: 'Let the lines inside that assembly run so, or take an item.',
    };
  if (isSharedRun(per) && piece)
    return {
      code: 'line-run',
      message: 'A line that runs once for several elements has no length of one piece.',
      remedy: 'Take the length of a piece out, or let the line run per element.',
    };
  return null;
}

/** The formula of a line's quantity: as written, or what a consumption means. */
export function writeQuantity(line: ItemLine, names: FormulaNames, unit: Unit): Result<string> {
  const text = ((): Result<string> => {
    if (line.consumption === undefined) return success(line.quantity ?? '');
    const of = compileFormula(line.of ?? 'Driver', names);
    if (!of.ok) return of;
    if (of.value.type.kind !== 'number')
      return failure('formula-dimension', `"${line.of}" is no figure that a consumption can go by.`);
    const base = line.of === undefined ? 'Driver' : `(${line.of})`;
    return readConsumption(line.consumption, of.value.type.dimension, unit, base);
  })();
  if (!text.ok || line.crew === undefined) return text;
  if (unit.dimension.hour !== 1)
    return failure('formula-dimension', `A crew works hours; this line gives ${unit.symbol}.`, {
      remedy: 'Take the crew out, or take an item in hours.',
    });
  // Checked without the crew first, so that a fault is shown where it was typed.
  const alone = compileFormula(text.value, names, unit);
  return alone.ok ? success(`(${text.value}) * ${line.crew}`) : alone;
}

/** Only what belongs to the element or the book goes on into an assembly: parameters and results of the one outside are not seen. */
export function onlyOuter(outer: FormulaNames): FormulaNames {
  return outer.only((n) => n.source === 'quantity' || n.source === 'value');
}

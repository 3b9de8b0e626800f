import type { Result } from '../result/result.ts';
import { success } from '../result/result.ts';
import { stepsDown, stepsNear, stepsUp } from '../units/at-limit.ts';
import {
  type Dimension,
  isCountDimension,
  isDimensionless,
  isSameDimension,
  joinDimensions,
  multiplyDimensions,
} from '../units/dimension.ts';
import { ELEMENT_FUNCTIONS } from './element-functions.ts';
import { dimensionOf, type FormulaFunction, mismatch, number } from './formula-function.ts';
import { type CompiledNode, describeFormulaType, type FormulaType } from './formula-types.ts';
import { SCALE_FUNCTION } from './scale-function.ts';
import { TEXT_FUNCTIONS } from './text-functions.ts';

function checkSame(name: string) {
  return (args: readonly CompiledNode[]): Result<FormulaType> => {
    let joined = dimensionOf(args[0]!);
    for (const arg of args) {
      const d = dimensionOf(arg);
      joined = joined && d ? joinDimensions(joined, d) : null;
      if (!joined)
        return mismatch(
          `${name} needs figures of one unit; it got ${args.map((a) => describeFormulaType(a.type)).join(' and ')}.`,
        );
    }
    return success({ kind: 'number', dimension: joined! });
  };
}

function rounding(
  name: string,
  usage: string,
  meaning: string,
  steps: (figure: number, step?: number) => number,
): FormulaFunction {
  return {
    name,
    usage,
    meaning,
    arity: [1, 2],
    check: (args) => {
      const d = dimensionOf(args[0]!);
      if (!d) return mismatch(`${name} needs a figure.`);
      if (args.length === 1) {
        if (isCountDimension(d)) return success(args[0]!.type);
        return mismatch(
          `${name} of a figure in ${describeFormulaType(args[0]!.type)} needs a step.`,
          `Write ${name}(…, 0.1 m) with the step you mean, or divide first.`,
        );
      }
      const step = dimensionOf(args[1]!);
      return step && joinDimensions(d, step)
        ? success(args[0]!.type)
        : mismatch(
            `The step of ${name} is in ${describeFormulaType(args[1]!.type)}, the figure in ${describeFormulaType(args[0]!.type)}.`,
          );
    },
    compile: (args) => {
      const value = number(args, 0);
      if (args.length === 1) return (run) => steps(value(run));
      const step = number(args, 1);
      return (run) => {
        const s = step(run);
        if (s > 0) return steps(value(run), s) * s;
        run.problem ??= {
          code: 'formula-step-not-positive',
          message: `The step of ${name} is not more than 0.`,
          remedy: 'Give a step such as 0.1 m.',
        };
        return Number.NaN;
      };
    },
  };
}

/** Every function of the language. */
export const FORMULA_FUNCTIONS: readonly FormulaFunction[] = [
  {
    name: 'min',
    usage: 'min(a, b, …)',
    meaning: 'The smallest of figures of one unit.',
    arity: [1, 20],
    check: checkSame('min'),
    compile: (args) => (run) => Math.min(...args.map((a) => a.evaluate(run) as number)),
  },
  {
    name: 'max',
    usage: 'max(a, b, …)',
    meaning: 'The largest of figures of one unit.',
    arity: [1, 20],
    check: checkSame('max'),
    compile: (args) => (run) => Math.max(...args.map((a) => a.evaluate(run) as number)),
  },
  {
    name: 'abs',
    usage: 'abs(a)',
    meaning: 'The figure without its sign.',
    arity: [1, 1],
    check: checkSame('abs'),
    compile: (args) => (run) => Math.abs(number(args, 0)(run)),
  },
  rounding(
    'ceil',
    'ceil(a) or ceil(a, step)',
    'Up to the next whole count, or to the next multiple of the step.',
    stepsUp,
  ),
  rounding('floor', 'floor(a) or floor(a, step)', 'Down to a whole count, or to a multiple of the step.', stepsDown),
  rounding('round', 'round(a) or round(a, step)', 'To the nearest whole count, or multiple of the step.', stepsNear),
  {
    name: 'sqrt',
    usage: 'sqrt(a)',
    meaning: 'Square root; of an area it gives a length.',
    arity: [1, 1],
    check: ([a]) => {
      const d = dimensionOf(a!);
      if (!d || Object.values(d).some((e) => e % 2 !== 0))
        return mismatch(`There is no square root of ${describeFormulaType(a!.type)}.`);
      const half = Object.fromEntries(Object.entries(d).map(([k, e]) => [k, e / 2])) as Dimension;
      return success({ kind: 'number', dimension: half });
    },
    compile: (args) => (run) => Math.sqrt(number(args, 0)(run)),
  },
  {
    name: 'atCentres',
    usage: 'atCentres(length, spacing)',
    meaning: 'How many pieces stand along a length at a spacing not exceeded, one at each end: whole spaces + 1.',
    arity: [2, 2],
    check: ([a, b]) => {
      const [x, y] = [dimensionOf(a!), dimensionOf(b!)];
      return x && y && isSameDimension(x, { length: 1 }) && isSameDimension(y, { length: 1 })
        ? success({ kind: 'number', dimension: {} })
        : mismatch('atCentres needs two lengths.', 'e.g. atCentres(Length, 0.6 m)');
    },
    compile: (args) => (run) => {
      const spacing = number(args, 1)(run);
      if (!(spacing > 0)) {
        run.problem ??= {
          code: 'formula-division-by-zero',
          message: 'The spacing is not more than 0.',
          remedy: 'Give a spacing such as 0.6 m.',
        };
        return Number.NaN;
      }
      return stepsUp(number(args, 0)(run), spacing) + 1;
    },
  },
  {
    name: 'if',
    usage: 'if(condition, then, else)',
    meaning: 'One of two values; only the chosen one is calculated.',
    arity: [3, 3],
    check: ([c, a, b]) => {
      if (c!.type.kind !== 'truth') return mismatch('The first value of if must be a condition, such as Height > 3 m.');
      if (a!.type.kind !== 'number' || b!.type.kind !== 'number')
        return a!.type.kind === b!.type.kind ? success(a!.type) : mismatch('Both outcomes of if must be of one kind.');
      const d = joinDimensions(a!.type.dimension, b!.type.dimension);
      return d
        ? success({ kind: 'number', dimension: d })
        : mismatch(`The outcomes of if are in ${describeFormulaType(a!.type)} and ${describeFormulaType(b!.type)}.`);
    },
    compile:
      ([c, a, b]) =>
      (run) =>
        c!.evaluate(run) ? a!.evaluate(run) : b!.evaluate(run),
  },
  ...ELEMENT_FUNCTIONS,
  ...TEXT_FUNCTIONS,
  SCALE_FUNCTION,
];

const BY_NAME = new Map(FORMULA_FUNCTIONS.map((f) => [f.name.toLowerCase(), f]));

/** Finds a function in any case. */
export function findFormulaFunction(name: string): FormulaFunction | undefined {
  return BY_NAME.get(name.toLowerCase());
}

/** Dimension of a power with a constant whole exponent; null if it has none. */
export function raiseDimension(base: Dimension, exponent: number): Dimension | null {
  if (isDimensionless(base)) return base;
  if (!Number.isInteger(exponent) || Math.abs(exponent) > 6) return null;
  let out: Dimension = {};
  for (let i = 0; i < Math.abs(exponent); i++) out = multiplyDimensions(out, base, Math.sign(exponent));
  return out;
}

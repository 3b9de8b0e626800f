import { FACE_LOOKS, type FaceLook, type FinishSurface } from '../elements/model-element.ts';
import { LIMITABLE_QUANTITIES } from '../quantities/limited-quantity.ts';
import type { JunctionKind } from '../quantities/wall-junctions.ts';
import type { Result } from '../result/result.ts';
import { failure, success } from '../result/result.ts';
import {
  type Dimension,
  isCountDimension,
  isDimensionless,
  isSameDimension,
  joinDimensions,
  multiplyDimensions,
} from '../units/dimension.ts';
import {
  type CompiledNode,
  describeFormulaType,
  type Evaluator,
  type FormulaRun,
  type FormulaType,
  TEXT,
  TRUTH,
} from './formula-types.ts';

/** A function of the formula language: its words for the documentation, its check, its method. */
export interface FormulaFunction {
  readonly name: string;
  readonly usage: string;
  readonly meaning: string;
  readonly arity: readonly [number, number];
  /** Its value differs from element to element even where its values are written out. */
  readonly readsElement?: true;
  /** Type of the result, or why the values do not fit. */
  readonly check: (args: readonly CompiledNode[]) => Result<FormulaType>;
  readonly compile: (args: readonly CompiledNode[]) => Evaluator;
}

/** For texts that are written in the formula itself. */
const NO_RUN: FormulaRun = { values: [], property: () => undefined, problem: null };

/** Figures that should be whole but are not quite (2.4 / 0.6) are taken as whole within this. */
const WHOLE = 1e-9;

const dimensionOf = (node: CompiledNode): Dimension | null =>
  node.type.kind === 'number' ? node.type.dimension : null;
const mismatch = <T>(message: string, remedy?: string) => failure<T>('formula-dimension', message, { remedy });
const number = (args: readonly CompiledNode[], i: number) => args[i]!.evaluate as (run: FormulaRun) => number;

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

function rounding(name: string, usage: string, meaning: string, round: (x: number) => number): FormulaFunction {
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
      if (args.length === 1) return (run) => round(value(run));
      const step = number(args, 1);
      return (run) => {
        const s = step(run);
        return round(value(run) / s) * s;
      };
    },
  };
}

const property = (
  name: string,
  usage: string,
  meaning: string,
  arity: readonly [number, number],
  type: (args: readonly CompiledNode[]) => Result<FormulaType>,
  read: (raw: unknown, run: FormulaRun, args: readonly CompiledNode[]) => number | string | boolean | undefined,
): FormulaFunction => ({
  name,
  usage,
  meaning,
  arity,
  readsElement: true,
  check: (args) =>
    args[0]!.type.kind === 'text' && args[0]!.isConstant
      ? type(args)
      : failure('formula-arguments', `${name} needs the name of a property in quotation marks.`, { remedy: usage }),
  compile: (args) => (run) => {
    const wanted = String(args[0]!.evaluate(run));
    const raw = run.property(wanted);
    const value = raw === undefined ? undefined : read(raw, run, args);
    if (value !== undefined) return value;
    run.problem ??=
      raw === undefined
        ? {
            code: 'formula-property-missing',
            message: `The element has no property "${wanted}".`,
            remedy: 'Take another property, or guard it with if(has("…"), …, …).',
          }
        : {
            code: 'formula-property-type',
            message: `Property "${wanted}" is "${String(raw)}", which ${name} cannot read.`,
          };
    return Number.NaN;
  },
});

const toTruth = (raw: unknown): boolean | undefined =>
  typeof raw === 'boolean'
    ? raw
    : /^(true|yes|1)$/i.test(String(raw))
      ? true
      : /^(false|no|0)$/i.test(String(raw))
        ? false
        : undefined;

/** Area of a wall's side within a band of heights, openings deducted. */
function sidePart(name: string, meaning: string, band: (heightM: number) => [number, number]): FormulaFunction {
  return {
    name,
    usage: `${name}(0.3 m)`,
    meaning,
    arity: [1, 1],
    readsElement: true,
    check: ([a]) => {
      const d = dimensionOf(a!);
      return d && isSameDimension(d, { length: 1 })
        ? success({ kind: 'number', dimension: { length: 2 } })
        : mismatch(`${name} needs a height.`, `e.g. ${name}(0.3 m)`);
    },
    compile: (args) => (run) => {
      const side = run.side?.();
      if (!side) {
        run.problem ??= {
          code: 'formula-no-side',
          message: 'The element is no straight wall of one height whose openings are known.',
          remedy: 'Use it on such walls only, or take NetSideArea.',
        };
        return Number.NaN;
      }
      const [from, to] = band(number(args, 0)(run));
      const within = (bottom: number, top: number) => Math.max(0, Math.min(top, to) - Math.max(bottom, from, 0));
      const open = side.openings.reduce((sum, o) => sum + o.widthM * within(o.sillM, o.sillM + o.heightM), 0);
      return side.lengthM * within(0, side.heightM) - open;
    },
  };
}

const JUNCTION_KINDS: readonly JunctionKind[] = ['corners', 'tees', 'crosses', 'freeEnds'];
const toJunctionKind = (text: unknown): JunctionKind | undefined =>
  JUNCTION_KINDS.find((k) => k.toLowerCase() === String(text).replace(/\s/g, '').toLowerCase());

const AREA_SURFACES: readonly string[] = ['floor', 'wall', 'ceiling'];

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
    (x) => Math.ceil(x - WHOLE),
  ),
  rounding('floor', 'floor(a) or floor(a, step)', 'Down to a whole count, or to a multiple of the step.', (x) =>
    Math.floor(x + WHOLE),
  ),
  rounding(
    'round',
    'round(a) or round(a, step)',
    'To the nearest whole count, or multiple of the step.',
    (x) => Math.sign(x) * Math.round(Math.abs(x) + WHOLE),
  ),
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
      return Math.ceil(number(args, 0)(run) / spacing - WHOLE) + 1;
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
  property(
    'text',
    'text("Set.Name")',
    'A property as text.',
    [1, 1],
    () => success(TEXT),
    (raw) => String(raw),
  ),
  property('yes', 'yes("Set.Name")', 'A property that is yes or no.', [1, 1], () => success(TRUTH), toTruth),
  property(
    'number',
    'number("Set.Name") or number("Set.Name", 1 mm)',
    'A property as a figure; the second value says what one of it is.',
    [1, 2],
    (args) =>
      args.length === 1
        ? success({ kind: 'number', dimension: {} })
        : dimensionOf(args[1]!)
          ? success(args[1]!.type)
          : mismatch('The second value of number must be a figure with a unit.'),
    (raw, run, args) => {
      const value = typeof raw === 'number' ? raw : Number(String(raw).replace(',', '.'));
      return Number.isFinite(value) && String(raw).trim() !== ''
        ? value * (args.length > 1 ? number(args, 1)(run) : 1)
        : undefined;
    },
  ),
  sidePart('sideBelow', 'Net side area of a wall up to a height above its bottom, one side.', (h) => [0, h]),
  sidePart(
    'sideAbove',
    'Net side area of a wall from a height above its bottom on, one side: a render down to the plinth.',
    (h) => [h, Number.POSITIVE_INFINITY],
  ),
  {
    name: 'junctions',
    usage: 'junctions("Tees", "Partition*")',
    meaning:
      'Corners, Tees, Crosses or FreeEnds counted with the wall, among the walls of a class or of types only (* and ? are wildcards).',
    arity: [2, 2],
    readsElement: true,
    check: ([kind, among]) => {
      if ([kind!, among!].some((a) => a.type.kind !== 'text' || !a.isConstant))
        return failure('formula-arguments', 'junctions needs a kind and a class or type in quotation marks.');
      return toJunctionKind(kind!.evaluate(NO_RUN))
        ? success({ kind: 'number', dimension: { each: 1 } })
        : failure('formula-arguments', 'Junctions are Corners, Tees, Crosses or FreeEnds.', {
            remedy: 'e.g. junctions("Tees", "Partition*")',
          });
    },
    compile: (args) => {
      const kind = toJunctionKind(args[0]!.evaluate(NO_RUN))!;
      const among = String(args[1]!.evaluate(NO_RUN));
      return (run) => run.junctions?.(kind, among) ?? 0;
    },
  },
  {
    name: 'within',
    usage: 'within("Limit", NetVolume)',
    meaning:
      'The part of a quantity that lies within a limit of the project: above or below a level, in an outline on plan.',
    arity: [2, 2],
    readsElement: true,
    check: ([limit, quantity]) => {
      if (limit!.type.kind !== 'text' || !limit!.isConstant)
        return failure('formula-arguments', 'within needs the name of a limit in quotation marks.', {
          remedy: 'Limits are kept in the settings of the project.',
        });
      const name = quantity!.quantity;
      return name && LIMITABLE_QUANTITIES.includes(name)
        ? success(quantity!.type)
        : failure('formula-arguments', `${name ?? 'What stands there'} cannot be limited to a part.`, {
            remedy: `Take a quantity such as ${LIMITABLE_QUANTITIES.slice(0, 4).join(', ')}.`,
          });
    },
    compile: ([limit, quantity]) => {
      const name = String(limit!.evaluate(NO_RUN));
      return (run) => {
        const whole = quantity!.evaluate(run) as number;
        const share = run.within?.(name, quantity!.quantity!) ?? 1;
        if (typeof share === 'number') return whole * share;
        run.problem ??= share;
        return Number.NaN;
      };
    },
  },
  {
    name: 'finishArea',
    usage: 'finishArea("Tiles*") or finishArea("Tiles*", "wall")',
    meaning:
      'Area of the floor, walls and ceiling of a room that have a finish, or of one of them; parts of walls are told apart.',
    arity: [1, 2],
    readsElement: true,
    check: (args) => {
      const surface = args[1];
      if (args.some((a) => a.type.kind !== 'text' || !a.isConstant))
        return failure('formula-arguments', 'finishArea needs the name of a finish in quotation marks.');
      return !surface || AREA_SURFACES.includes(String(surface.evaluate(NO_RUN)))
        ? success({ kind: 'number', dimension: { length: 2 } })
        : failure('formula-arguments', `A finish is on the ${AREA_SURFACES.join(', ')}.`, {
            remedy: 'e.g. finishArea("Tiles*", "wall")',
          });
    },
    compile: (args) => (run) => {
      const finish = String(args[0]!.evaluate(run));
      const surface = args[1] ? (args[1].evaluate(run) as FinishSurface) : null;
      const area = run.finish?.(finish, surface) ?? null;
      if (area === null)
        run.problem ??= {
          code: 'formula-no-finish',
          message: `The element has no ${surface ?? 'surface'} finished with "${finish}" whose area is known.`,
          remedy: 'Let the rule catch only rooms with that finish.',
        };
      return area ?? Number.NaN;
    },
  },
  {
    name: 'faceArea',
    usage: 'faceArea("Style") or faceArea("Style", "side")',
    meaning:
      'Area of the faces that carry a surface style (* and ? are wildcards), or only of those that look top, bottom, side or end.',
    arity: [1, 2],
    readsElement: true,
    check: (args) => {
      const look = args[1];
      if (args.some((a) => a.type.kind !== 'text' || !a.isConstant))
        return failure('formula-arguments', 'faceArea needs the name of a style in quotation marks.');
      if (look && !FACE_LOOKS.includes(look.evaluate(NO_RUN) as FaceLook))
        return failure('formula-arguments', `A face looks ${FACE_LOOKS.slice(0, 4).join(', ')}.`, {
          remedy: 'e.g. faceArea("Render*", "side")',
        });
      return success({ kind: 'number', dimension: { length: 2 } });
    },
    compile: (args) => (run) => {
      const style = String(args[0]!.evaluate(run));
      const look = args[1] ? (args[1].evaluate(run) as FaceLook) : null;
      const area = run.faces?.(style, look) ?? null;
      if (area === null)
        run.problem ??= {
          code: 'formula-no-face',
          message: `The element has no ${look && look !== 'all' ? `${look} ` : ''}face of the style "${style}".`,
          remedy: 'Let the rule catch only elements with that style.',
        };
      return area ?? Number.NaN;
    },
  },
  {
    name: 'has',
    usage: 'has("Set.Name")',
    meaning: 'Whether the element has the property.',
    arity: [1, 1],
    readsElement: true,
    check: ([a]) =>
      a!.type.kind === 'text'
        ? success(TRUTH)
        : failure('formula-arguments', 'has needs the name of a property in quotation marks.'),
    compile: (args) => (run) => run.property(String(args[0]!.evaluate(run))) !== undefined,
  },
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

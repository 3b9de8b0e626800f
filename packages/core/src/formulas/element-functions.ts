import { FACE_LOOKS, type FaceLook, type FinishSurface } from '../elements/model-element.ts';
import { LIMITABLE_QUANTITIES } from '../quantities/limited-quantity.ts';
import type { JunctionKind } from '../quantities/wall-junctions.ts';
import type { Result } from '../result/result.ts';
import { failure, success } from '../result/result.ts';
import { isSameDimension } from '../units/dimension.ts';
import { foldText } from '../units/fold-text.ts';
import { readFileNumber } from '../units/typed-number.ts';
import { dimensionOf, type FormulaFunction, mismatch, NO_RUN, number } from './formula-function.ts';
import {
  type CompiledNode,
  type ElementField,
  type FormulaRun,
  type FormulaType,
  TEXT,
  TRUTH,
} from './formula-types.ts';

/** The property that a function reads, if its name is written out. */
const readProperty = ([name]: readonly CompiledNode[]): readonly ElementField[] => [
  name!.isConstant ? `p:${foldText(String(name!.evaluate(NO_RUN)))}` : '*',
];

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
  reads: readProperty,
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

/** A name that may be worked out, the rest written in the formula itself. */
const areTexts = (args: readonly CompiledNode[]): boolean =>
  args.every((a, i) => a.type.kind === 'text' && (i === 0 || a.isConstant));

const AREA_SURFACES: readonly string[] = ['floor', 'wall', 'ceiling'];

/** Functions that read more of an element than its figures: properties, faces, finishes, junctions, parts. */
export const ELEMENT_FUNCTIONS: readonly FormulaFunction[] = [
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
      const value = typeof raw === 'number' ? raw : readFileNumber(String(raw));
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
      return (run) => {
        const count = run.junctions?.(kind, among) ?? null;
        if (count !== null) return count;
        run.problem ??= {
          code: 'formula-no-junctions',
          message: 'The element is no wall whose middle line is known; it has no junctions.',
          remedy: 'Use junctions on walls only.',
        };
        return Number.NaN;
      };
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
      if (!areTexts(args)) return failure('formula-arguments', 'finishArea needs the name of a finish, as a text.');
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
      if (!areTexts(args)) return failure('formula-arguments', 'faceArea needs the name of a style, as a text.');
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
    name: 'layerMaterial',
    usage: 'layerMaterial()',
    meaning: 'Name of the material of the layer that the line runs over.',
    arity: [0, 0],
    readsElement: true,
    reads: () => ['parts'],
    check: (_, names) =>
      names.find('LayerThickness')
        ? success(TEXT)
        : failure('formula-arguments', 'layerMaterial needs a line that runs over layers.', {
            remedy: 'Let the line run per layer.',
          }),
    compile: () => (run) => run.layerMaterial?.() ?? '',
  },
  {
    name: 'junctionKind',
    usage: 'junctionKind()',
    meaning: 'What the junction is that the line runs over: "corner", "tee", "cross" or "free end".',
    arity: [0, 0],
    readsElement: true,
    reads: () => ['parts'],
    check: (_, names) =>
      names.find('JunctionHeight')
        ? success(TEXT)
        : failure('formula-arguments', 'junctionKind needs a line that runs over junctions.', {
            remedy: 'Let the line run per junction.',
          }),
    compile: () => (run) => run.junctionKind?.() ?? '',
  },
  {
    name: 'has',
    usage: 'has("Set.Name")',
    meaning: 'Whether the element has the property.',
    arity: [1, 1],
    readsElement: true,
    reads: readProperty,
    check: ([a]) =>
      a!.type.kind === 'text'
        ? success(TRUTH)
        : failure('formula-arguments', 'has needs the name of a property in quotation marks.'),
    compile: (args) => (run) => run.property(String(args[0]!.evaluate(run))) !== undefined,
  },
];

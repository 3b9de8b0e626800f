import type { PropertyValue } from '../elements/model-element.ts';
import { failure, type Problem, type Result, type Span, success } from '../result/result.ts';
import { exceeds, isAt, isBelow, reaches } from '../units/at-limit.ts';
import { writeName } from '../units/code-key.ts';
import { fitsDimension, isDimensionless, joinDimensions, multiplyDimensions } from '../units/dimension.ts';
import { foldText } from '../units/fold-text.ts';
import type { Unit } from '../units/unit.ts';
import {
  type CompiledNode,
  describeFormulaType,
  type ElementField,
  type Evaluator,
  type FormulaName,
  type FormulaNames,
  type FormulaRun,
  type FormulaScale,
  type FormulaType,
  type SlotValue,
  TEXT,
  TRUTH,
  typeOfName,
} from './formula-types.ts';
import { findFormulaFunction, raiseDimension } from './function-table.ts';
import { parseFormula } from './parser.ts';
import type { FormulaNode } from './syntax.ts';

/** A scale that a formula looks something up in, and the quantities it goes by; null for a key that is no plain quantity. */
export interface ScaleLookup {
  readonly scale: FormulaScale;
  readonly by: readonly (string | null)[];
}

/** A checked formula, ready to run on any number of elements. */
export interface CompiledFormula {
  readonly text: string;
  readonly type: FormulaType;
  /** Names it reads; a run's `values` stand in the same order. */
  readonly slots: readonly FormulaName[];
  /** Where in the text each use of a slot stands, for showing the figures. */
  readonly uses: readonly { readonly slot: number; readonly start: number; readonly end: number }[];
  readonly evaluate: Evaluator;
  /** It reads nothing of the element: one value for all. */
  readonly isConstant: boolean;
  /** It reads more of an element than the figures of its slots: a property, a face, a junction. */
  readonly readsElement: boolean;
  /** Fields of the element that it reads: the quantities of its slots, and what its functions read. */
  readonly reads: readonly ElementField[];
  /** Scales it looks something up in. */
  readonly lookups: readonly ScaleLookup[];
  /** Quantity of the element that it is, if it is nothing but one. */
  readonly quantity: string | null;
}

class CheckFailure extends Error {
  constructor(readonly problem: Problem) {
    super(problem.message);
  }
}

/**
 * Reads, checks and prepares a formula. With `needed` the result must fit that unit; a plain number fits `each`.
 * Errors (all with the place): those of the parser, `formula-name-unknown`, `formula-dimension`, `formula-arguments`,
 * `formula-constant-failure` for parts that can never work, such as 1/0.
 * @example compileFormula('NetSideArea * 60 each/m2', names, each) // gives each
 */
export function compileFormula(text: string, names: FormulaNames, needed?: Unit): Result<CompiledFormula> {
  const tree = parseFormula(text);
  if (!tree.ok) return tree;
  const slots: FormulaName[] = [];
  const uses: { slot: number; start: number; end: number }[] = [];
  const lookups: ScaleLookup[] = [];
  const building: Building = { names, slots, uses, lookups, reads: new Set(), readsElement: false };
  try {
    const root = compileNode(tree.value, building);
    if (needed) checkNeeded(root.type, needed, tree.value);
    return success({
      text,
      type: root.type,
      slots,
      uses,
      evaluate: root.evaluate,
      isConstant: root.isConstant,
      readsElement: building.readsElement,
      reads: [...building.reads, ...slots.flatMap(readSlotField)],
      lookups,
      quantity: root.quantity ?? null,
    });
  } catch (error) {
    if (error instanceof CheckFailure) return { ok: false, problem: error.problem };
    throw error;
  }
}

/** Runs a formula once. The result is SI of its dimension; a text or truth is returned as it is. */
export function runFormula(
  formula: CompiledFormula,
  values: ArrayLike<SlotValue>,
  property: (name: string) => PropertyValue | undefined = () => undefined,
  about: Omit<FormulaRun, 'values' | 'property' | 'problem'> = {},
): Result<number | string | boolean> {
  const run: FormulaRun = { values, property, ...about, problem: null };
  const value = formula.evaluate(run);
  if (run.problem) return { ok: false, problem: run.problem };
  if (typeof value === 'number' && !Number.isFinite(value))
    return failure('formula-not-finite', `"${formula.text}" gives no finite figure.`, {
      remedy: 'Check the figures it uses.',
    });
  return success(value);
}

interface Building {
  readonly names: FormulaNames;
  readonly slots: FormulaName[];
  readonly uses: { slot: number; start: number; end: number }[];
  readonly lookups: ScaleLookup[];
  readonly reads: Set<ElementField>;
  readsElement: boolean;
}

/** The field of the element that a name stands for, if it stands for one. */
function readSlotField({ name, source, value, reads }: FormulaName): readonly ElementField[] {
  if (value !== undefined) return [];
  if (reads) return reads;
  return source === 'quantity' ? [`q:${name.toLowerCase()}`] : source === 'part' ? ['parts'] : [];
}

function fail(code: string, message: string, { start, end }: Span, remedy?: string): never {
  throw new CheckFailure({ code, message, span: { start, end }, remedy });
}

function checkNeeded(type: FormulaType, needed: Unit, node: FormulaNode): void {
  if (type.kind === 'number' && fitsDimension(type.dimension, needed.dimension)) return;
  const gives = describeFormulaType(type);
  fail(
    'formula-dimension',
    `This gives ${gives}; ${needed.symbol} is needed.`,
    node,
    type.kind === 'number'
      ? `Multiply by a figure in ${needed.symbol} per ${gives === 'number' ? 'one' : gives}, e.g. 2 ${needed.symbol}/${gives === 'number' ? 'each' : gives}, or take another quantity.`
      : 'Use a figure.',
  );
}

function compileNode(node: FormulaNode, building: Building): CompiledNode {
  const compiled = compileKind(node, building);
  if (!compiled.isConstant || compiled.type.kind !== 'number' || node.kind === 'number') return compiled;
  // A part without names has one value for ever: calculate it now, and refuse it if it cannot work.
  const run: FormulaRun = { values: [], property: () => undefined, problem: null };
  const value = compiled.evaluate(run);
  if (run.problem || !Number.isFinite(value))
    fail(
      'formula-constant-failure',
      run.problem?.message ?? 'This part can never give a figure.',
      node,
      'Correct the figures.',
    );
  return { ...compiled, evaluate: () => value };
}

function compileKind(node: FormulaNode, building: Building): CompiledNode {
  switch (node.kind) {
    case 'number': {
      const value = node.value * (node.unit?.factor ?? 1);
      return {
        type: { kind: 'number', dimension: node.unit?.dimension ?? {} },
        isConstant: true,
        evaluate: () => value,
      };
    }
    case 'text':
      return { type: TEXT, isConstant: true, evaluate: () => node.value };
    case 'name':
      return compileName(node, building);
    case 'unary': {
      const operand = compileNode(node.operand, building);
      if (node.operator === 'not') {
        if (operand.type.kind !== 'truth') fail('formula-dimension', 'not needs a condition.', node.operand);
        return { type: TRUTH, isConstant: operand.isConstant, evaluate: (run) => !operand.evaluate(run) };
      }
      if (operand.type.kind !== 'number') fail('formula-dimension', 'Only a figure can have a sign.', node.operand);
      return {
        type: operand.type,
        isConstant: operand.isConstant,
        evaluate: (run) => -(operand.evaluate(run) as number),
      };
    }
    case 'binary':
      return compileBinary(node, compileNode(node.left, building), compileNode(node.right, building));
    case 'call':
      return compileCall(node, building);
  }
}

function compileName(node: FormulaNode & { kind: 'name' }, { names, slots, uses }: Building): CompiledNode {
  const found = names.find(node.name);
  if (!found) {
    const close = suggestName(node.name, names);
    fail(
      'formula-name-unknown',
      `There is no quantity, parameter or named value "${node.name}".`,
      node,
      close ? `Did you mean ${close}?` : 'Pick one from the list of quantities.',
    );
  }
  if (found.problem)
    fail(found.problem.code, `${found.name} cannot be used: ${found.problem.message}`, node, found.problem.remedy);
  let slot = slots.findIndex((s) => s.name === found.name);
  if (slot < 0) slot = slots.push(found) - 1;
  uses.push({ slot, start: node.start, end: node.end });
  if (found.value !== undefined) {
    const { value } = found;
    return { type: { kind: 'number', dimension: found.dimension }, isConstant: true, evaluate: () => value };
  }
  const evaluate: Evaluator = (run) => {
    const value = run.values[slot]!;
    if (typeof value === 'number' && Number.isNaN(value))
      run.problem ??= {
        code: 'formula-quantity-missing',
        message: `The element has no ${found.name}.`,
        remedy: 'Use a quantity it has, or look at why it could not be measured.',
      };
    return value;
  };
  return {
    type: typeOfName(found),
    isConstant: false,
    evaluate,
    quantity: found.source === 'quantity' ? found.name : found.quantity,
  };
}

/** The known name nearest to a mistyped one, if near enough. */
export function suggestName(typed: string, names: FormulaNames): string | undefined {
  const wanted = foldText(typed);
  const distance = (a: string, b: string): number => {
    let row = Array.from({ length: b.length + 1 }, (_, i) => i);
    for (let i = 1; i <= a.length; i++) {
      const next = [i];
      for (let j = 1; j <= b.length; j++)
        next.push(Math.min(next[j - 1]! + 1, row[j]! + 1, row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1)));
      row = next;
    }
    return row[b.length]!;
  };
  const ranked = names
    .list()
    .map((n) => ({ name: n.name, d: foldText(n.name).includes(wanted) ? 1 : distance(wanted, foldText(n.name)) }));
  ranked.sort((a, b) => a.d - b.d);
  return ranked[0] && ranked[0].d <= Math.max(2, wanted.length / 3) ? writeName(ranked[0].name) : undefined;
}

function compileBinary(node: FormulaNode & { kind: 'binary' }, left: CompiledNode, right: CompiledNode): CompiledNode {
  const { operator } = node;
  const isConstant = left.isConstant && right.isConstant;
  if (operator === 'and' || operator === 'or') {
    for (const [side, part] of [
      [left, node.left],
      [right, node.right],
    ] as const)
      if (side.type.kind !== 'truth') fail('formula-dimension', `${operator} needs conditions on both sides.`, part);
    const evaluate: Evaluator =
      operator === 'and'
        ? (run) => Boolean(left.evaluate(run)) && Boolean(right.evaluate(run))
        : (run) => Boolean(left.evaluate(run)) || Boolean(right.evaluate(run));
    return { type: TRUTH, isConstant, evaluate };
  }
  const isComparison = ['=', '<>', '<', '<=', '>', '>='].includes(operator);
  if (
    isComparison &&
    left.type.kind === 'text' &&
    right.type.kind === 'text' &&
    (operator === '=' || operator === '<>')
  ) {
    const isEqual = operator === '=';
    return {
      type: TRUTH,
      isConstant,
      evaluate: (run) => (foldText(String(left.evaluate(run))) === foldText(String(right.evaluate(run)))) === isEqual,
    };
  }
  if (left.type.kind !== 'number' || right.type.kind !== 'number') {
    fail(
      'formula-dimension',
      `${describeFormulaType(left.type)} ${operator} ${describeFormulaType(right.type)} has no meaning.`,
      node,
      'Use figures on both sides.',
    );
  }
  const [a, b] = [left.type.dimension, right.type.dimension];
  const l = left.evaluate as (run: FormulaRun) => number;
  const r = right.evaluate as (run: FormulaRun) => number;
  if (operator === '*')
    return {
      type: { kind: 'number', dimension: multiplyDimensions(a, b) },
      isConstant,
      evaluate: (run) => l(run) * r(run),
    };
  if (operator === '/') {
    if (right.isConstant && r({ values: [], property: () => undefined, problem: null }) === 0) {
      fail('formula-constant-failure', 'This divides by zero, always.', node.right, 'Correct the figures.');
    }
    const evaluate: Evaluator = (run) => {
      const divisor = r(run);
      if (divisor === 0)
        run.problem ??= {
          code: 'formula-division-by-zero',
          message: 'Division by zero.',
          span: { start: node.right.start, end: node.right.end },
          remedy: 'Guard it with if(…, …, …) or correct the figure.',
        };
      return l(run) / divisor;
    };
    return { type: { kind: 'number', dimension: multiplyDimensions(a, b, -1) }, isConstant, evaluate };
  }
  if (operator === '^') return compilePower(node, left, right);
  const joined = joinDimensions(a, b);
  if (!joined)
    fail(
      'formula-dimension',
      `${describeFormulaType(left.type)} and ${describeFormulaType(right.type)} cannot be ${isComparison ? 'compared' : operator === '+' ? 'added' : 'subtracted'}.`,
      node,
      'Both sides need the same unit.',
    );
  if (!isComparison)
    return {
      type: { kind: 'number', dimension: joined },
      isConstant,
      evaluate: operator === '+' ? (run) => l(run) + r(run) : (run) => l(run) - r(run),
    };
  const compare = COMPARE[operator]!;
  return { type: TRUTH, isConstant, evaluate: (run) => compare(l(run), r(run)) };
}

const COMPARE: Record<string, (x: number, y: number) => boolean> = {
  '=': (x, y) => isAt(x, y),
  '<>': (x, y) => !isAt(x, y),
  '<': (x, y) => isBelow(x, y),
  '<=': (x, y) => !exceeds(x, y),
  '>': (x, y) => exceeds(x, y),
  '>=': (x, y) => reaches(x, y),
};

function compilePower(node: FormulaNode & { kind: 'binary' }, left: CompiledNode, right: CompiledNode): CompiledNode {
  if (left.type.kind !== 'number' || right.type.kind !== 'number' || !isDimensionless(right.type.dimension))
    fail('formula-dimension', 'An exponent must be a plain number.', node.right);
  const l = left.evaluate as (run: FormulaRun) => number;
  const r = right.evaluate as (run: FormulaRun) => number;
  const exponent = right.isConstant ? r({ values: [], property: () => undefined, problem: null }) : Number.NaN;
  const dimension = raiseDimension(left.type.dimension, exponent);
  if (!dimension)
    fail(
      'formula-dimension',
      `A figure in ${describeFormulaType(left.type)} can only be raised to a whole number.`,
      node.right,
      'Write 2 or 3.',
    );
  return {
    type: { kind: 'number', dimension },
    isConstant: left.isConstant && right.isConstant,
    evaluate: (run) => l(run) ** r(run),
  };
}

function compileCall(node: FormulaNode & { kind: 'call' }, building: Building): CompiledNode {
  const fn = findFormulaFunction(node.name);
  if (!fn)
    fail(
      'formula-name-unknown',
      `There is no function "${node.name}".`,
      { start: node.start, end: node.start + node.name.length },
      'See the list of functions.',
    );
  const [least, most] = fn.arity;
  if (node.args.length < least || node.args.length > most)
    fail(
      'formula-arguments',
      `${fn.name} takes ${least === most ? least : `${least} to ${most}`} ${most === 1 ? 'value' : 'values'}; it got ${node.args.length}.`,
      node,
      fn.usage,
    );
  const args = node.args.map((arg) => compileNode(arg, building));
  const type = fn.check(args, building.names);
  if (!type.ok) throw new CheckFailure({ ...type.problem, span: { start: node.start, end: node.end } });
  const [named] = node.args;
  const scale = fn.name === 'scale' && named?.kind === 'text' ? building.names.findScale(named.value) : undefined;
  if (scale) building.lookups.push({ scale, by: args.slice(1).map((a) => a.quantity ?? null) });
  building.readsElement ||= fn.readsElement === true;
  if (fn.readsElement) for (const field of fn.reads?.(args) ?? (['*'] as const)) building.reads.add(field);
  return {
    type: type.value,
    isConstant: !fn.readsElement && args.every((a) => a.isConstant),
    evaluate: fn.compile(args, building.names),
  };
}

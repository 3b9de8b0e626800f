import type { PartRun } from '../book/assembly.ts';
import type { SlotValue } from '../formulas/formula-types.ts';
import { listRecipeLeaves, type RecipeAssembly, type RecipeItem, type RecipeStep } from '../recipes/recipe.ts';
import type { Problem } from '../result/result.ts';
import { addNet, isProblem, type NetFigures, sumNet } from './net-quantity.ts';
import type { Frame, RowReader } from './row-reader.ts';

/** What a walk over a recipe tells about its leaf lines, one after the other in reading order. */
export interface LineVisitor {
  /** Whether any of the next leaves is looked at; those that are not are passed. */
  isWanted(count: number): boolean;
  pass(count: number): void;
  /** Whether any of the next leaves needs results of the lines beside it. */
  needsResults(count: number): boolean;
  /** The next leaves are no part of the element's price. */
  skip(count: number): void;
  fail(count: number, problem: Problem): void;
  know(net: NetFigures, item: RecipeItem): void;
  /** A line that runs once for several elements. */
  share(item: RecipeItem, frame: Frame | null): void;
}

const countLeaves = (step: RecipeStep): number => listRecipeLeaves(step).length;

/** Works the leaf lines of a recipe out on the row that the reader is at. Failures are told per line; the rest goes on. */
export function walkRecipe(step: RecipeStep, frame: Frame | null, reader: RowReader, visitor: LineVisitor): void {
  const count = countLeaves(step);
  if (!visitor.isWanted(count)) return visitor.pass(count);
  if (step.kind === 'broken') return visitor.fail(1, step.problem);
  if (step.kind === 'item') {
    if (step.shared) return visitor.share(step, frame);
    const net = sumNet(step, frame, reader, true);
    if (net === null) return visitor.skip(1);
    return isProblem(net) ? visitor.fail(1, net) : visitor.know(net, step);
  }
  if (step.per) return walkParts(step, step.per, frame, reader, visitor);
  walkAssembly(step, frame, reader, visitor);
}

/** An assembly that runs over parts: each of its lines adds up what it gives on them. */
function walkParts(
  step: RecipeAssembly,
  per: PartRun,
  frame: Frame | null,
  reader: RowReader,
  visitor: LineVisitor,
): void {
  const sums: { net: NetFigures | Problem | null; item: RecipeItem | null }[] = Array.from(
    { length: countLeaves(step) },
    () => ({ net: null, item: null }),
  );
  for (const _ of reader.parts(per)) {
    let leaf = 0;
    const add = (net: NetFigures | Problem | null, item: RecipeItem | null) => {
      const sum = sums[leaf++]!;
      sum.net = addNet(sum.net, net);
      sum.item ??= item;
    };
    const addMany = (count: number, problem: Problem | null) => {
      for (let i = 0; i < count; i++) add(problem, null);
    };
    walkAssembly(step, frame, reader, {
      isWanted: () => true,
      pass: () => undefined,
      needsResults: () => true,
      skip: (count) => addMany(count, null),
      fail: addMany,
      know: add,
      share: () => add(null, null),
    });
  }
  for (const { net, item } of sums) {
    if (net === null) visitor.skip(1);
    else if (isProblem(net)) visitor.fail(1, net);
    else visitor.know(net, item!);
  }
}

function walkAssembly(step: RecipeAssembly, frame: Frame | null, reader: RowReader, visitor: LineVisitor): void {
  const count = countLeaves(step);
  if (step.when) {
    const when = reader.run(step.when, frame);
    if (!when.ok) return visitor.fail(count, when.problem);
    if (!when.value) return visitor.skip(count);
  }
  const driver = reader.run(step.driver, frame);
  if (!driver.ok) return visitor.fail(count, driver.problem);
  const inner = {
    driver: driver.value as number,
    parameters: new Map<string, SlotValue>(),
    lines: new Map<string, number | Problem>(),
  };
  for (const { name, formula, isHanded } of step.parameters) {
    const value = reader.run(formula, isHanded ? frame : inner);
    if (!value.ok) return visitor.fail(count, value.problem);
    inner.parameters.set(name, value.value as SlotValue);
  }
  if (step.named.length > 0 && visitor.needsResults(count))
    for (const { name, step: line } of step.named) inner.lines.set(name, findResult(line, inner, reader));
  for (const child of step.steps) walkRecipe(child, inner, reader, visitor);
}

/** Result of a named line in SI for the lines that use it: 0 where its condition does not hold, so that they go with it. */
function findResult(step: RecipeStep, frame: Frame, reader: RowReader): number | Problem {
  if (step.kind === 'broken') return step.problem;
  if (step.kind === 'item') {
    const net = sumNet(step, frame, reader);
    if (net === null) return 0;
    return isProblem(net) ? net : net.net * step.unit.factor;
  }
  if (!step.per) return findDriver(step, frame, reader);
  let sum = 0;
  for (const _ of reader.parts(step.per)) {
    const driver = findDriver(step, frame, reader);
    if (typeof driver !== 'number') return driver;
    sum += driver;
  }
  return sum;
}

function findDriver(step: RecipeAssembly, frame: Frame, reader: RowReader): number | Problem {
  const when = step.when && reader.run(step.when, frame);
  if (when && !when.ok) return when.problem;
  if (when && !when.value) return 0;
  const driver = reader.run(step.driver, frame);
  return driver.ok ? (driver.value as number) : driver.problem;
}

import { type Assembly, isSharedRun } from '../book/assembly.ts';
import type { CompiledFormula } from '../formulas/compile-formula.ts';
import type { FormulaName } from '../formulas/formula-types.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import { nameKey } from '../units/code-key.ts';
import { parseUnit } from '../units/unit.ts';
import { type Book, findUsed, type RecipeStep } from './recipe.ts';

const SHARED: Problem = {
  code: 'line-shared',
  message: 'that line runs once for a room or the project, other lines for single elements.',
  remedy: 'Let that line run per element.',
};

/** Names under which the lines of an assembly can be used by others: the net quantity of an item, the driver of an assembly. */
export function nameResults({ lines }: Assembly, book: Book): FormulaName[] {
  return lines.flatMap((line): FormulaName[] => {
    const { name, per } = line;
    const of = findUsed(line, book);
    const unit = of && parseUnit(of.unit);
    if (name === undefined || !unit?.ok) return [];
    const problem = isSharedRun(per) ? { problem: SHARED } : {};
    return [{ name, dimension: unit.value.dimension, source: 'line', ...problem }];
  });
}

/**
 * Places of the named lines of an assembly in the order they can be calculated.
 * Errors: `line-name-twice`, `formula-cycle` with the names in the circle.
 */
export function orderNamed({ code, lines, parameters = [] }: Assembly, steps: readonly RecipeStep[]): Result<number[]> {
  const places = new Map<string, number>();
  const taken = new Set(['driver', ...parameters.map((p) => nameKey(p.name))]);
  for (const [i, { name }] of lines.entries()) {
    if (name === undefined) continue;
    if (taken.has(nameKey(name)))
      return failure('line-name-twice', `A line of ${code} is called ${name}, as a parameter or the driver is.`, {
        remedy: 'Give the line another name.',
      });
    if (places.has(nameKey(name)))
      return failure('line-name-twice', `Two lines of ${code} are called ${name}.`, { remedy: 'Rename one of them.' });
    places.set(nameKey(name), i);
  }
  const done: number[] = [];
  const visit = (i: number, trail: readonly number[]): readonly number[] | null => {
    if (done.includes(i)) return null;
    if (trail.includes(i)) return [...trail.slice(trail.indexOf(i)), i];
    for (const slot of listFormulas(steps[i]!).flatMap((f) => f.slots)) {
      const next = slot.source === 'line' ? places.get(nameKey(slot.name)) : undefined;
      const circle = next === undefined ? null : visit(next, [...trail, i]);
      if (circle) return circle;
    }
    done.push(i);
    return null;
  };
  for (const i of places.values()) {
    if (isSharedRun(lines[i]!.per)) continue;
    const circle = visit(i, []);
    if (circle)
      return failure(
        'formula-cycle',
        `Lines of ${code} need each other: ${circle.map((c) => lines[c]!.name).join(' > ')}.`,
        {
          remedy: 'Give one of them a formula of its own.',
        },
      );
  }
  return success(done);
}

/** Formulas of a step that may read results of the lines beside it. */
function listFormulas(step: RecipeStep): CompiledFormula[] {
  if (step.kind === 'broken') return [];
  return [...(step.when ? [step.when] : []), step.kind === 'item' ? step.quantity : step.driver];
}

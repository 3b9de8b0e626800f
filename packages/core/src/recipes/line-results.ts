import { type Assembly, isSharedRun } from '../book/assembly.ts';
import type { CompiledFormula } from '../formulas/compile-formula.ts';
import type { FormulaName } from '../formulas/formula-types.ts';
import { failure, type Problem, type Result, success } from '../result/result.ts';
import { nameKey } from '../units/code-key.ts';
import { parseUnit } from '../units/unit.ts';
import { type Book, type BrokenStep, findUsed, type RecipeStep, type SharedUse } from './recipe.ts';
import { useShared } from './shared-line.ts';

const SHARED: Problem = {
  code: 'line-shared',
  message: 'that line runs once for a room or the project; only lines that run once for the same may use it.',
  remedy: 'Let both run once for the same, or that line per element.',
};

/** Names under which the lines of an assembly can be used by others: the net quantity of an item, the driver of an assembly. */
export function nameResults({ lines }: Assembly, book: Book): FormulaName[] {
  return lines.flatMap((line): FormulaName[] => {
    const { name, per } = line;
    const of = findUsed(line, book);
    const unit = of && parseUnit(of.unit);
    if (name === undefined || !unit?.ok) return [];
    const problem = isSharedRun(per) ? { problem: SHARED, sharedRun: per } : {};
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

/**
 * Lines that run once for several elements, each with those it uses, so that it is worked out from the same sums. Errors:
 * `formula-cycle` with the names in the circle; a line that uses a broken one is broken by it.
 */
export function linkShared({ code, lines }: Assembly, steps: readonly RecipeStep[]): Result<RecipeStep[]> {
  const places = new Map(lines.flatMap(({ name }, i) => (name === undefined ? [] : [[nameKey(name), i] as const])));
  const linked = new Map<number, RecipeStep>();
  const link = (i: number, trail: readonly number[]): Result<RecipeStep> => {
    const step = linked.get(i) ?? steps[i]!;
    if (linked.has(i) || step.kind !== 'item' || !step.shared) return success(step);
    if (trail.includes(i)) {
      const circle = [...trail.slice(trail.indexOf(i)), i].map((c) => lines[c]!.name);
      return failure('formula-cycle', `Lines of ${code} need each other: ${circle.join(' > ')}.`, {
        remedy: 'Give one of them a formula of its own.',
      });
    }
    const uses: SharedUse[] = [];
    const used = new Set(listFormulas(step).flatMap((f) => f.slots.filter((s) => s.sharedRun).map((s) => s.name)));
    for (const name of used) {
      const other = link(places.get(nameKey(name))!, [...trail, i]);
      if (!other.ok) return other;
      if (other.value.kind !== 'item') {
        linked.set(i, { ...(other.value as BrokenStep), code: step.item.code });
        return success(linked.get(i)!);
      }
      uses.push({ name, step: other.value });
    }
    linked.set(i, uses.length > 0 ? { ...step, shared: useShared(step.shared, uses) } : step);
    return success(linked.get(i)!);
  };
  const done: RecipeStep[] = [];
  for (const i of steps.keys()) {
    const step = link(i, []);
    if (!step.ok) return step;
    done.push(step.value);
  }
  return success(done);
}

/** Formulas of a step that may read results of the lines beside it. */
function listFormulas(step: RecipeStep): CompiledFormula[] {
  if (step.kind === 'broken') return [];
  const when = step.when ? [step.when] : [];
  if (step.kind === 'item') return [...when, step.quantity];
  return [...when, step.driver, ...step.parameters.flatMap((p) => (p.isHanded ? [p.formula] : []))];
}

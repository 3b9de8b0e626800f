import { isSharedRun, type LineRun, type SharedRun } from '../book/assembly.ts';
import type { CompiledFormula } from '../formulas/compile-formula.ts';
import type { FormulaName, FormulaNames } from '../formulas/formula-types.ts';
import { DESCRIBING_QUANTITIES } from '../quantities/quantity-names.ts';
import { failure, type Result, success } from '../result/result.ts';
import type { SharedLine, SharedUse } from './recipe.ts';

/** Names of a line that runs once for several elements: what differs from one to the other without a sum cannot be used. */
export function nameShared(names: FormulaNames, run: SharedRun): FormulaNames {
  const refuse = (name: FormulaName): FormulaName => {
    if (name.sharedRun === run) return { ...name, problem: undefined };
    const isSum = name.source !== 'quantity' || !DESCRIBING_QUANTITIES.has(name.name);
    if (isSum && (name.source !== 'parameter' || name.isConstant)) return name;
    return {
      ...name,
      problem: {
        code: 'formula-shared',
        message: 'it differs from element to element and has no sum, and the line runs once for all of them.',
        remedy: 'Take the driver, or a quantity that adds up.',
      },
    };
  };
  return names.with(names.list().map(refuse));
}

/** How a line runs that is shared; null for one that is not. Errors: `formula-shared`. */
export function prepareShared(
  run: LineRun | undefined,
  id: string,
  quantity: CompiledFormula,
  when: CompiledFormula | null,
): Result<SharedLine | null> {
  if (!isSharedRun(run)) return success(null);
  const reading = [quantity, ...(when ? [when] : [])].find((f) => f.readsElement);
  if (reading)
    return failure('formula-shared', `"${reading.text}" reads a single element; the line runs once for several.`, {
      remedy: 'Let the line run per element, or take quantities.',
    });
  const slots = new Map([...quantity.slots, ...(when?.slots ?? [])].map((s) => [s.name, s]));
  const read = [...slots.values()].filter((s) => s.value === undefined && s.sharedRun === undefined);
  const isFixed = ({ source }: FormulaName) => source === 'parameter';
  return success({ run, id, summed: read.filter((s) => !isFixed(s)), fixed: read.filter(isFixed), uses: [] });
}

/** A shared line with those it uses: it reads what they read. */
export function useShared(line: SharedLine, uses: readonly SharedUse[]): SharedLine {
  const lines = [line, ...uses.map((u) => u.step.shared!)];
  const join = (list: (of: SharedLine) => readonly FormulaName[]) => [
    ...new Map(lines.flatMap(list).map((s) => [s.name, s])).values(),
  ];
  const id = lines.map((l) => l.id).join('<');
  return { ...line, id, summed: join((l) => l.summed), fixed: join((l) => l.fixed), uses };
}

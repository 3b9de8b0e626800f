import { failure, type Result } from '../result/result.ts';
import type { Dimension } from '../units/dimension.ts';
import type { CompiledNode, ElementField, Evaluator, FormulaNames, FormulaRun, FormulaType } from './formula-types.ts';

/** A function of the formula language: its words for the documentation, its check, its method. */
export interface FormulaFunction {
  readonly name: string;
  readonly usage: string;
  readonly meaning: string;
  readonly arity: readonly [number, number];
  /** Its value differs from element to element even where its values are written out. */
  readonly readsElement?: true;
  /** Fields of the element that it reads, of those whose values are written out; all of it if nothing is said. */
  readonly reads?: (args: readonly CompiledNode[]) => readonly ElementField[];
  /** Type of the result, or why the values do not fit. */
  readonly check: (args: readonly CompiledNode[], names: FormulaNames) => Result<FormulaType>;
  readonly compile: (args: readonly CompiledNode[], names: FormulaNames) => Evaluator;
}

/** For texts that are written in the formula itself: they are the same in every run. */
export const NO_RUN: FormulaRun = { values: [], property: () => undefined, problem: null };

/** Dimension of a figure; null for a text or a truth. */
export const dimensionOf = (node: CompiledNode): Dimension | null =>
  node.type.kind === 'number' ? node.type.dimension : null;

/** Failure of a check because units do not fit. */
export const mismatch = <T>(message: string, remedy?: string) => failure<T>('formula-dimension', message, { remedy });

/** Method that gives the figure of an argument. */
export const number = (args: readonly CompiledNode[], i: number) => args[i]!.evaluate as (run: FormulaRun) => number;

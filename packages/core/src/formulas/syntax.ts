import type { Span } from '../result/result.ts';
import type { Unit } from '../units/unit.ts';

export type BinaryOperator = '+' | '-' | '*' | '/' | '^' | '=' | '<>' | '<' | '<=' | '>' | '>=' | 'and' | 'or';

/** A formula as a tree. Every node knows its place in the text. */
export type FormulaNode = Span &
  (
    | { readonly kind: 'number'; readonly value: number; readonly unit?: Unit }
    | { readonly kind: 'text'; readonly value: string }
    | { readonly kind: 'name'; readonly name: string }
    | { readonly kind: 'unary'; readonly operator: '-' | 'not'; readonly operand: FormulaNode }
    | {
        readonly kind: 'binary';
        readonly operator: BinaryOperator;
        readonly left: FormulaNode;
        readonly right: FormulaNode;
      }
    | { readonly kind: 'call'; readonly name: string; readonly args: readonly FormulaNode[] }
  );

/** Limits that keep any formula readable and quick. */
export const FORMULA_LIMITS = { characters: 2000, depth: 64 } as const;

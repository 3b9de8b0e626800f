import { failure, type Problem, type Result, success } from '../result/result.ts';
import { findSimpleUnit } from '../units/unit.ts';
import { readTokens, type Token } from './lexer.ts';
import { type BinaryOperator, FORMULA_LIMITS, type FormulaNode } from './syntax.ts';

const BINDING: Record<string, number> = {
  or: 1,
  and: 2,
  '=': 4,
  '<>': 4,
  '<': 4,
  '<=': 4,
  '>': 4,
  '>=': 4,
  '+': 5,
  '-': 5,
  '*': 6,
  '/': 6,
  '^': 8,
};
const SAME: Record<string, string> = { '==': '=', '!=': '<>' };

class SyntaxFailure extends Error {
  constructor(readonly problem: Problem) {
    super(problem.message);
  }
}

/**
 * Reads a formula into a tree (operator precedence: or, and, not, comparison, + -, * /, sign, ^).
 * Errors: `formula-empty`, `formula-too-long`, `formula-too-deep`, `formula-syntax`, each with its place.
 */
export function parseFormula(text: string): Result<FormulaNode> {
  if (text.trim() === '')
    return failure('formula-empty', 'The formula is empty.', { remedy: 'Type a quantity, e.g. NetSideArea.' });
  if (text.length > FORMULA_LIMITS.characters) {
    return failure(
      'formula-too-long',
      `A formula may have ${FORMULA_LIMITS.characters} characters; this one has ${text.length}.`,
      { remedy: 'Split it into parameters.' },
    );
  }
  const tokens = readTokens(text);
  if (!tokens.ok) return tokens;
  try {
    return success(new Parser(tokens.value).parse());
  } catch (error) {
    if (error instanceof SyntaxFailure) return { ok: false, problem: error.problem };
    throw error;
  }
}

class Parser {
  private at = 0;
  private depth = 0;

  constructor(private readonly tokens: readonly Token[]) {}

  parse(): FormulaNode {
    const node = this.expression(0);
    const rest = this.peek();
    if (rest.kind !== 'end') {
      const remedy =
        rest.text === ','
          ? 'Write decimals with a point; a comma separates the values of a function.'
          : 'An operator such as * or + is missing before it.';
      this.fail('formula-syntax', `"${rest.text}" is not expected here.`, rest, remedy);
    }
    return node;
  }

  private peek(): Token {
    return this.tokens[this.at]!;
  }

  private next(): Token {
    return this.tokens[this.at++]!;
  }

  private fail(code: string, message: string, { start, end }: { start: number; end: number }, remedy?: string): never {
    throw new SyntaxFailure({ code, message, span: { start, end }, remedy });
  }

  private operatorAhead(): BinaryOperator | null {
    const token = this.peek();
    const word =
      token.kind === 'name'
        ? token.text.toLowerCase()
        : token.kind === 'symbol'
          ? Object.hasOwn(SAME, token.text)
            ? SAME[token.text]!
            : token.text
          : '';
    return Object.hasOwn(BINDING, word) ? (word as BinaryOperator) : null;
  }

  private expression(minimum: number): FormulaNode {
    if (++this.depth > FORMULA_LIMITS.depth)
      this.fail(
        'formula-too-deep',
        `Brackets and functions may nest ${FORMULA_LIMITS.depth} deep.`,
        this.peek(),
        'Split the formula into parameters.',
      );
    let left = this.operand();
    for (;;) {
      const operator = this.operatorAhead();
      if (!operator || BINDING[operator]! <= minimum) break;
      this.next();
      const right = this.expression(operator === '^' ? BINDING[operator]! - 1 : BINDING[operator]!);
      left = { kind: 'binary', operator, left, right, start: left.start, end: right.end };
    }
    this.depth--;
    return left;
  }

  private operand(): FormulaNode {
    const token = this.next();
    const { start, end } = token;
    if (token.kind === 'number') return { kind: 'number', value: token.value!, unit: token.unit, start, end };
    if (token.kind === 'text') return { kind: 'text', value: token.text, start, end };
    if (token.text === '-' || token.text === '+') {
      const operand = this.expression(7);
      return token.text === '+' ? operand : { kind: 'unary', operator: '-', operand, start, end: operand.end };
    }
    if (token.text === '(') {
      const inner = this.expression(0);
      this.closeBracket(token);
      return { ...inner, start, end: this.tokens[this.at - 1]!.end };
    }
    if (token.kind === 'name') return this.nameOrCall(token);
    return this.fail(
      'formula-syntax',
      token.kind === 'end' ? 'The formula stops too early.' : `"${token.text}" is not expected here.`,
      token,
      'A quantity or a number is missing.',
    );
  }

  private nameOrCall(token: Token): FormulaNode {
    const { start, end } = token;
    const word = token.text.toLowerCase();
    if (word === 'not') {
      const operand = this.expression(3);
      return { kind: 'unary', operator: 'not', operand, start, end: operand.end };
    }
    if (word === 'and' || word === 'or')
      this.fail('formula-syntax', `"${token.text}" needs something on both sides.`, token);
    if (this.peek().text !== '(' || this.peek().kind !== 'symbol') {
      if (findSimpleUnit(token.text))
        this.fail(
          'formula-unit-misplaced',
          `"${token.text}" is a unit; a number must stand before it.`,
          token,
          `Write 1 ${token.text}, or the figure you mean.`,
        );
      return { kind: 'name', name: token.text, start, end };
    }
    const open = this.next();
    const args: FormulaNode[] = [];
    if (this.peek().text !== ')') {
      do args.push(this.expression(0));
      while (this.peek().text === ',' && this.next());
    }
    this.closeBracket(open);
    return { kind: 'call', name: token.text, args, start, end: this.tokens[this.at - 1]!.end };
  }

  private closeBracket(open: Token): void {
    const token = this.next();
    if (token.text === ')' && token.kind === 'symbol') return;
    if (token.kind === 'end') this.fail('formula-syntax', 'A bracket is not closed.', open, 'Add the closing ).');
    this.fail(
      'formula-syntax',
      `"${token.text}" is not expected here.`,
      token,
      'A bracket is not closed, or an operator is missing.',
    );
  }
}

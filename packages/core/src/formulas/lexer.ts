import { failure, type Result, type Span, success } from '../result/result.ts';
import { findSimpleUnit, parseUnit, type Unit } from '../units/unit.ts';

export type TokenKind = 'number' | 'text' | 'name' | 'symbol' | 'end';

/** One word of a formula. A number carries the unit that follows it: `60 each/m2` is one token. */
export interface Token extends Span {
  readonly kind: TokenKind;
  readonly text: string;
  readonly value?: number;
  readonly unit?: Unit;
}

const NUMBER = /(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?/y;
const NAME = /[\p{L}_][\p{L}\p{M}\p{N}_]*/uy;
const UNIT_WORD = /[a-zA-Z]+[23²³]?|%/y;
const SYMBOL = /<=|>=|<>|!=|==|[-+*/^(),<>=]/y;

function matchAt(regex: RegExp, text: string, at: number): string | null {
  regex.lastIndex = at;
  return regex.exec(text)?.[0] ?? null;
}

/** Unit symbol that stands at `at`, whole: `m` in "m2" is not one. */
function unitAt(text: string, at: number): string | null {
  const word = matchAt(UNIT_WORD, text, at);
  if (!word || !findSimpleUnit(word)) return null;
  const next = text[at + word.length] ?? ' ';
  return word !== '%' && /[\p{L}\p{N}_]/u.test(next) ? null : word;
}

/**
 * Splits a formula into words. A unit symbol right after a number (spaces allowed) belongs to it; `/` continues the unit
 * only if another unit symbol follows at once, so `2 m/Length` is a division.
 */
export function readTokens(text: string): Result<Token[]> {
  const tokens: Token[] = [];
  let at = 0;
  while (at < text.length) {
    if (/\s/.test(text[at]!)) {
      at++;
      continue;
    }
    const start = at;
    const number = matchAt(NUMBER, text, at);
    if (number) {
      at += number.length;
      const value = Number(number);
      if (!Number.isFinite(value)) {
        return failure('formula-constant-failure', `${number} is too large a number.`, {
          span: { start, end: at },
          remedy: 'Check the figure.',
        });
      }
      const { unit, end } = readUnit(text, at);
      at = end;
      tokens.push({ kind: 'number', text: text.slice(start, at), start, end: at, value, unit });
      continue;
    }
    if (text[at] === '"') {
      const close = text.indexOf('"', at + 1);
      if (close < 0)
        return failure('formula-syntax', 'A text is not closed.', {
          span: { start, end: text.length },
          remedy: 'Add the closing ".',
        });
      at = close + 1;
      tokens.push({ kind: 'text', text: text.slice(start + 1, close), start, end: at });
      continue;
    }
    const name = matchAt(NAME, text, at);
    const word = name ?? matchAt(SYMBOL, text, at);
    if (!word) {
      return failure('formula-syntax', `"${text[at]}" has no meaning here.`, {
        span: { start, end: at + 1 },
        remedy: 'Take it out.',
      });
    }
    at += word.length;
    tokens.push({ kind: name ? 'name' : 'symbol', text: word, start, end: at });
  }
  tokens.push({ kind: 'end', text: '', start: text.length, end: text.length });
  return success(tokens);
}

function readUnit(text: string, from: number): { unit?: Unit; end: number } {
  let at = from;
  while (text[at] === ' ' || text[at] === '\u00a0') at++;
  const first = unitAt(text, at);
  if (!first) return { end: from };
  at += first.length;
  let symbol = first;
  while (text[at] === '/') {
    const next = unitAt(text, at + 1);
    if (!next) break;
    symbol += `/${next}`;
    at += next.length + 1;
  }
  const unit = parseUnit(symbol);
  return unit.ok ? { unit: unit.value, end: at } : { end: from };
}

/** A reference to another record, `#12`. */
export class StepRef {
  constructor(readonly id: number) {}
}

/** An enumeration value, `.T.` or `.NOTDEFINED.`, without its dots. */
export class StepEnum {
  constructor(readonly name: string) {}
}

/** A typed value, `IFCLABEL('x')`. */
export class StepTyped {
  constructor(
    readonly type: string,
    readonly value: StepValue,
  ) {}
}

/** Value of an attribute; null is `$`, undefined is `*` (derived). */
export type StepValue = string | number | null | undefined | StepRef | StepEnum | StepTyped | readonly StepValue[];

const DEEPEST = 200;

/** Thrown by the argument parser; the caller turns it into a finding about the record. */
export class StepSyntaxError extends Error {}

/**
 * Parses the attributes of one record: the bytes between its outer brackets. Read from the bytes themselves, as a text of each
 * record would be the greater part of the work.
 */
export function parseAttributes(bytes: Uint8Array, from = 0, to = bytes.length): StepValue[] {
  top = 0;
  const values = new AttributeParser(bytes, from, to).list(0);
  if (scratch.length > MOST_SCRATCH) scratch.length = 0;
  return values;
}

/** Values of lists that are not closed yet: a list that grows by itself takes room for three times the attributes of most records. */
const scratch: StepValue[] = [];
let top = 0;
/** Room that is kept from one record to the next. */
const MOST_SCRATCH = 4096;

const CODE = {
  quote: 39, doubleQuote: 34, open: 40, close: 41, star: 42, plus: 43, comma: 44, minus: 45, dot: 46, slash: 47, backslash: 92,
}; // biome-ignore format: one sign a word
const isDigit = (c: number) => c >= 48 && c <= 57;
const isLetter = (c: number) => (c >= 65 && c <= 90) || (c >= 97 && c <= 122);
/** Digits whose whole number a double holds exactly, and the largest power of ten that it holds so. */
const EXACT_DIGITS = 15;
const POWERS = Array.from({ length: 23 }, (_, i) => Number(`1e${i}`));
/** Longest text that is made sign by sign. */
const SHORT = 2048;
const latin1 = new TextDecoder('latin1');
const utf8 = new TextDecoder('utf-8');

/** A piece of the file as text. ISO 10303-21 texts are 7-bit; many writers put UTF-8 there all the same. */
function decodePiece(bytes: Uint8Array, from: number, to: number): string {
  const raw = bytes.subarray(from, to);
  for (let i = 0; i < raw.length; i++) if (raw[i]! > 127) return utf8.decode(raw);
  return raw.length > SHORT ? latin1.decode(raw) : String.fromCharCode.apply(null, raw as unknown as number[]);
}

class AttributeParser {
  constructor(
    private readonly bytes: Uint8Array,
    private at: number,
    private readonly end: number,
  ) {}

  list(depth: number): StepValue[] {
    if (depth > DEEPEST) throw new StepSyntaxError('lists nest too deep');
    this.skip();
    if (this.isEnd()) return [];
    const first = top;
    for (;;) {
      const value = this.value(depth);
      scratch[top++] = value;
      this.skip();
      if (this.code() !== CODE.comma) break;
      this.at++;
    }
    if (!this.isEnd()) throw this.unexpected();
    const out = scratch.slice(first, top);
    top = first;
    return out;
  }

  /** The sign at the cursor; -1 at the end. */
  private code(): number {
    return this.at < this.end ? this.bytes[this.at]! : -1;
  }

  private isEnd(): boolean {
    return this.at >= this.end || this.bytes[this.at] === CODE.close;
  }

  private unexpected(): StepSyntaxError {
    return new StepSyntaxError(`unexpected "${decodePiece(this.bytes, this.at, Math.min(this.at + 10, this.end))}"`);
  }

  private skip(): void {
    for (;;) {
      const c = this.code();
      if (c === 32 || c === 10 || c === 13 || c === 9) this.at++;
      else if (c === CODE.slash && this.bytes[this.at + 1] === CODE.star) {
        this.at += 2;
        while (this.at < this.end && !(this.bytes[this.at] === CODE.star && this.bytes[this.at + 1] === CODE.slash))
          this.at++;
        this.at = Math.min(this.at + 2, this.end);
      } else return;
    }
  }

  private value(depth: number): StepValue {
    this.skip();
    const c = this.code();
    switch (c) {
      case 36: // $
        this.at++;
        return null;
      case CODE.star:
        this.at++;
        return undefined;
      case 35: // #
        return new StepRef(this.integer());
      case CODE.quote:
        return this.string();
      case CODE.dot:
        return new StepEnum(this.upTo(CODE.dot, 'an enumeration is not closed'));
      case CODE.doubleQuote:
        return this.upTo(CODE.doubleQuote, 'a binary value is not closed');
      case CODE.open:
        return this.bracket(depth, 'a list is not closed');
    }
    return isLetter(c) ? this.typed(depth) : this.number();
  }

  private bracket(depth: number, fault: string): StepValue[] {
    this.at++;
    const list = this.list(depth + 1);
    if (this.code() !== CODE.close) throw new StepSyntaxError(fault);
    this.at++;
    return list;
  }

  /** Text between the sign at the cursor and the next one like it. */
  private upTo(sign: number, fault: string): string {
    const from = this.at + 1;
    let close = from;
    while (close < this.end && this.bytes[close] !== sign) close++;
    if (close >= this.end) throw new StepSyntaxError(fault);
    this.at = close + 1;
    return decodePiece(this.bytes, from, close);
  }

  private integer(): number {
    const from = ++this.at;
    let value = 0;
    for (let c = this.code(); isDigit(c); c = this.code()) {
      value = value * 10 + (c - 48);
      this.at++;
    }
    if (this.at === from) throw new StepSyntaxError('a reference has no number');
    return value;
  }

  /**
   * A number. Up to 15 digits and a power of ten up to 22 are both exact as doubles, so that one multiplication or division rounds as
   * the whole reading would; longer ones are left to `Number`.
   */
  private number(): number {
    const from = this.at;
    const sign = this.code();
    if (sign === CODE.plus || sign === CODE.minus) this.at++;
    const start = this.at;
    let whole = this.digits(0);
    if (this.at === start) {
      this.at = from;
      throw this.unexpected();
    }
    let count = this.at - start;
    let power = 0;
    if (this.code() === CODE.dot) {
      const point = ++this.at;
      whole = this.digits(whole);
      power = point - this.at;
      count += this.at - point;
    }
    power += this.exponent();
    if (count > EXACT_DIGITS || power < -22 || power > 22) return Number(decodePiece(this.bytes, from, this.at));
    const value = power < 0 ? whole / POWERS[-power]! : whole * POWERS[power]!;
    return sign === CODE.minus ? -value : value;
  }

  private digits(before: number): number {
    let value = before;
    for (let c = this.code(); isDigit(c); c = this.code()) {
      value = value * 10 + (c - 48);
      this.at++;
    }
    return value;
  }

  private exponent(): number {
    const from = this.at;
    if ((this.code() | 32) !== 101) return 0;
    this.at++;
    const sign = this.code();
    if (sign === CODE.plus || sign === CODE.minus) this.at++;
    if (!isDigit(this.code())) {
      this.at = from;
      return 0;
    }
    return this.digits(0) * (sign === CODE.minus ? -1 : 1);
  }

  private typed(depth: number): StepTyped {
    const from = this.at;
    for (let c = this.code(); isLetter(c) || isDigit(c) || c === 95; c = this.code()) this.at++;
    const type = decodePiece(this.bytes, from, this.at);
    this.skip();
    if (this.code() !== CODE.open) throw new StepSyntaxError(`"${type}" has no value`);
    const list = this.bracket(depth, 'a typed value is not closed');
    return new StepTyped(type.toUpperCase(), list.length === 1 ? list[0]! : list);
  }

  private string(): string {
    const { bytes, end } = this;
    const from = this.at + 1;
    let at = from;
    let isEscaped = false;
    for (; ; at++) {
      if (at >= end) throw new StepSyntaxError('a text is not closed');
      const c = bytes[at]!;
      if (c === CODE.backslash) isEscaped = true;
      else if (c === CODE.quote) {
        if (at + 1 >= end || bytes[at + 1] !== CODE.quote) break;
        isEscaped = true;
        at++;
      }
    }
    this.at = at + 1;
    const raw = decodePiece(bytes, from, at);
    return isEscaped ? decodeStepText(raw.replaceAll("''", "'")) : cleanText(raw);
  }
}

/** A text without what none has: U+0000, and halves of signs, which a database refuses. */
const cleanText = (text: string): string =>
  text.includes('\0') || !text.isWellFormed() ? text.replaceAll('\0', '').toWellFormed() : text;

/** Decodes the escapes of ISO 10303-21 strings: \S\, \X\hh, \X2\…\X0\, \X4\…\X0\ and doubled backslashes. */
export function decodeStepText(raw: string): string {
  const text = raw.replace(
    /\\X2\\((?:[0-9A-Fa-f]{4})*)\\X0\\|\\X4\\((?:[0-9A-Fa-f]{8})*)\\X0\\|\\X\\([0-9A-Fa-f]{2})|\\S\\(.)|\\P[A-I]\\|\\\\/g,
    (all, x2?: string, x4?: string, x?: string, s?: string) => {
      if (x2 !== undefined)
        return (x2.match(/.{4}/g) ?? []).map((h) => String.fromCharCode(Number.parseInt(h, 16))).join('');
      if (x4 !== undefined)
        return (x4.match(/.{8}/g) ?? [])
          .map((h) => String.fromCodePoint(Math.min(0x10ffff, Number.parseInt(h, 16))))
          .join('');
      if (x !== undefined) return String.fromCharCode(Number.parseInt(x, 16));
      if (s !== undefined) return String.fromCharCode(s.charCodeAt(0) + 128);
      return all === '\\\\' ? '\\' : '';
    },
  );
  return cleanText(text);
}

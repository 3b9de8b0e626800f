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

/** Parses the attributes of one record: the text between its outer brackets. */
export function parseAttributes(text: string): StepValue[] {
  const parser = new AttributeParser(text);
  return parser.list(0);
}

const NUMBER = /[+-]?\d+\.?\d*(?:[eE][+-]?\d+)?/y;
const WORD = /[A-Za-z][A-Za-z0-9_]*/y;

class AttributeParser {
  private at = 0;

  constructor(private readonly text: string) {}

  list(depth: number): StepValue[] {
    if (depth > DEEPEST) throw new StepSyntaxError('lists nest too deep');
    const out: StepValue[] = [];
    this.skip();
    if (this.isEnd()) return out;
    for (;;) {
      out.push(this.value(depth));
      this.skip();
      if (this.text[this.at] !== ',') break;
      this.at++;
    }
    if (!this.isEnd()) throw new StepSyntaxError(`unexpected "${this.text.slice(this.at, this.at + 10)}"`);
    return out;
  }

  private isEnd(): boolean {
    return this.at >= this.text.length || this.text[this.at] === ')';
  }

  private skip(): void {
    for (;;) {
      const c = this.text.charCodeAt(this.at);
      if (c === 32 || c === 10 || c === 13 || c === 9) this.at++;
      else if (c === 47 && this.text[this.at + 1] === '*') {
        const close = this.text.indexOf('*/', this.at + 2);
        this.at = close < 0 ? this.text.length : close + 2;
      } else return;
    }
  }

  private value(depth: number): StepValue {
    this.skip();
    const c = this.text.charCodeAt(this.at);
    switch (c) {
      case 36: // $
        this.at++;
        return null;
      case 42: // *
        this.at++;
        return undefined;
      case 35: // #
        return new StepRef(this.integer());
      case 39: // '
        return this.string();
      case 46: // .
        return this.enumeration();
      case 40: {
        // (
        this.at++;
        const list = this.list(depth + 1);
        if (this.text[this.at] !== ')') throw new StepSyntaxError('a list is not closed');
        this.at++;
        return list;
      }
      case 34: {
        // "
        const close = this.text.indexOf('"', this.at + 1);
        if (close < 0) throw new StepSyntaxError('a binary value is not closed');
        const text = this.text.slice(this.at + 1, close);
        this.at = close + 1;
        return text;
      }
    }
    if ((c >= 65 && c <= 90) || (c >= 97 && c <= 122)) return this.typed(depth);
    return this.number();
  }

  private integer(): number {
    const { text } = this;
    const from = ++this.at;
    let value = 0;
    for (;;) {
      const digit = text.charCodeAt(this.at) - 48;
      if (!(digit >= 0 && digit <= 9)) break;
      value = value * 10 + digit;
      this.at++;
    }
    if (this.at === from) throw new StepSyntaxError('a reference has no number');
    return value;
  }

  private number(): number {
    NUMBER.lastIndex = this.at;
    const found = NUMBER.exec(this.text);
    if (!found) throw new StepSyntaxError(`unexpected "${this.text.slice(this.at, this.at + 10)}"`);
    this.at = NUMBER.lastIndex;
    return Number(found[0]);
  }

  private enumeration(): StepEnum {
    const close = this.text.indexOf('.', this.at + 1);
    if (close < 0) throw new StepSyntaxError('an enumeration is not closed');
    const name = this.text.slice(this.at + 1, close);
    this.at = close + 1;
    return new StepEnum(name);
  }

  private typed(depth: number): StepTyped {
    WORD.lastIndex = this.at;
    const type = WORD.exec(this.text)![0];
    this.at = WORD.lastIndex;
    this.skip();
    if (this.text[this.at] !== '(') throw new StepSyntaxError(`"${type}" has no value`);
    this.at++;
    const list = this.list(depth + 1);
    if (this.text[this.at] !== ')') throw new StepSyntaxError('a typed value is not closed');
    this.at++;
    return new StepTyped(type.toUpperCase(), list.length === 1 ? list[0]! : list);
  }

  private string(): string {
    let end = this.at + 1;
    for (;;) {
      end = this.text.indexOf("'", end);
      if (end < 0) throw new StepSyntaxError('a text is not closed');
      if (this.text[end + 1] !== "'") break;
      end += 2;
    }
    const raw = this.text.slice(this.at + 1, end).replaceAll("''", "'");
    this.at = end + 1;
    return raw.includes('\\') ? decodeStepText(raw) : raw;
  }
}

/** Decodes the escapes of ISO 10303-21 strings: \S\, \X\hh, \X2\…\X0\, \X4\…\X0\ and doubled backslashes. */
export function decodeStepText(raw: string): string {
  return raw.replace(
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
}

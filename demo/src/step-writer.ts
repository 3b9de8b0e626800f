import { createHash } from 'node:crypto';

/** A reference to a written record. */
export class Ref {
  constructor(readonly id: number) {}
}
/** An enumeration value, written `.NAME.`. */
export class Enum {
  constructor(readonly name: string) {}
}
/** A whole number, written without a decimal point. */
export class Int {
  constructor(readonly value: number) {}
}
/** A typed value, written `IFCLABEL('x')`. */
export class Typed {
  constructor(
    readonly type: string,
    readonly value: StepAttribute,
  ) {}
}
/** null is `$`, undefined is `*`; plain numbers are reals, booleans `.T.` and `.F.`. */
export type StepAttribute =
  | null
  | undefined
  | string
  | number
  | boolean
  | Ref
  | Enum
  | Int
  | Typed
  | readonly StepAttribute[];

/** Writes records of a STEP file (ISO 10303-21) one after another. */
export class StepWriter {
  private readonly lines: string[] = [];

  add(type: string, ...attributes: StepAttribute[]): Ref {
    const id = this.lines.length + 1;
    this.lines.push(`#${id}=${type.toUpperCase()}(${attributes.map(formatAttribute).join(',')});`);
    return new Ref(id);
  }

  /** The whole file. */
  finish(fileName: string, timestamp: string): string {
    return [
      'ISO-10303-21;',
      'HEADER;',
      "FILE_DESCRIPTION(('ViewDefinition [ReferenceView]'),'2;1');",
      `FILE_NAME(${formatAttribute(fileName)},'${timestamp}',(''),(''),'','Heron Wharf design desk','');`,
      "FILE_SCHEMA(('IFC4'));",
      'ENDSEC;',
      'DATA;',
      ...this.lines,
      'ENDSEC;',
      'END-ISO-10303-21;',
      '',
    ].join('\n');
  }
}

function formatAttribute(value: StepAttribute): string {
  if (value === null) return '$';
  if (value === undefined) return '*';
  if (typeof value === 'string') return `'${encodeText(value)}'`;
  if (typeof value === 'boolean') return value ? '.T.' : '.F.';
  if (typeof value === 'number') return formatReal(value);
  if (value instanceof Ref) return `#${value.id}`;
  if (value instanceof Enum) return `.${value.name}.`;
  if (value instanceof Int) return String(value.value);
  if (value instanceof Typed) return `${value.type}(${formatAttribute(value.value)})`;
  return `(${value.map(formatAttribute).join(',')})`;
}

function formatReal(value: number): string {
  const rounded = Math.round(value * 1e9) / 1e9;
  const text = String(Object.is(rounded, -0) ? 0 : rounded);
  return text.includes('e')
    ? text.toUpperCase().replace('E', text.includes('.') ? 'E' : '.E')
    : text.includes('.')
      ? text
      : `${text}.`;
}

function encodeText(text: string): string {
  return text
    .replaceAll('\\', '\\\\')
    .replaceAll("'", "''")
    .replace(/[^\x20-\x7e]/gu, (sign) => {
      const units = [...Array(sign.length).keys()].map((i) =>
        sign.charCodeAt(i).toString(16).toUpperCase().padStart(4, '0'),
      );
      return `\\X2\\${units.join('')}\\X0\\`;
    });
}

const BASE64 = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';

/** A GlobalId made from a name, the same every time: 128 bits in 22 signs of the IFC alphabet. */
export function nameToGlobalId(name: string): string {
  const bytes = createHash('sha256').update(name).digest().subarray(0, 16);
  let bits = BigInt(`0x${bytes.toString('hex')}`);
  let out = '';
  for (let i = 0; i < 22; i++) {
    out = BASE64[Number(bits & 63n)]! + out;
    bits >>= 6n;
  }
  return out;
}

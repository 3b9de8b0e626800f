import { failure, type Result, success } from '@tally/core';
import { type IfcSchema, schemaFamily } from '../schema/entities.ts';

/** A fault of one record of the file. */
export interface RecordFault {
  readonly id: number | null;
  readonly line: number;
  readonly reason: string;
}

/** Where each record of a STEP file lies: parallel arrays in file order. Attributes are parsed only when asked for. */
export interface StepIndex {
  readonly bytes: Uint8Array;
  readonly schema: IfcSchema;
  readonly schemaName: string;
  readonly ids: Float64Array;
  /** Number of the entity name in `names`. */
  readonly types: Uint16Array;
  readonly names: readonly string[];
  /** Offsets of the first byte after the opening bracket and of the closing one. */
  readonly starts: Float64Array;
  readonly ends: Float64Array;
  readonly faults: readonly RecordFault[];
  readonly duplicateIds: readonly number[];
  /** The data section and the file are closed as they should be. */
  readonly isComplete: boolean;
}

const CODE = {
  hash: 35,
  quote: 39,
  open: 40,
  close: 41,
  star: 42,
  semicolon: 59,
  equals: 61,
  slash: 47,
  newline: 10,
  doubleQuote: 34,
};
const isSpace = (c: number) => c === 32 || (c >= 9 && c <= 13);
const isWord = (c: number) => (c >= 65 && c <= 90) || (c >= 97 && c <= 122) || (c >= 48 && c <= 57) || c === 95;
const LONGEST_NAME = 80;
const LARGEST_ID = 4_294_967_295;

/** Names the place of an offset as a line number, counted from 1. */
export function lineOf(bytes: Uint8Array, offset: number): number {
  let line = 1;
  for (let i = 0; i < offset && i < bytes.length; i++) if (bytes[i] === CODE.newline) line++;
  return line;
}

/**
 * Reads the structure of a STEP file (ISO 10303-21) without its values. Damaged records are skipped and told.
 * Errors: `file-empty`, `file-not-ifc`, `file-schema-unknown`, `file-zipped`.
 */
export function indexStepFile(bytes: Uint8Array): Result<StepIndex> {
  if (bytes.length === 0)
    return failure('file-empty', 'The file is empty.', { remedy: 'Export the model again and check its size.' });
  if (bytes[0] === 0x50 && bytes[1] === 0x4b)
    return failure('file-zipped', 'This is a zip archive, not an IFC file.', {
      remedy: 'Unpack it and take the .ifc inside.',
    });
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, Math.min(bytes.length, 200_000)));
  if (!/^\s*ISO-10303-21\s*;/.test(head.replace(/^\u00ef\u00bb\u00bf/, ''))) {
    return failure('file-not-ifc', 'The file does not start with ISO-10303-21; it is not an IFC file.', {
      remedy: 'Choose a file exported as IFC (STEP, .ifc).',
    });
  }
  const schemaName = /FILE_SCHEMA\s*\(\s*\(\s*'([^']*)'/i.exec(head)?.[1] ?? '';
  const schema = schemaFamily(schemaName);
  if (!schema) {
    return failure(
      'file-schema-unknown',
      schemaName
        ? `The file's schema is ${schemaName}; IFC2X3, IFC4 and IFC4X3 are read.`
        : 'The file names no schema.',
      { remedy: 'Export the model as IFC4 or IFC2X3.' },
    );
  }
  const data = /(^|[\s;])DATA\s*(\([^)]*\))?\s*;/i.exec(head);
  if (!data) return failure('file-not-ifc', 'The file has no DATA section.', { remedy: 'Export the model again.' });
  return success(new Scanner(bytes, data.index + data[0].length).scan(schema, schemaName));
}

class Scanner {
  private capacity = 1 << 16;
  private count = 0;
  private ids = new Float64Array(this.capacity);
  private types = new Uint16Array(this.capacity);
  private starts = new Float64Array(this.capacity);
  private ends = new Float64Array(this.capacity);
  private readonly names: string[] = [];
  private readonly numbers = new Map<number, { name: string; number: number }[]>();
  private readonly faults: RecordFault[] = [];
  private faultCount = 0;
  private line = 1;
  private lineAt = 0;

  constructor(
    private readonly bytes: Uint8Array,
    private at: number,
  ) {}

  scan(schema: IfcSchema, schemaName: string): StepIndex {
    let isComplete = false;
    while (this.at < this.bytes.length) {
      this.skipBlank();
      if (this.at >= this.bytes.length) break;
      if (this.bytes[this.at] === CODE.hash) this.record();
      else {
        const word = this.word();
        if (word === 'ENDSEC') {
          isComplete = true;
          break;
        }
        this.fault(
          null,
          this.at,
          `"${word || String.fromCharCode(this.bytes[this.at]!)}" stands where a record should begin`,
        );
        this.recover();
      }
    }
    const { count } = this;
    const ids = this.ids.slice(0, count);
    return {
      bytes: this.bytes,
      schema,
      schemaName,
      ids,
      types: this.types.slice(0, count),
      names: this.names,
      starts: this.starts.slice(0, count),
      ends: this.ends.slice(0, count),
      faults: this.faults,
      duplicateIds: listDuplicates(ids),
      isComplete,
    };
  }

  private skipBlank(): void {
    const { bytes } = this;
    for (;;) {
      const c = bytes[this.at]!;
      if (this.at >= bytes.length) return;
      if (isSpace(c)) this.at++;
      else if (c === CODE.slash && bytes[this.at + 1] === CODE.star) {
        this.at += 2;
        while (this.at < bytes.length && !(bytes[this.at] === CODE.star && bytes[this.at + 1] === CODE.slash))
          this.at++;
        this.at += 2;
      } else return;
    }
  }

  private word(): string {
    let end = this.at;
    while (end < this.bytes.length && isWord(this.bytes[end]!) && end - this.at < LONGEST_NAME) end++;
    return String.fromCharCode(...this.bytes.subarray(this.at, end)).toUpperCase();
  }

  private record(): void {
    const { bytes } = this;
    const from = this.at++;
    let id = 0;
    let digits = 0;
    for (; bytes[this.at]! >= 48 && bytes[this.at]! <= 57; digits++) id = id * 10 + (bytes[this.at++]! - 48);
    if (digits === 0 || id > LARGEST_ID)
      return this.damaged(digits === 0 ? null : id, from, 'its number is not usable');
    this.skipBlank();
    if (bytes[this.at] !== CODE.equals) return this.damaged(id, from, '"=" is missing after its number');
    this.at++;
    this.skipBlank();
    const type = this.typeNumber();
    if (type < 0) return this.damaged(id, from, 'it has no entity name');
    this.skipBlank();
    if (bytes[this.at] !== CODE.open) return this.damaged(id, from, 'its attributes are missing');
    const start = ++this.at;
    if (!this.toClosing()) return this.damaged(id, from, 'its brackets are not closed');
    const end = this.at++;
    this.skipBlank();
    // The record itself is whole: keep it, and go on with the next.
    if (bytes[this.at] === CODE.semicolon) this.at++;
    else this.fault(id, from, 'the semicolon at its end is missing');
    this.add(id, type, start, end);
  }

  /** Moves to the bracket that closes the record; false at a semicolon outside of texts or at the end of the file. */
  private toClosing(): boolean {
    const { bytes } = this;
    let depth = 1;
    for (; this.at < bytes.length; this.at++) {
      const c = bytes[this.at]!;
      if (c === CODE.quote || c === CODE.doubleQuote) {
        const close = bytes.indexOf(c, this.at + 1);
        if (close < 0) return false;
        this.at = close;
      } else if (c === CODE.open) depth++;
      else if (c === CODE.close) {
        if (--depth === 0) return true;
      } else if (c === CODE.semicolon) return false;
    }
    return false;
  }

  /** Number of the entity name at the cursor, compared by bytes so that a name is decoded once. */
  private typeNumber(): number {
    const { bytes } = this;
    const from = this.at;
    let hash = 0;
    while (isWord(bytes[this.at]!)) hash = (hash * 31 + (bytes[this.at++]! & 0xdf)) | 0;
    const length = this.at - from;
    if (length === 0 || length > LONGEST_NAME) return -1;
    const known = this.numbers.get(hash);
    if (known?.length === 1 && known[0]!.name.length === length) return known[0]!.number;
    const name = String.fromCharCode(...bytes.subarray(from, this.at)).toUpperCase();
    const found = known?.find((k) => k.name === name);
    if (found) return found.number;
    const number = this.names.push(name) - 1;
    if (known) known.push({ name, number });
    else this.numbers.set(hash, [{ name, number }]);
    return number;
  }

  private add(id: number, type: number, start: number, end: number): void {
    if (this.count === this.capacity) {
      this.capacity *= 2;
      const grow = <T extends Float64Array | Uint16Array>(old: T, fresh: T): T => {
        fresh.set(old as never);
        return fresh;
      };
      this.ids = grow(this.ids, new Float64Array(this.capacity));
      this.types = grow(this.types, new Uint16Array(this.capacity));
      this.starts = grow(this.starts, new Float64Array(this.capacity));
      this.ends = grow(this.ends, new Float64Array(this.capacity));
    }
    this.ids[this.count] = id;
    this.types[this.count] = type;
    this.starts[this.count] = start;
    this.ends[this.count++] = end;
  }

  private damaged(id: number | null, from: number, reason: string): void {
    this.fault(id, from, reason);
    this.at = Math.max(this.at, from + 1);
    this.recover();
  }

  private fault(id: number | null, offset: number, reason: string): void {
    if (this.faultCount++ > 100) return;
    for (; this.lineAt < offset; this.lineAt++) if (this.bytes[this.lineAt] === CODE.newline) this.line++;
    this.faults.push({ id, line: this.line, reason });
  }

  /** Goes on at the next record that begins a line, or after the next semicolon. */
  private recover(): void {
    const { bytes } = this;
    for (; this.at < bytes.length; this.at++) {
      if (bytes[this.at] === CODE.semicolon) {
        this.at++;
        return;
      }
      if (bytes[this.at] === CODE.newline && bytes[this.at + 1] === CODE.hash) {
        this.at++;
        return;
      }
    }
  }
}

function listDuplicates(ids: Float64Array): number[] {
  const sorted = ids.slice().sort();
  const out = new Set<number>();
  for (let i = 1; i < sorted.length; i++) if (sorted[i] === sorted[i - 1]) out.add(sorted[i]!);
  return [...out];
}

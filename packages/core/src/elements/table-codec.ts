import { failure, type Result, success } from '../result/result.ts';
import type { ElementTable } from './element-table.ts';

/** First bytes of an encoded table: "TLY" and the format version. */
const MAGIC = [0x54, 0x4c, 0x59, 3];
/** Oldest version that is still read: it had no faces and no middle lines of walls. */
const OLDEST = 2;
const KINDS = { Int32Array, Uint32Array, Float64Array } as const;
type Kind = keyof typeof KINDS;
interface ArrayRef {
  readonly $array: Kind;
  readonly at: number;
  readonly length: number;
}

const kindOf = (value: unknown): Kind | undefined =>
  (Object.keys(KINDS) as Kind[]).find((kind) => value instanceof KINDS[kind]);

/**
 * Packs a table into bytes: a header, a JSON tree in which each typed array is a reference, then the arrays' raw
 * little-endian bytes, 8-byte aligned. The caller compresses and stores it, named by its hash.
 */
export function encodeElementTable(table: ElementTable): Uint8Array {
  const arrays: { bytes: Uint8Array; at: number }[] = [];
  let size = 0;
  const strip = (value: unknown): unknown => {
    const kind = kindOf(value);
    if (kind) {
      const array = value as Int32Array | Uint32Array | Float64Array;
      const at = size;
      arrays.push({ bytes: new Uint8Array(array.buffer, array.byteOffset, array.byteLength), at });
      size += Math.ceil(array.byteLength / 8) * 8;
      return { $array: kind, at, length: array.length } satisfies ArrayRef;
    }
    if (Array.isArray(value)) return value.map(strip);
    if (value && typeof value === 'object')
      return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, strip(v)]));
    return value;
  };
  const json = new Utf8().encode(JSON.stringify(strip(table)));
  const start = Math.ceil((8 + json.length) / 8) * 8;
  const out = new Uint8Array(start + size);
  out.set(MAGIC, 0);
  new DataView(out.buffer).setUint32(4, json.length, true);
  out.set(json, 8);
  for (const { bytes, at } of arrays) out.set(bytes, start + at);
  return out;
}

/** Unpacks what `encodeElementTable` packed. Errors: `table-format` if the bytes are not such a table. */
export function decodeElementTable(bytes: Uint8Array): Result<ElementTable> {
  const isTable = bytes.length >= 8 && MAGIC.slice(0, 3).every((b, i) => bytes[i] === b);
  if (!isTable || bytes[3]! < OLDEST || bytes[3]! > MAGIC[3]!) {
    return failure('table-format', 'The stored element table has an unknown format.', {
      remedy: 'Import the model again.',
    });
  }
  const aligned = bytes.byteOffset % 8 === 0 ? bytes : bytes.slice();
  const jsonLength = new DataView(aligned.buffer, aligned.byteOffset).getUint32(4, true);
  const start = Math.ceil((8 + jsonLength) / 8) * 8;
  const tree = JSON.parse(new Utf8().decode(aligned.subarray(8, 8 + jsonLength)));
  const restore = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(restore);
    if (!value || typeof value !== 'object') return value;
    const ref = value as Partial<ArrayRef>;
    if (ref.$array)
      return new KINDS[ref.$array](aligned.buffer as ArrayBuffer, aligned.byteOffset + start + ref.at!, ref.length!);
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, restore(v)]));
  };
  const table = restore(tree) as ElementTable;
  return success({ ...table, faces: table.faces ?? noFaces(table.count), wallAxes: table.wallAxes ?? [] });
}

const noFaces = (count: number): ElementTable['faces'] => ({
  offset: new Uint32Array(count + 1),
  style: { pool: [], index: new Int32Array(0) },
  look: { pool: [], index: new Int32Array(0) },
  area: new Float64Array(0),
});

/** UTF-8 both ways; every platform that runs this has the two classes, but the language itself does not declare them. */
declare class TextEncoderLike {
  encode(text: string): Uint8Array;
}
declare class TextDecoderLike {
  decode(bytes: Uint8Array): string;
}
const platform = globalThis as unknown as { TextEncoder: typeof TextEncoderLike; TextDecoder: typeof TextDecoderLike };
class Utf8 {
  encode(text: string): Uint8Array {
    return new platform.TextEncoder().encode(text);
  }
  decode(bytes: Uint8Array): string {
    return new platform.TextDecoder().decode(bytes);
  }
}

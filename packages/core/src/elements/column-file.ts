import { failure, type Result, success } from '../result/result.ts';
import { decodeUtf8, encodeUtf8 } from '../units/utf8.ts';

/** What a file of columns begins with: three letters that say what it holds, and the version of its format. */
export interface ColumnFormat {
  readonly letters: string;
  readonly version: number;
  /** Oldest version that is still read. */
  readonly oldest: number;
}

const KINDS = { Int32Array, Uint32Array, Float64Array, Uint8Array } as const;
type Kind = keyof typeof KINDS;
interface ArrayRef {
  readonly $array: Kind;
  readonly at: number;
  readonly length: number;
}

const kindOf = (value: unknown): Kind | undefined =>
  (Object.keys(KINDS) as Kind[]).find((kind) => value instanceof KINDS[kind]);

/**
 * Packs plain data with maps and typed arrays into bytes: a header, a JSON tree in which each typed array is a reference, then the arrays' raw
 * little-endian bytes, 8-byte aligned. Equal data give equal bytes.
 */
export function encodeColumns({ letters, version }: ColumnFormat, data: object): Uint8Array {
  const arrays: { bytes: Uint8Array; at: number }[] = [];
  let size = 0;
  const strip = (value: unknown): unknown => {
    const kind = kindOf(value);
    if (kind) {
      const array = value as InstanceType<(typeof KINDS)[Kind]>;
      const at = size;
      arrays.push({ bytes: new Uint8Array(array.buffer, array.byteOffset, array.byteLength), at });
      size += Math.ceil(array.byteLength / 8) * 8;
      return { $array: kind, at, length: array.length } satisfies ArrayRef;
    }
    if (Array.isArray(value)) return value.map(strip);
    if (value instanceof Map) return { $map: [...value].map(strip) };
    if (value && typeof value === 'object')
      return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, strip(v)]));
    return value;
  };
  const json = encodeUtf8(JSON.stringify(strip(data)));
  const start = Math.ceil((8 + json.length) / 8) * 8;
  const out = new Uint8Array(start + size);
  out.set([...[...letters].map((c) => c.charCodeAt(0)), version], 0);
  new DataView(out.buffer).setUint32(4, json.length, true);
  out.set(json, 8);
  for (const { bytes, at } of arrays) out.set(bytes, start + at);
  return out;
}

/** Unpacks what `encodeColumns` packed. Errors: `table-format` if the bytes are of another format or version. */
export function decodeColumns<T>({ letters, version, oldest }: ColumnFormat, bytes: Uint8Array): Result<T> {
  const isFormat = bytes.length >= 8 && [...letters].every((c, i) => bytes[i] === c.charCodeAt(0));
  if (!isFormat || bytes[3]! < oldest || bytes[3]! > version)
    return failure('table-format', 'The stored file has an unknown format.', {
      remedy: 'Make it again from its source.',
    });
  const aligned = bytes.byteOffset % 8 === 0 ? bytes : bytes.slice();
  const jsonLength = new DataView(aligned.buffer, aligned.byteOffset).getUint32(4, true);
  const start = Math.ceil((8 + jsonLength) / 8) * 8;
  const tree = JSON.parse(decodeUtf8(aligned.subarray(8, 8 + jsonLength)));
  const restore = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(restore);
    if (!value || typeof value !== 'object') return value;
    const ref = value as Partial<ArrayRef & { $map: unknown[] }>;
    if (ref.$map) return new Map(ref.$map.map(restore) as [unknown, unknown][]);
    if (ref.$array)
      return new KINDS[ref.$array](aligned.buffer as ArrayBuffer, aligned.byteOffset + start + ref.at!, ref.length!);
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, restore(v)]));
  };
  return success(restore(tree) as T);
}

import { createInflateRaw } from 'node:zlib';
import { failure, type Result, success } from '@tally/core';

/** Most that the parts of a spreadsheet may unpack to, bytes. */
export const LARGEST_UNPACKED = 600 * 1024 ** 2;
/** Most that one byte may unpack to; real sheets stay below 50. */
const STEEPEST = 250;

const END = 0x06054b50;
const ENTRY = 0x02014b50;

/** What one byte of deflated data can come to at the very most. */
const MOST_SWELLING = 1032;

/**
 * Looks at the table of contents of a zip archive, and where that could lie about more than is read, unpacks it and counts.
 * Errors: `sheet-damaged`, `sheet-too-large` for archives that unpack to more than is read, or swell beyond all measure.
 */
export async function checkZip(bytes: Uint8Array): Promise<Result<null>> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = findEnd(view);
  const damaged = failure<null>('sheet-damaged', 'The file is not a whole spreadsheet.', {
    remedy: 'Open it in a spreadsheet program and save it again.',
  });
  if (end < 0) return damaged;
  let at = view.getUint32(end + 16, true);
  const count = view.getUint16(end + 10, true);
  let unpacked = 0;
  const parts: Uint8Array[] = [];
  for (let i = 0; i < count; i++) {
    if (at + 46 > bytes.length || view.getUint32(at, true) !== ENTRY) return damaged;
    unpacked += view.getUint32(at + 24, true);
    const part = findPart(view, at);
    if (!part) return damaged;
    parts.push(part);
    at += 46 + view.getUint16(at + 28, true) + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
  }
  if (unpacked > LARGEST_UNPACKED || (unpacked > 1024 ** 2 && unpacked > STEEPEST * bytes.length))
    return tooLarge(unpacked);
  const packed = parts.reduce((sum, p) => sum + p.length, 0);
  if (packed * MOST_SWELLING <= LARGEST_UNPACKED) return success(null);
  const counted = await countUnpacked(parts);
  return counted > LARGEST_UNPACKED ? tooLarge(counted) : success(null);
}

const tooLarge = (unpacked: number) =>
  failure<null>('sheet-too-large', `The file unpacks to ${Math.round(unpacked / 1024 ** 2)} MB; that is not read.`, {
    remedy: 'Save only the sheet with the prices, without pictures and empty rows.',
  });

/** Packed bytes of an entry of the table of contents; null if they lie outside of the file. */
function findPart(view: DataView, at: number): Uint8Array | null {
  const local = view.getUint32(at + 42, true);
  if (local + 30 > view.byteLength) return null;
  const from = local + 30 + view.getUint16(local + 26, true) + view.getUint16(local + 28, true);
  const size = view.getUint32(at + 20, true);
  return from + size > view.byteLength ? null : new Uint8Array(view.buffer, view.byteOffset + from, size);
}

/** What parts really unpack to, counted and thrown away; stops when it is more than is read. */
async function countUnpacked(parts: readonly Uint8Array[]): Promise<number> {
  let sum = 0;
  for (const part of parts) {
    const unpack = createInflateRaw();
    unpack.end(part);
    try {
      for await (const chunk of unpack) {
        sum += (chunk as Buffer).length;
        if (sum > LARGEST_UNPACKED) return sum;
      }
    } catch {
      // A part that is stored, not packed, is as large as it is; a damaged one is told of by the reader.
      sum += part.length;
    }
  }
  return sum;
}

function findEnd(view: DataView): number {
  const least = Math.max(0, view.byteLength - 22 - 0xffff);
  for (let at = view.byteLength - 22; at >= least; at--) if (view.getUint32(at, true) === END) return at;
  return -1;
}

import { failure, type Result, success } from '@tally/core';

/** Most that the parts of a spreadsheet may unpack to, bytes. */
export const LARGEST_UNPACKED = 600 * 1024 ** 2;
/** Most that one byte may unpack to; real sheets stay below 50. */
const STEEPEST = 250;

const END = 0x06054b50;
const ENTRY = 0x02014b50;

/**
 * Looks at the table of contents of a zip archive without unpacking anything.
 * Errors: `sheet-damaged`, `sheet-too-large` for archives that unpack to more than is read, or swell beyond all measure.
 */
export function checkZip(bytes: Uint8Array): Result<null> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const end = findEnd(view);
  const damaged = failure<null>('sheet-damaged', 'The file is not a whole spreadsheet.', {
    remedy: 'Open it in a spreadsheet program and save it again.',
  });
  if (end < 0) return damaged;
  let at = view.getUint32(end + 16, true);
  const count = view.getUint16(end + 10, true);
  let unpacked = 0;
  for (let i = 0; i < count; i++) {
    if (at + 46 > bytes.length || view.getUint32(at, true) !== ENTRY) return damaged;
    unpacked += view.getUint32(at + 24, true);
    at += 46 + view.getUint16(at + 28, true) + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
  }
  if (unpacked > LARGEST_UNPACKED || (unpacked > 1024 ** 2 && unpacked > STEEPEST * bytes.length))
    return failure('sheet-too-large', `The file unpacks to ${Math.round(unpacked / 1024 ** 2)} MB; that is not read.`, {
      remedy: 'Save only the sheet with the prices, without pictures and empty rows.',
    });
  return success(null);
}

function findEnd(view: DataView): number {
  const least = Math.max(0, view.byteLength - 22 - 0xffff);
  for (let at = view.byteLength - 22; at >= least; at--) if (view.getUint32(at, true) === END) return at;
  return -1;
}

import { failure, type Result, success } from '../result/result.ts';

/** Reads a rate: a decimal with a point. Errors: `rate-unreadable`. @example parseRate('12.50') // 12.5 */
export function parseRate(text: string): Result<number> {
  const trimmed = text.trim();
  if (!/^-?\d{1,12}(\.\d{1,8})?$/.test(trimmed)) {
    return failure('rate-unreadable', `"${text}" is not a rate.`, { remedy: 'Write a figure such as 12.50.' });
  }
  return success(Number(trimmed));
}

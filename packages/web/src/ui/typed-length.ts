import { type Result, readLength } from '@tally/core';
import { showSiText, type UnitSystem } from './format.ts';
import { numberStyle } from './number-style.ts';

/** A length as it is typed into a field, in metres; without a unit it is in metres, where the project shows feet in feet. */
export const readTypedLength = (text: string, system: UnitSystem): Result<number> =>
  readLength(text, system === 'imperial' ? 'ft' : 'm', numberStyle());

/** What a length typed without a unit is taken for; null where it says its unit, and where it cannot be read. */
export function echoLength(text: string, system: UnitSystem): string | null {
  const length = readTypedLength(text, system);
  return length.ok && /\d[\s.,]*$/.test(text) && Number(text) !== 0
    ? `= ${showSiText(length.value, 'm', system)}`
    : null;
}

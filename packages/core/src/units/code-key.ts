import { appendToList } from '../result/append-to-list.ts';
import { foldText } from './fold-text.ts';

/**
 * What two codes of one list must not have in common: the code without blanks around it, in any case, its accents written either way
 * (one sign, or a letter and its accent). Accents themselves, dashes and blanks inside tell codes apart.
 * @example codeKey(' M-Ö1 ') // 'm-ö1'; '1-11' and '11-1' differ
 */
export const codeKey = (code: string): string => code.normalize('NFC').trim().toLowerCase();

/** A name as it is written in a formula: without anything that is neither letter nor digit. @example "Render depth" -> RenderDepth */
export function writeName(name: string): string {
  const whole = name.normalize('NFC');
  if (/^[\p{L}\p{N}_]*$/u.test(whole)) return whole;
  return whole
    .split(/[^\p{L}\p{N}_]+/u)
    .map((word) => word.slice(0, 1).toUpperCase() + word.slice(1))
    .join('');
}

/** What two names of formulas must not have in common. @example nameKey('Oil finish') // 'oilfinish' */
export const nameKey = (name: string): string => writeName(name).toLowerCase();

/** How entries of a kind are told apart: values as formulas name them, scales as texts are compared, all else by code. */
export function entryKey(kind: string, id: string): string {
  return kind === 'value' ? nameKey(id) : kind === 'scale' ? foldText(id) : codeKey(id);
}

/** Things by their code: as written first, else the only one that differs in case alone. */
export class ByCode<T extends { readonly code: string }> {
  private readonly exact = new Map<string, T>();
  private readonly alike = new Map<string, T[]>();

  constructor(things: Iterable<T>) {
    for (const thing of things) {
      this.exact.set(thing.code, thing);
      appendToList(this.alike, codeKey(thing.code), thing);
    }
  }

  get(code: string): T | undefined {
    const exact = this.exact.get(code);
    if (exact) return exact;
    const alike = this.alike.get(codeKey(code)) ?? [];
    return alike.length === 1 ? alike[0] : undefined;
  }
}

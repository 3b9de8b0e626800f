import { isClassOrSubtype } from '../elements/class-hierarchy.ts';
import type { FieldCondition } from './condition.ts';

/** Test on a class name that knows subtypes; undefined where the class is compared as a text. */
export function classTest({ op, value, values }: FieldCondition): ((text: string) => boolean) | undefined {
  if (op === 'is' && !/[*?]/.test(String(value))) return (text) => isClassOrSubtype(text, String(value));
  if (op === 'oneOf') return (text) => (values ?? []).some((v) => isClassOrSubtype(text, String(v)));
  return undefined;
}

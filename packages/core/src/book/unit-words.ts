import type { Result } from '../result/result.ts';
import { parseUnit, type Unit } from '../units/unit.ts';

/** Words people use for units, in the singular and in small letters. */
const UNIT_WORDS: Readonly<Record<string, string>> = {
  piece: 'each', ea: 'each', stk: 'each', st: 'each', pc: 'each', pcs: 'each', no: 'each', nr: 'each', hour: 'h', hr: 'h', hrs: 'h', minute: 'min', litre: 'l', liter: 'l',
  metre: 'm', meter: 'm', lm: 'm', sqm: 'm2', 'square metre': 'm2', 'square meter': 'm2', 'cubic metre': 'm3', 'cubic meter': 'm3',
  kilogram: 'kg', kilo: 'kg', tonne: 't', foot: 'ft', feet: 'ft', sqft: 'ft2', 'square foot': 'ft2', 'square feet': 'ft2', pound: 'lb',
  bag: 'bag', roll: 'roll', sheet: 'sheet', set: 'set', load: 'load', coat: 'coat', day: 'day', week: 'week', month: 'month',
}; // biome-ignore format: words and what they mean

/** A unit as people write it: `pieces`, `hours`, `m²`. */
export function readUnitWord(word: string): Result<Unit> {
  const exact = parseUnit(word);
  if (exact.ok) return exact;
  const small = word.toLowerCase().replace(/\.$/, '');
  const symbol = UNIT_WORDS[small] ?? UNIT_WORDS[small.replace(/s$/, '')] ?? UNIT_WORDS[small.replace(/s\b/g, '')];
  return symbol === undefined ? exact : parseUnit(symbol);
}

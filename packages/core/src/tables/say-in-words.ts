import { sayClassWords } from '../elements/class-word.ts';
import { takeNameApart } from '../elements/take-name-apart.ts';
import { QUANTITY_DEFINITIONS } from '../quantities/quantity-names.ts';
import { nameQuantity } from './field-catalogue.ts';

/** Names of quantities that are no words by themselves, the longest first. */
const NAMES = QUANTITY_DEFINITIONS.map((d) => d.name).filter((name) => /[a-z][A-Z]/.test(name)).sort((a, b) => b.length - a.length); // biome-ignore format: one list
const QUANTITY = new RegExp(`\\b(?:${NAMES.join('|')})\\b`, 'g');

/** Properties of IFC that the trade has a word for. */
const PROPERTY_WORDS: Readonly<Record<string, string>> = {
  IsExternal: 'Outside',
  LoadBearing: 'Load-bearing',
  FireRating: 'Fire rating',
  AcousticRating: 'Acoustic rating',
  ThermalTransmittance: 'U-value',
  ExtendToStructure: 'Up to the structure',
};

/** The word for a property: that of the trade, else its name taken apart. @example 'HandicapAccessible' -> Handicap accessible */
export function nameProperty(name: string): string {
  const known = PROPERTY_WORDS[name];
  if (known !== undefined) return known;
  return /^[A-Z][a-z]+(?:[A-Z][a-z0-9]+)+$/.test(name) ? takeNameApart(name) : name;
}

/** Square and cubic metres behind a figure or an article. */
const POWER = /(?<=\d |\ba |\bthe )m([23])\b/g;

/**
 * A text for people: names of classes, quantities and properties of the standard in it become words. Formulas are left as they are typed.
 * @example 'IfcWall W1: NetSideArea 12' -> Wall W1: Side area, net 12
 */
export function sayInWords(text: string): string {
  return sayClassWords(text)
    .replace(/\bPset_\w+\.(\w+)/g, (_, name: string) => nameProperty(name))
    .replace(QUANTITY, (name) => nameQuantity(name).word)
    .replace(POWER, (_, power: string) => `m${power === '2' ? '²' : '³'}`);
}

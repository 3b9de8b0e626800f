import { type ElementChange, nameProperty, nameQuantity, QUANTITY_DEFINITIONS } from '@tally/core';
import { showSi, showSiText, type UnitSystem } from '../../ui/format.ts';

/** What happened to an element, in a word. */
export const CHANGE_WORDS: Readonly<Record<ElementChange['what'] | 'identified', string>> = {
  came: 'Came',
  went: 'Went',
  changed: 'Changed',
  priced: 'Priced otherwise',
  identified: 'Known again',
};

const UNITS: ReadonlyMap<string, string> = new Map(QUANTITY_DEFINITIONS.map((q) => [q.name, q.unit]));

/** What people say of a size that became more or less. */
const SIZES: Readonly<Record<string, readonly [more: string, less: string]>> = {
  Length: ['longer', 'shorter'],
  Height: ['higher', 'lower'],
  Width: ['wider', 'narrower'],
  Depth: ['thicker', 'thinner'],
};

/** Facts that say more than figures do, in the order they are told. */
const FACT_WORDS: Readonly<Record<string, string>> = {
  class: 'now a',
  type: 'type',
  name: 'name',
  storey: 'storey',
  room: 'room',
  materials: 'material',
  shape: 'shape',
};

type Sides = readonly [number | null, number | null];

/**
 * What became of an element, as a builder would say it: its sizes first, then the figures that its price reads, what it is, where it stands.
 * @param isWhole with figures that move no money, and properties
 * @example 'longer by 4.80 m; side area, net 11.60 > 25.52 m²'
 */
export function sayChange(change: ElementChange, units: UnitSystem, isWhole = false): string {
  const { quantities, attributes, reads, movedM, isIdentified, split } = change;
  const said: string[] = [];
  if (isIdentified) said.push('known again under another id');
  if (split?.is === 'split') said.push(`split into ${split.with.join(', ')}`);
  if (split?.is === 'merged') said.push(`made of ${split.with.join(', ')}`);
  if (split?.is === 'part') said.push(`part of ${split.with.join(', ')}`);
  for (const [name, [more, less]] of Object.entries(SIZES)) {
    const [a, b] = quantities[name] ?? [null, null];
    if (a !== null && b !== null) said.push(`${b > a ? more : less} by ${showSiText(Math.abs(b - a), 'm', units)}`);
  }
  const figures = Object.entries(quantities).filter(([name, [a, b]]) => !SIZES[name] || a === null || b === null);
  const told = figures.filter(([name]) => reads.includes(name));
  for (const [name, sides] of told) said.push(sayFigure(name, sides, units));
  for (const [name, word] of Object.entries(FACT_WORDS)) {
    const [a, b] = attributes[name] ?? [null, null];
    if (a !== null || b !== null) said.push(`${word} ${a ?? 'none'} > ${b ?? 'none'}`);
  }
  if (movedM > 0) said.push(`moved by ${showSiText(movedM, 'm', units)}`);
  const others = figures.filter(([name]) => !reads.includes(name));
  const properties = Object.entries(attributes).filter(([name]) => !FACT_WORDS[name]);
  if (isWhole || said.length === 0) {
    for (const [name, sides] of others) said.push(sayFigure(name, sides, units));
    for (const [name, [a, b]] of properties)
      said.push(`${nameProperty(name.replace(/^.*\./, ''))} ${a ?? 'none'} > ${b ?? 'none'}`);
  }
  return said.join('; ');
}

function sayFigure(name: string, [a, b]: Sides, units: UnitSystem): string {
  const { word } = nameQuantity(name);
  const unit = UNITS.get(name) ?? 'number';
  const lower = word.charAt(0).toLowerCase() + word.slice(1);
  if (a === null || b === null) {
    const one = (a ?? b)!;
    return a === null ? `${lower} ${showSiText(one, unit, units)}, none before` : `no ${lower}, ${showSiText(one, unit, units)} before`; // biome-ignore format: one choice
  }
  const [from, to] = [showSi(a, unit, units), showSi(b, unit, units)];
  return `${lower} ${from.figure} > ${to.figure} ${to.unit}`.trim();
}

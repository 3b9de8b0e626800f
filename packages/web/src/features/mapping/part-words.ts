import { type AlsoFor, type DecidedPart, type KindPart, nameFact } from '@tally/core';

/** What a decision is about, as it is chosen. */
export const ABOUT_WORDS: Readonly<Record<DecidedPart | '', string>> = {
  '': 'The elements themselves',
  layer: 'Their layers, one by one',
  face: 'Their faces, style by style',
  finish: 'Finishes of rooms, one by one',
};

/** Whom a rule speaks for too. */
export const ALSO_WORDS: Readonly<Record<AlsoFor, string>> = {
  parts: 'for their parts, in place of them',
  hosted: 'for what they host',
};

/** Several of what a decision is about. */
export const PART_COUNT_WORDS: Readonly<Record<DecidedPart, string>> = {
  layer: 'layers',
  face: 'face styles',
  finish: 'finishes',
};

const SURFACES = { floor: 'Floor', wall: 'Wall', ceiling: 'Ceiling', skirting: 'Skirting' } as const;

/** Layers of one material, faces of one style or surfaces of one finish, in words. */
export function sayPart({ about, name, surface }: Pick<KindPart, 'about' | 'name' | 'surface'>): string {
  const what = surface ? SURFACES[surface] : about === 'layer' ? 'Layer' : 'Faces';
  return `${what}, ${name ?? `no ${nameFact('material').word.toLowerCase()}`}`;
}

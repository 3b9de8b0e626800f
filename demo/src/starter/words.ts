import type { Condition } from '@tally/core';

/**
 * What things are called in names, types and materials of models, in English, German, French, Spanish and Portuguese. A word is looked for
 * anywhere in a text, without regard to case and accents; one with a `*`, or after a `=`, must be the whole text.
 */
export const WORDS = {
  concrete: ['concrete', 'beton', 'hormigon', 'concreto', 'betao', 'stahlbeton'],
  masonry: [
    ...['brick', 'block', 'masonry', 'stonework'],
    ...['ziegel', 'mauerwerk', 'kalksand', 'porenbeton', 'klinker'],
    ...['brique', 'parpaing', 'moellon'],
    ...['ladrillo', 'bloque', 'mamposteria', 'tijolo', 'alvenaria', 'bloco'],
  ],
  timber: [
    ...['timber', 'wood', 'glulam', 'plywood', 'softwood', 'hardwood', 'larch', 'spruce', 'oak'],
    ...['holz', 'fichte', 'larche', 'eiche', 'bois', 'madera', 'madeira', 'contraplac'],
  ],
  steel: [
    ...['steel', '=stahl', 'stahl *', 'baustahl', 'stahlprofil', 'stahltrager', 'stahlstutze'],
    ...['acier', 'acero', '=aco', 'aco *', '* aco', '* aco *', 's235*', 's275*', 's355*'],
  ],
  drywall: [
    ...['plasterboard', 'drywall', 'gypsum', 'stud wall', 'stud partition'],
    ...['gipskarton', 'trockenbau', 'standerwand', 'gips'],
    ...['placo', 'platre', 'cloison', 'pladur', 'yeso', 'carton-yeso', 'gesso'],
  ],
  glass: ['glass', 'glazed', 'glazing', 'verglas', 'glaswand', 'vitre', 'vitrage', 'vidrio', 'vidro', 'acristalad'],
  outside: ['exterior', 'external', 'outside', 'outer', 'facade', 'aussen', 'fassade', 'exterieur', 'fachada', 'externa', 'externo'], // biome-ignore format: one list
  roof: ['roof', 'dach', 'toiture', 'toit', 'cubierta', 'tejado', 'cobertura', 'telhado'],
  ceiling: ['ceiling', 'decke abgehangt', 'abhangdecke', 'unterdecke', 'plafond', 'falso techo', 'techo', 'forro', 'teto'], // biome-ignore format: one list
  flooring: ['floor', 'bodenbelag', 'parkett', 'fliesen', 'estrich', 'revetement de sol', 'parquet', 'carrelage', 'suelo', 'pavimento', 'solado', 'piso', 'soalho'], // biome-ignore format: one list
  cladding: ['cladding', 'bekleidung', 'verkleidung', 'bardage', 'revestimiento', 'aplacado', 'revestimento'],
  insulation: ['insulation', 'dammung', 'dammplatte', 'isolation', 'isolant', 'aislamiento', 'aislante', 'isolamento'],
  sanitary: [
    ...['toilet', '=wc', 'wc *', '* wc', 'basin', 'sink', 'shower', 'bath', 'urinal'],
    ...['waschbecken', 'waschtisch', 'dusche', 'badewanne', 'lavabo', 'douche', 'baignoire', 'evier'],
    ...['inodoro', 'ducha', 'banera', 'fregadero', 'sanita', 'lavatorio', 'chuveiro', 'banheira'],
  ],
} as const;
export type WordList = keyof typeof WORDS;

export type WordField = 'name' | 'type' | 'material';

const test = (field: WordField, word: string): Condition =>
  /^=|[*?]/.test(word) ? { field, op: 'is', value: word.replace(/^=/, '') } : { field, op: 'contains', value: word };

/** Elements that one of the words is said of, by name, type or material. */
export const saidOf = (list: WordList, fields: readonly WordField[] = ['material', 'type', 'name']): Condition => ({
  any: fields.flatMap((field) => WORDS[list].map((word) => test(field, word))),
});

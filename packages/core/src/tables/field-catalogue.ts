import { QUANTITY_DEFINITIONS } from '../quantities/quantity-names.ts';
import { PART_WORDS } from '../recipes/part-names.ts';

/** What a field is called: by people, in a hint, and in IFC where it has a name there. */
export interface FieldWords {
  readonly word: string;
  readonly hint?: string;
  readonly ifcName?: string;
}

/** Facts that elements, lines of a plan and purchases are told, sorted and grouped by; the id stands in saved tables and in links. */
const FACTS = {
  name: { word: 'Name', ifcName: 'Name' },
  class: { word: 'Class', hint: 'What kind of thing it is: wall, slab, door …', ifcName: 'IfcClass' },
  type: { word: 'Type', hint: 'The type that the designers gave it.', ifcName: 'IfcTypeObject' },
  storey: { word: 'Storey', ifcName: 'IfcBuildingStorey' },
  zone: { word: 'Zone', ifcName: 'IfcZone' },
  material: { word: 'Material', hint: 'All materials of it, joined.', ifcName: 'IfcMaterial' },
  code: { word: 'Element code', hint: 'Its classification in the file.', ifcName: 'IfcClassificationReference' },
  tag: { word: 'Tag', ifcName: 'Tag' },
  globalId: { word: 'GlobalId', hint: 'Its identity in the model file.', ifcName: 'GlobalId' },
  count: { word: 'Count' },
  section: { word: 'Work section', hint: 'The trade slot that it is priced in.' },
  item: { word: 'Item' },
  kind: { word: 'Kind of cost', hint: 'Labour, material, plant, subcontract, fee.' },
  supplier: { word: 'Supplier' },
  itemGroup: { word: 'Item group' },
  itemClass1: { word: 'Price class, level 1', hint: 'Class of the item in the coding system of the project.' },
  itemClass2: { word: 'Price class, level 2', hint: 'Class of the item in the coding system of the project.' },
  itemClass3: { word: 'Price class, level 3', hint: 'Class of the item in the coding system of the project.' },
  itemClass4: { word: 'Price class, level 4', hint: 'Class of the item in the coding system of the project.' },
  code1: { word: 'Element code, level 1', hint: 'The first level of its classification in the file.' },
  code2: { word: 'Element code, level 2', hint: 'The first two levels of its classification in the file.' },
  code3: { word: 'Element code, level 3', hint: 'The first three levels of its classification in the file.' },
  room: {
    word: 'Room',
    hint: 'Walls go by the lengths that rooms have along them, doors and windows half and half.',
    ifcName: 'IfcSpace',
  },
  assembly: { word: 'Assembly', hint: 'The outermost assembly that it is priced with.' },
  source: { word: 'Source', hint: 'The model or list it comes from.' },
  taxClass: { word: 'Tax class' },
  rule: { word: 'Rule', hint: 'The rule that decided what it is priced with.' },
} as const satisfies Record<string, FieldWords>;

/** A fact that the catalogue knows. */
export type FactId = keyof typeof FACTS;

const QUANTITIES: ReadonlyMap<string, FieldWords> = new Map<string, FieldWords>([
  ...[...PART_WORDS].map(([name, word]) => [name, { word }] as const),
  ...QUANTITY_DEFINITIONS.map(({ name, word, meaning }) => [name, { word, hint: meaning, ifcName: name }] as const),
]);

/** Words of a fact. @example 'section' -> Work section */
export function nameFact(id: FactId): FieldWords {
  return FACTS[id];
}

/** Words of a quantity, or of a figure of a part: those of the catalogue, else the name it has in the file or was given. @example 'NetSideArea' -> Side area, net */
export function nameQuantity(name: string): FieldWords {
  return QUANTITIES.get(name) ?? { word: name };
}

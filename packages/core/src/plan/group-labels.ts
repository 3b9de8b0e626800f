import type { Assembly } from '../book/assembly.ts';
import { findClass, listClassPath, readClassCode, showClass } from '../book/classification.ts';
import type { Classification, CostClass } from '../book/cost-class.ts';
import type { CostItem } from '../book/cost-item.ts';
import { UNIFORMAT } from '../book/uniformat.ts';
import { sayClass } from '../elements/class-word.ts';
import { readText, readTextList } from '../elements/columns.ts';
import type { ElementTable, PropertyColumn } from '../elements/element-table.ts';
import type { PropertyValue, SourceKind } from '../elements/model-element.ts';
import { ADDED_SET } from '../elements/project-layer.ts';
import { ALLOWANCE_SECTION } from '../lists/price-allowances.ts';
import { LIST_SECTION } from '../lists/price-listed.ts';
import type { WorkSection } from '../mapping/pricing-rule.ts';
import type { PricedBlock, PricedLine } from '../pricing/price-lines.ts';
import type { RecipeStep } from '../recipes/recipe.ts';
import { type FieldWords, nameFact } from '../tables/field-catalogue.ts';
import { nameProperty } from '../tables/say-in-words.ts';
import { foldText } from '../units/fold-text.ts';
import type { PlanPart } from './plan.ts';
import type { PlanCellRow, PlanOpenRow, PlanSurplusRow } from './plan-rows.ts';

/** What a plan can be grouped by, the most usual first. */
export const GROUP_FIELDS = [
  'section',
  'storey',
  'code',
  'class',
  'type',
  'material',
  'zone',
  'kind',
  'supplier',
  'itemGroup',
  'itemClass1',
  'itemClass2',
  'itemClass3',
  'itemClass4',
  'code1',
  'code2',
  'code3',
  'room',
  'name',
  'item',
  'assembly',
  'source',
  'taxClass',
  'rule',
] as const;
type FixedGroup = (typeof GROUP_FIELDS)[number];
/** Any of them, or an attribute given here, or a property of the file by its set and name. */
export type GroupField = FixedGroup | `attribute:${string}` | `property:${string}`;

/** A field by its id in any case; null if there is none. @example 'Attribute:Penetrations' */
export function readGroupField(text: string): GroupField | null {
  const fixed = GROUP_FIELDS.find((f) => f.toLowerCase() === text.trim().toLowerCase());
  if (fixed) return fixed;
  const named = /^\s*(attribute|property)\s*:\s*(\S.*?)\s*$/i.exec(text);
  return named ? (`${named[1]!.toLowerCase()}:${named[2]}` as GroupField) : null;
}

/** Set and name of the property that a field reads; null for one of the fixed ones. */
function readPropertyField(field: GroupField): { readonly set: string; readonly name: string } | null {
  if (!field.includes(':')) return null;
  if (field.startsWith('attribute:')) return { set: ADDED_SET, name: field.slice('attribute:'.length) };
  if (!field.startsWith('property:')) return null;
  const path = field.slice('property:'.length);
  const at = path.indexOf('.');
  return { set: at < 0 ? '' : path.slice(0, at), name: path.slice(at + 1) };
}

/** What a field is called. */
export function nameGroup(field: GroupField): FieldWords {
  const property = readPropertyField(field);
  return property ? { word: nameProperty(property.name) } : nameFact(field as FixedGroup);
}

/** What stands where a field says nothing. */
export const sayNoGroup = (field: GroupField): string => NO_LABEL[field as FixedGroup] ?? `No ${nameGroup(field).word}`;

/** What stands for nothing, by field. */
const NO_LABEL: Record<FixedGroup, string> = {
  section: 'No section',
  storey: 'No storey',
  class: 'No class',
  type: 'No type',
  code: 'No code',
  material: 'No material',
  zone: 'No zone',
  kind: 'No kind',
  supplier: 'No supplier',
  itemGroup: 'No group',
  itemClass1: 'Without a class',
  itemClass2: 'Without a class',
  itemClass3: 'Without a class',
  itemClass4: 'Without a class',
  code1: 'No code',
  code2: 'No code',
  code3: 'No code',
  room: 'No room',
  name: 'No name',
  item: 'No item',
  assembly: 'Without an assembly',
  source: 'No source',
  taxClass: 'No tax class',
  rule: 'By hand',
};

/** What the groups of a plan are called by. */
export interface GroupNames {
  readonly sections: readonly WorkSection[];
  /** UNIFORMAT II if absent. */
  readonly classification?: Classification;
  /** Names of sources by their ids; those that are missing are called by what they are. */
  readonly sources?: ReadonlyMap<string, string>;
}

/** Reads group labels of one plan. */
export interface Labels {
  readonly sections: ReadonlyMap<string, string>;
  readonly sources: ReadonlyMap<string, string>;
  /** Class of an element by its own code, on one level. */
  readonly codeOf: (part: PlanPart, row: number, level: number) => string | null;
  /** Class of an item by itself, on one level; null if it has none. */
  readonly itemClassOf: (item: CostItem, level: number) => string | null;
  /** Class of a line on an element, on one level; null if it has none. */
  readonly classOf: (part: PlanPart, row: number, block: PricedBlock, line: PricedLine, level: number) => string | null;
}

export function readNames({ sections, classification = UNIFORMAT, sources = new Map() }: GroupNames): Labels {
  const codes = new Map<PricedLine, string | null>();
  const paths = new Map<string, readonly CostClass[]>();
  const show = (code: string, level: number): string => {
    const path = paths.get(code) ?? listClassPath(classification, code);
    paths.set(code, path);
    return showClass(path[Math.min(level, path.length) - 1]!);
  };
  return {
    sections: new Map(sections.map((s) => [s.id, s.name])),
    sources,
    codeOf: ({ table }, row, level) => {
      const code = readTextList(table.codes, row)[0];
      if (code === undefined) return null;
      const path = paths.get(code) ?? listClassPath(classification, code);
      return path.length > 1 || findClass(classification, code) ? show(code, level) : cutCode(code, level);
    },
    itemClassOf: ({ classes }, level) => {
      const code = readClassCode(classes, classification);
      return code === null ? null : show(code, level);
    },
    classOf: ({ table }, row, block, line, level) => {
      if (!codes.has(line)) codes.set(line, findLineClass(block, line, classification));
      // What the price says nothing about goes where the designers put the element.
      const code = codes.get(line) ?? readTextList(table.codes, row).find((c) => findClass(classification, c));
      return code === undefined ? null : show(code, level);
    },
  };
}

/** The class of a line: that of its item, else of the nearest assembly that has one. */
function findLineClass({ recipe }: PricedBlock, { item, path }: PricedLine, of: Classification): string | null {
  const own = item && readClassCode(item.item.classes, of);
  if (own) return own;
  const around: Assembly[] = [];
  for (let step: RecipeStep | undefined = recipe; step?.kind === 'assembly'; ) {
    around.unshift(step.assembly);
    const next = path[around.length];
    step = step.steps.find((s) => s.kind === 'assembly' && s.assembly.code === next);
  }
  for (const { classes } of around) {
    const code = readClassCode(classes, of);
    if (code) return code;
  }
  return null;
}

/** Sections of what prices itself. */
export const OWN_SECTIONS: readonly WorkSection[] = [LIST_SECTION, ALLOWANCE_SECTION];
const OWN_NAMES: ReadonlyMap<string, string> = new Map(OWN_SECTIONS.map((s) => [s.id, s.name]));

/** The first levels of a code that no classification explains. @example cutCode('330.10.2', 2) is 330.10 */
function cutCode(code: string, level: number): string {
  const parts = code.split(/(?<=[.\-/ ])/);
  return parts
    .slice(0, level)
    .join('')
    .replace(/[.\-/ ]$/, '');
}

const valuesOf = new WeakMap<PropertyColumn, ReadonlyMap<number, PropertyValue>>();

/** A property of an element as a label; null if it has none. Names are found in any case. */
function readProperty({ properties }: ElementTable, row: number, wanted: { set: string; name: string }): string | null {
  for (const column of properties) {
    if (foldText(column.name) !== foldText(wanted.name)) continue;
    if (wanted.set !== '' && foldText(column.set) !== foldText(wanted.set)) continue;
    const values = valuesOf.get(column) ?? new Map([...column.rows].map((r, i) => [r, column.values[i]!]));
    valuesOf.set(column, values);
    const value = values.get(row);
    if (value !== undefined) return typeof value === 'boolean' ? (value ? 'Yes' : 'No') : String(value);
  }
  return null;
}

/** What sources are called that have no name of their own. */
const SOURCE_WORDS: Readonly<Record<SourceKind, string>> = {
  model: 'Model',
  list: 'List',
  hand: 'Measured by hand',
  form: 'Rough form',
  allowance: 'Allowances',
};

const joinTexts = (list: readonly string[]) => (list.length > 0 ? list.join(' + ') : null);

/** Label of a field that elements themselves have; undefined for what only what prices them has. */
function readElementLabel(
  field: GroupField,
  part: PlanPart,
  row: number,
  room: string | null,
  labels: Labels,
): string | null | undefined {
  const { table } = part;
  const property = readPropertyField(field);
  if (property) return readProperty(table, row, property);
  switch (field) {
    case 'storey':
      return readText(table.storey, row);
    case 'class':
      return sayClass(readText(table.ifcClass, row));
    case 'type':
      return readText(table.typeName, row);
    case 'name':
      return readText(table.name, row);
    case 'code':
      return readTextList(table.codes, row)[0] ?? null;
    case 'code1':
    case 'code2':
    case 'code3':
      return labels.codeOf(part, row, Number(field.at(-1)));
    case 'material':
      return joinTexts(readTextList(table.materials, row));
    case 'zone':
      return joinTexts(readTextList(table.zones, row));
    case 'room':
      return room;
    case 'source':
      return labels.sources.get(part.sourceId) ?? SOURCE_WORDS[table.origin?.kind ?? 'model'];
    default:
      return undefined;
  }
}

/** Label of a group field for one line of one element, or the part of it that is of one kind or room; null if it has none. */
export function readGroupLabel(
  field: GroupField,
  { part, row, block, line, piece }: PlanCellRow,
  labels: Labels,
): string | null {
  const own = readElementLabel(field, part, row, piece.room, labels);
  if (own !== undefined) return own || null;
  const label = ((): string | null | undefined => {
    switch (field) {
      case 'section':
        return (
          labels.sections.get(block.mapped.section ?? '') ??
          OWN_NAMES.get(block.mapped.section ?? '') ??
          block.mapped.section
        );
      case 'kind':
        return piece.kind;
      case 'supplier':
        return line.item?.item.supplier;
      case 'item':
        return line.item ? `${line.code} ${line.item.item.description}` : line.code;
      case 'assembly':
        return block.recipe.kind === 'assembly'
          ? `${block.recipe.assembly.code} ${block.recipe.assembly.description}`
          : null;
      case 'itemGroup':
        return line.item?.item.group;
      case 'itemClass1':
      case 'itemClass2':
      case 'itemClass3':
      case 'itemClass4':
        return labels.classOf(part, row, block, line, Number(field.at(-1)));
      case 'taxClass':
        return line.item?.item.taxClass;
      case 'rule':
        return block.mapped.rule?.name;
      default:
        return null;
    }
  })();
  return label || null;
}

/** Where what is open stands when a plan is grouped by something that only a decision gives. */
const OPEN_GROUP = 'Not priced';

/** Label of a group field for an element that is open. */
export function readOpenLabel(field: GroupField, { part, row, room }: PlanOpenRow, labels: Labels): string | null {
  const own = readElementLabel(field, part, row, room, labels);
  if (own !== undefined) return own || null;
  const level = /^itemClass(\d)$/.exec(field)?.[1];
  return (level === undefined ? null : labels.codeOf(part, row, Number(level))) ?? OPEN_GROUP;
}

/** Fields that every item has a label for, if only that there is none. */
const OF_ITEM: ReadonlySet<GroupField> = new Set(['kind', 'supplier', 'itemGroup', 'taxClass', 'item']);
/** Where surplus of whole packs stands when a plan is grouped by something that it has not. */
const SURPLUS_GROUP = 'Packs and rounding';

/** Label of a group field for what of whole packs is left over: it has what its item has, and a storey if it was bought for one. */
export function readSurplusLabel(
  field: GroupField,
  { purchase: { item, storey }, piece: { kind } }: PlanSurplusRow,
  { itemClassOf }: Labels,
): string | null {
  const own: Partial<Record<GroupField, string | null | undefined>> = {
    kind,
    supplier: item.supplier,
    item: `${item.code} ${item.description}`,
    itemGroup: item.group,
    taxClass: item.taxClass,
    storey,
  };
  const level = /^itemClass(\d)$/.exec(field)?.[1];
  const label = level === undefined ? own[field] : itemClassOf(item, Number(level));
  return label || (OF_ITEM.has(field) ? null : SURPLUS_GROUP);
}

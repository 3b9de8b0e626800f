import type { Assembly } from '../book/assembly.ts';
import { findClass, listClassPath, readClassCode, showClass } from '../book/classification.ts';
import type { Classification, CostClass } from '../book/cost-class.ts';
import type { CostItem } from '../book/cost-item.ts';
import { UNIFORMAT } from '../book/uniformat.ts';
import { sayClass } from '../elements/class-word.ts';
import { readText, readTextList } from '../elements/columns.ts';
import { ALLOWANCE_SECTION } from '../lists/price-allowances.ts';
import { LIST_SECTION } from '../lists/price-listed.ts';
import type { WorkSection } from '../mapping/pricing-rule.ts';
import type { PricedBlock, PricedLine } from '../pricing/price-lines.ts';
import type { Purchase } from '../pricing/purchases.ts';
import type { RecipeStep } from '../recipes/recipe.ts';
import type { PlanPart } from './plan.ts';
import type { KindPart } from './split-by-kind.ts';

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
  'taxClass',
  'rule',
] as const;
export type GroupField = (typeof GROUP_FIELDS)[number];

/** What stands for nothing, by field. */
export const NO_LABEL: Record<GroupField, string> = {
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
  taxClass: 'No tax class',
  rule: 'By hand',
};

/** What the groups of a plan are called by. */
export interface GroupNames {
  readonly sections: readonly WorkSection[];
  /** UNIFORMAT II if absent. */
  readonly classification?: Classification;
}

/** Reads group labels of one plan. */
export interface Labels {
  readonly sections: ReadonlyMap<string, string>;
  /** Class of an item by itself, on one level; null if it has none. */
  readonly itemClassOf: (item: CostItem, level: number) => string | null;
  /** Class of a line on an element, on one level; null if it has none. */
  readonly classOf: (part: PlanPart, row: number, block: PricedBlock, line: PricedLine, level: number) => string | null;
}

export function readNames({ sections, classification = UNIFORMAT }: GroupNames): Labels {
  const codes = new Map<PricedLine, string | null>();
  const paths = new Map<string, readonly CostClass[]>();
  const show = (code: string, level: number): string => {
    const path = paths.get(code) ?? listClassPath(classification, code);
    paths.set(code, path);
    return showClass(path[Math.min(level, path.length) - 1]!);
  };
  return {
    sections: new Map(sections.map((s) => [s.id, s.name])),
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
const OWN_SECTIONS: ReadonlyMap<string, string> = new Map([LIST_SECTION, ALLOWANCE_SECTION].map((s) => [s.id, s.name]));

/** Label of a group field for one line of one element, or the part of it that is of one kind; null if it has none. */
export function readGroupLabel(
  field: GroupField,
  part: PlanPart,
  row: number,
  block: PricedBlock,
  line: PricedLine,
  { kind }: KindPart,
  labels: Labels,
): string | null {
  const { table } = part;
  const first = (list: string[]) => (list.length > 0 ? list.join(' + ') : null);
  const label = ((): string | null | undefined => {
    switch (field) {
      case 'section':
        return (
          labels.sections.get(block.mapped.section ?? '') ??
          OWN_SECTIONS.get(block.mapped.section ?? '') ??
          block.mapped.section
        );
      case 'storey':
        return readText(table.storey, row);
      case 'class':
        return sayClass(readText(table.ifcClass, row));
      case 'type':
        return readText(table.typeName, row);
      case 'code':
        return readTextList(table.codes, row)[0];
      case 'material':
        return first(readTextList(table.materials, row));
      case 'zone':
        return first(readTextList(table.zones, row));
      case 'kind':
        return kind;
      case 'supplier':
        return line.item?.item.supplier;
      case 'itemGroup':
        return line.item?.item.group;
      case 'itemClass1':
      case 'itemClass2':
      case 'itemClass3':
        return labels.classOf(part, row, block, line, Number(field.at(-1)));
      case 'taxClass':
        return line.item?.item.taxClass;
      case 'rule':
        return block.mapped.rule?.name;
    }
  })();
  return label || null;
}

/** Fields that every item has a label for, if only that there is none. */
const OF_ITEM: ReadonlySet<GroupField> = new Set(['kind', 'supplier', 'itemGroup', 'taxClass']);
/** Where surplus of whole packs stands when a plan is grouped by something that it has not. */
const SURPLUS_GROUP = 'Packs and rounding';

/** Label of a group field for what of whole packs is left over: it has what its item has, and a storey if it was bought for one. */
export function readSurplusLabel(
  field: GroupField,
  { item, storey }: Purchase,
  { kind }: KindPart,
  { itemClassOf }: Labels,
): string | null {
  const own: Partial<Record<GroupField, string | null | undefined>> = {
    kind,
    supplier: item.supplier,
    itemGroup: item.group,
    taxClass: item.taxClass,
    storey,
  };
  const level = /^itemClass(\d)$/.exec(field)?.[1];
  const label = level === undefined ? own[field] : itemClassOf(item, Number(level));
  return label || (OF_ITEM.has(field) ? null : SURPLUS_GROUP);
}

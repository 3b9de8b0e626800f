/**
 * What a condition looks at. `property` is "Set.Name" (the set may be left out); `quantity` a quantity name; `finish` a surface; `layer` one of
 * LAYER_FACTS; `part` and `host` one of RELATED_FACTS of the whole that it is a part of, or of what hosts it.
 */
export const CONDITION_FIELDS = [
  'class',
  'type',
  'name',
  'tag',
  'material',
  'layer',
  'storey',
  'room',
  'zone',
  'code',
  'property',
  'quantity',
  'finish',
  'style',
  'globalId',
  'part',
  'whole',
  'host',
  'source',
] as const;
export type ConditionField = (typeof CONDITION_FIELDS)[number];

/** What of a layer a condition can ask for; its material if nothing is said. */
export const LAYER_FACTS = ['material', 'function', 'thickness'] as const;
/** What of a whole or a host a condition can ask for; whether there is one if nothing is said. */
export const RELATED_FACTS = ['class', 'type', 'name', 'material', 'storey'] as const;

export const CONDITION_OPERATORS = ['is', 'contains', 'oneOf', 'range', 'missing', 'present'] as const;
export type ConditionOperator = (typeof CONDITION_OPERATORS)[number];

/**
 * One test on an element. Texts are compared without regard to case, accents and spaces; `*` and `?` are wildcards.
 * `class` catches subtypes too. `style` is the surface style of any of its faces, `layer` any of its layers, `room` what the room it is or lies in is called.
 * `part` is present if the element is a part of a whole, `whole` if it has parts, `host` if something hosts it. `source` is the kind of
 * source: model, list, hand, form or allowance.
 */
export interface FieldCondition {
  readonly field: ConditionField;
  /** Name of the property or quantity, the surface of a finish (floor, wall, ceiling, skirting), or a fact of a layer, a whole or a host. */
  readonly of?: string;
  readonly op: ConditionOperator;
  readonly value?: string | number | boolean;
  readonly values?: readonly (string | number | boolean)[];
  /** Bounds of `range`, SI, both included. */
  readonly min?: number;
  readonly max?: number;
}

/** A scope: one test, or several joined. An empty `all` catches every element, an empty `any` none. */
export type Condition =
  | FieldCondition
  | { readonly all: readonly Condition[] }
  | { readonly any: readonly Condition[] }
  | { readonly not: Condition }
  /** A named scope by its id; what it stands for and its name where these were looked up (`resolveScope`), else it catches nothing. */
  | { readonly named: string; readonly title?: string; readonly is?: Condition };

const OPERATOR_WORDS: Record<ConditionOperator, string> = {
  is: 'is',
  contains: 'contains',
  oneOf: 'is one of',
  range: 'is within',
  missing: 'is missing',
  present: 'is present',
};

/** A condition as a readable sentence: `class is IfcWall and material contains brick`. */
export function describeCondition(condition: Condition, nested = false): string {
  const wrap = (text: string, many: boolean) => (nested && many ? `(${text})` : text);
  if ('all' in condition) {
    if (condition.all.length === 0) return 'every element';
    return wrap(
      condition.all.map((c) => describeCondition(c, condition.all.length > 1)).join(' and '),
      condition.all.length > 1,
    );
  }
  if ('any' in condition) {
    if (condition.any.length === 0) return 'no element';
    return wrap(
      condition.any.map((c) => describeCondition(c, condition.any.length > 1)).join(' or '),
      condition.any.length > 1,
    );
  }
  if ('named' in condition) return condition.is ? `"${condition.title}"` : `a named scope that there is no more (${condition.named})`; // biome-ignore format: one line
  if ('not' in condition) return `not ${describeCondition(condition.not, true)}`;
  const { field, of, op, value, values, min, max } = condition;
  const subject =
    field === 'finish'
      ? `${of ?? 'floor'} finish`
      : field === 'layer' || field === 'host' || field === 'part'
        ? `${field === 'part' && of ? 'whole' : field}${of ? ` ${of}` : ''}`
        : (of ?? field);
  const object =
    op === 'oneOf'
      ? (values ?? []).join(', ')
      : op === 'range'
        ? `${min ?? '…'} to ${max ?? '…'}`
        : op === 'missing' || op === 'present'
          ? ''
          : String(value ?? '');
  return `${subject} ${OPERATOR_WORDS[op]} ${object}`.trim();
}

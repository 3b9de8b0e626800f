import { z } from 'zod';
import { chooseClassification } from '../book/classification.ts';
import { ITEM_KINDS } from '../book/item-kind.ts';
import { parseRate } from '../book/parse-rate.ts';
import { DECIDED_PARTS } from '../elements/decided-parts.ts';
import { ALSO_FOR } from '../mapping/pricing-rule.ts';
import type { PricingBasis } from '../pipeline.ts';
import { failure, type Result, success } from '../result/result.ts';
import { CONDITION_FIELDS, CONDITION_OPERATORS, type Condition } from '../scopes/condition.ts';
import { resolveScopes } from '../scopes/named-scope.ts';
import { findExcess } from '../scopes/scope-size.ts';
import { entryKey } from '../units/code-key.ts';
import {
  assemblySchema,
  bandSchema,
  classificationSchema,
  code,
  costItemSchema,
  formula,
  namedValueSchema,
  scaleSchema,
} from './book-schemas.ts';
import { allowanceSchema } from './lists.ts';
import { targetSchema } from './target.ts';

const scalar = z.union([z.string(), z.number(), z.boolean()]);
const fieldConditionSchema = z.strictObject({
  field: z.enum(CONDITION_FIELDS),
  of: z.string().optional().describe('Name of the property ("Set.Name") or quantity.'),
  op: z.enum(CONDITION_OPERATORS),
  value: scalar.optional(),
  values: z.array(scalar).optional(),
  min: z.number().optional(),
  max: z.number().optional(),
});

const anyCondition: z.ZodType<Condition> = z
  .lazy(() =>
    z.union([
      fieldConditionSchema,
      z.strictObject({ all: z.array(anyCondition) }),
      z.strictObject({ any: z.array(anyCondition) }),
      z.strictObject({ not: anyCondition }),
      z.strictObject({ named: z.string().min(1).max(80).describe('Id of a named scope of the project.') }),
    ]),
  )
  .meta({ id: 'Condition', description: 'Which elements are caught.' });

/** A scope as it comes from outside: looked through for its size before it is read. */
export const conditionSchema: z.ZodType<Condition> = z.preprocess((value, context) => {
  const excess = findExcess(value);
  if (excess === null) return value;
  context.addIssue({ code: 'custom', message: excess });
  return z.NEVER;
}, anyCondition) as unknown as z.ZodType<Condition>;

const pricedWith = {
  item: code.optional(),
  assembly: code.optional(),
  driver: formula.optional().describe('Formula of the driving quantity.'),
  parameters: z.record(z.string(), formula).optional(),
  swaps: z.record(z.string().max(80), code).optional().describe('Items that others take the place of, by code.'),
  leaveOut: z.string().min(1, 'Say why it is left out.').max(500).optional(),
};
const saysOne = (r: { item?: string; assembly?: string; leaveOut?: string }) =>
  [r.item, r.assembly, r.leaveOut].filter((v) => v !== undefined).length === 1;
const SAY_ONE = { error: 'Say one of: item, assembly, leaveOut.' };

export const ruleSchema = z
  .strictObject({
    id: code,
    name: z.string().min(1).max(200),
    scope: conditionSchema,
    section: z.string().optional(),
    about: z
      .enum(DECIDED_PARTS)
      .optional()
      .describe('What it decides about: single layers, face styles or finishes; the elements themselves if absent.'),
    also: z
      .array(z.enum(ALSO_FOR))
      .min(1)
      .readonly()
      .optional()
      .describe(
        'Whom it speaks for too, where nothing that catches them says otherwise: parts in place of their whole.',
      ),
    forType: z.boolean().optional(),
    isOff: z.boolean().optional(),
    mayBeIdle: z
      .boolean()
      .optional()
      .describe('Made for any building: that it catches nothing in this one is no fault.'),
    ...pricedWith,
  })
  .refine(saysOne, SAY_ONE)
  .refine((r) => r.leaveOut !== undefined || (r.section !== undefined && r.driver !== undefined), {
    error: 'A rule that prices needs a section and a driver.',
  })
  .refine((r) => r.about === undefined || r.also === undefined, {
    error: 'A rule about layers, faces or finishes hands nothing down.',
  })
  .describe('Scope + work section + what it is priced with + driver.');

export const pinSchema = z
  .strictObject({
    id: code,
    element: z.number().int(),
    section: z.string(),
    about: z.enum(DECIDED_PARTS).optional(),
    of: z.string().max(500).optional(),
    ...pricedWith,
  })
  .refine(saysOne, SAY_ONE)
  .refine((p) => (p.about === undefined) === (p.of === undefined), {
    error: 'A decision about layers, faces or finishes says of which.',
  })
  .describe('A decision for one element, or for what of it is called one way.');

export const sectionSchema = z.strictObject({ id: code, name: z.string().min(1) }).describe('Work section.');

export const scopeSchema = z
  .strictObject({ id: code, name: z.string().trim().min(1, 'A scope needs a name.').max(120), scope: conditionSchema })
  .describe('A scope with a name, for rules and tables to use.');

export const expectedSchema = z
  .strictObject({
    ifcClass: z.string().regex(/^Ifc[A-Za-z]{2,80}$/, 'A class is one of IFC, e.g. IfcWall.'),
    sections: z.array(z.string().min(1)).min(1).max(60),
  })
  .describe('Work sections that every element of a class is to be priced in.');

const currencyCode = z.string().regex(/^[A-Z]{3}$/, 'A currency is three capital letters, e.g. EUR.');
const factorHead = {
  name: z.string().trim().min(1, 'A factor needs a name.').max(80),
  kinds: z.array(z.enum(ITEM_KINDS)).min(1).readonly().optional(),
};

export const settingsSchema = z.strictObject({
  currency: currencyCode,
  units: z.enum(['metric', 'imperial', 'both']).default('metric'),
  quantityChoices: z
    .record(z.string(), z.enum(['best', 'measured', 'stated']))
    .optional()
    .describe('Which figure is used, by quantity name; the better one where nothing is said.'),
  quantityOverrides: z
    .array(
      z.strictObject({
        quantity: z.string().min(1),
        choice: z.enum(['best', 'measured', 'stated']),
        scope: conditionSchema,
      }),
    )
    .max(50)
    .optional()
    .describe('Which figure is used for the elements of a scope; the first that catches an element counts.'),
  statedTolerance: z
    .number()
    .min(0.0001, 'A tolerance is more than 0.')
    .max(1)
    .optional()
    .describe('Share that a stated figure may differ from the measured one by without a finding; 0.01 if absent.'),
  overlapShare: z
    .number()
    .min(0.02, 'Bodies that share less than 2 % only touch.')
    .max(1)
    .optional()
    .describe('Share of the smaller body that two bodies may share without a finding; 0.2 if absent.'),
  belowStoreyM: z
    .number()
    .min(0)
    .max(50)
    .optional()
    .describe('How far an element may hang below the level of its storey without a finding, m; 1 if absent.'),
  factors: z
    .array(
      z.union([
        z.strictObject({ ...factorHead, percent: z.number().min(-90).max(900) }),
        z.strictObject({
          ...factorHead,
          percentPerYear: z.number().min(-50).max(100),
          from: z.iso.date(),
          to: z.iso.date(),
        }),
      ]),
    )
    .max(30)
    .optional()
    .describe('What rates are multiplied by, per kind of cost: a region, escalation to a date.'),
  exchange: z
    .array(
      z.strictObject({
        currency: currencyCode,
        rate: z
          .string()
          .refine((r) => parseRate(r).ok && Number(r) > 0, { error: 'A rate of exchange is more than 0.' }),
        date: z.iso.date(),
      }),
    )
    .max(20)
    .optional()
    .describe('What one of another currency is in that of the project.'),
  classification: z.string().max(120).optional().describe('Name of the classification in use; UNIFORMAT II if absent.'),
  keptOut: z.boolean().optional().describe('What it decides is not suggested to other projects.'),
  functionalUnits: z
    .array(z.strictObject({ name: z.string().trim().min(1, 'A unit needs a name.').max(80), scope: conditionSchema }))
    .max(30)
    .optional()
    .describe('What is counted for costs per unit: rooms of a use, seats, racks.'),
});

/** What a file of a template says it is. */
export const TEMPLATE_FORMAT = 'crisp-tally-template/1';

export const templateSchema = z
  .strictObject({
    format: z.literal(TEMPLATE_FORMAT),
    name: z.string(),
    settings: settingsSchema,
    sections: z.array(sectionSchema),
    items: z.array(costItemSchema),
    assemblies: z.array(assemblySchema),
    values: z.array(namedValueSchema).default([]),
    scales: z.array(scaleSchema).default([]),
    classifications: z.array(classificationSchema).default([]),
    rules: z.array(ruleSchema),
    scopes: z.array(scopeSchema).max(500).optional().describe('Scopes with a name that rules use.'),
    expected: z
      .array(expectedSchema)
      .max(300)
      .optional()
      .describe('Sections that classes are expected to be priced in.'),
    bands: z.array(bandSchema).max(1000).optional().describe('What classes and element codes usually cost per unit.'),
    targets: z
      .array(targetSchema)
      .max(200)
      .optional()
      .describe('What the client wants to spend, for the whole or for groups.'),
    allowances: z
      .array(allowanceSchema)
      .max(200)
      .optional()
      .describe('Costs without an object: once, by time, by floor area, by the unit.'),
  })
  .describe('Items, assemblies, rules and settings that price a model.');

export type Template = z.infer<typeof templateSchema>;

/** Checks a template. Errors: `template-invalid` with the path of the first fault, e.g. `items[3].unit`; `template-duplicate`. */
export function readTemplate(value: unknown): Result<Template> {
  const parsed = templateSchema.safeParse(value);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    const path = issue.path
      .map((p) => (typeof p === 'number' ? `[${p}]` : `.${String(p)}`))
      .join('')
      .replace(/^\./, '');
    return failure('template-invalid', `Template, ${path || 'top level'}: ${issue.message}`, {
      path,
      remedy: 'Compare with docs/template.schema.json.',
    });
  }
  for (const [list, key, kind] of [
    ['items', 'code', 'item'],
    ['assemblies', 'code', 'assembly'],
    ['rules', 'id', 'rule'],
    ['sections', 'id', 'section'],
    ['values', 'name', 'value'],
    ['scales', 'name', 'scale'],
    ['classifications', 'name', 'classification'],
    ['scopes', 'id', 'scope'],
    ['expected', 'ifcClass', 'expected'],
    ['allowances', 'code', 'allowance'],
  ] as const) {
    const seen = new Set<string>();
    for (const [i, entry] of (parsed.data[list] ?? []).entries()) {
      const own = String((entry as Record<string, unknown>)[key]);
      const id = entryKey(kind, own);
      if (seen.has(id))
        return failure(
          'template-duplicate',
          `Template, ${list}[${i}]: "${own}" is there twice, or something too alike.`,
          {
            path: `${list}[${i}]`,
            remedy: 'Rename or remove one.',
          },
        );
      seen.add(id);
    }
  }
  return success(parsed.data);
}

/** The basis that a template prices with; it has no pins. */
export function templateToBasis(template: Template): PricingBasis {
  const {
    settings,
    sections,
    items,
    assemblies,
    values,
    scales,
    classifications,
    scopes = [],
    expected,
    bands,
    targets,
  } = template;
  const { currency, factors, exchange } = settings;
  const classification = chooseClassification(settings.classification, classifications);
  return {
    currency,
    factors,
    exchange,
    sections,
    items,
    assemblies,
    values,
    scales,
    rules: resolveScopes(template.rules, scopes),
    scopes,
    classification,
    expected,
    bands,
    targets,
    pins: [],
  };
}

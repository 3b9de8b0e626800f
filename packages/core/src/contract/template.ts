import { z } from 'zod';
import { isSharedRun, LINE_RUNS } from '../book/assembly.ts';
import { chooseClassification } from '../book/classification.ts';
import { ITEM_KINDS, MOST_WASTE } from '../book/cost-item.ts';
import { isWholeSplit } from '../book/kind-split.ts';
import type { Entry } from '../changes/entry-diff.ts';
import type { PricingBasis } from '../pipeline.ts';
import { parseRate } from '../pricing/money.ts';
import { failure, type Result, success } from '../result/result.ts';
import { CONDITION_FIELDS, CONDITION_OPERATORS, type Condition } from '../scopes/condition.ts';
import { parseUnit } from '../units/unit.ts';

const code = z.string().trim().min(1).max(60).describe('Code, unique in its list; case does not matter.');
const formula = z.string().max(2000).describe('Formula; see docs/formulas.md.');
export const unit = z
  .string()
  .refine((u) => parseUnit(u).ok, {
    error: 'There is no such unit. Use for example each, m, m2, m3, kg, h; case matters.',
  })
  .describe('Unit symbol, e.g. m2.');
const isLength = (text: string): boolean => {
  const read = parseUnit(text);
  return read.ok && read.value.dimension.length === 1;
};
const word = z
  .string()
  .regex(/^\p{L}[\p{L}\p{N}_]*$/u, 'Such a name is one word.')
  .max(60);
const classCodes = z
  .record(z.string().min(1).max(120), z.string().trim().min(1).max(60))
  .optional()
  .describe('Codes in classifications, by their names.');
const percent = z
  .number()
  .min(0, 'Waste cannot be negative.')
  .max(MOST_WASTE, `Waste above ${MOST_WASTE} % is taken for a slip.`)
  .describe('Per cent of the net quantity.');

const soldAsSchema = z
  .strictObject({
    pack: z
      .number()
      .positive('A pack holds more than 0.')
      .optional()
      .describe('Size of a pack in the unit of the item.'),
    lengths: z.array(z.number().positive('A length is more than 0.')).min(1).max(20).optional(),
    packPrice: z
      .string()
      .refine((r) => parseRate(r).ok, { error: 'A price is a figure such as 12.50.' })
      .optional()
      .describe('Price of one pack; the rate follows from it.'),
    lengthPrices: z
      .array(z.string().refine((r) => parseRate(r).ok, { error: 'A price is a figure such as 12.50.' }))
      .optional()
      .describe('Price of a piece of each length, in their order; the rate follows from the longest.'),
    perStorey: z.boolean().optional().describe('Packs are made up for each storey.'),
  })
  .refine((s) => (s.pack === undefined) !== (s.lengths === undefined), {
    error: 'An item is sold in packs or in lengths.',
  })
  .refine((s) => s.packPrice === undefined || s.pack !== undefined, { error: 'A price per pack needs its size.' })
  .refine((s) => s.lengthPrices === undefined || s.lengthPrices.length === s.lengths?.length, {
    error: 'Every length has a price, or none has.',
  })
  .describe('How it is sold: whole packs, or pieces of certain lengths.');

export const costItemSchema = z
  .strictObject({
    code,
    description: z.string().max(500),
    kind: z.enum(ITEM_KINDS),
    unit,
    rate: z
      .string()
      .refine((r) => parseRate(r).ok, { error: 'A rate is a figure such as 12.50.' })
      .nullable()
      .describe('Decimal in the project currency per unit; null while there is none.'),
    currency: z
      .string()
      .regex(/^[A-Z]{3}$/, 'A currency is three capital letters, e.g. EUR.')
      .optional()
      .describe('Currency of the rate where it is not that of the project.'),
    soldAs: soldAsSchema.optional(),
    wastePercent: percent.optional(),
    group: z.string().max(120).optional(),
    supplier: z.string().max(120).optional(),
    source: z.string().max(300).optional().describe('Where the rate comes from.'),
    date: z.iso.date().optional().describe('Date of the rate.'),
    rateFormula: formula
      .min(1)
      .optional()
      .describe(
        'Instead of `rate`: a formula in the project currency per unit, of named values, scales and quantities.',
      ),
    taxClass: z.string().trim().max(60).optional().describe('Class of tax, in the words of the office.'),
    densityKgM3: z
      .number()
      .positive('A density is more than 0 kg/m3.')
      .max(30000, 'No building material is that heavy.')
      .optional()
      .describe('Of a material, kg/m3; formulas of its lines read it as ItemDensity.'),
    split: z
      .partialRecord(z.enum(ITEM_KINDS), z.number().positive().max(100))
      .refine(isWholeSplit, { error: 'A split adds up to 100 %.' })
      .optional()
      .describe('Per cent of an all-in rate by kind of cost.'),
    classes: classCodes,
    notes: z.string().max(2000).optional(),
  })
  .refine((i) => i.soldAs?.lengths === undefined || isLength(i.unit), {
    error: 'Only what is measured in a length is sold in lengths.',
  })
  .describe('A thing with a price.');

export const assemblySchema = z
  .strictObject({
    code,
    description: z.string().max(500),
    unit: unit.describe('Unit of the driver.'),
    group: z.string().max(120).optional(),
    classes: classCodes,
    parameters: z
      .array(
        z.strictObject({
          name: word,
          unit,
          value: formula,
          choices: z.array(formula.min(1)).min(1).max(30).optional().describe('What a rule can choose from.'),
          note: z.string().optional(),
        }),
      )
      .optional(),
    lines: z.array(
      z
        .strictObject({
          item: code.optional(),
          assembly: code.optional(),
          name: word.optional().describe('Name of its result for other lines of the assembly.'),
          quantity: formula.optional(),
          consumption: z
            .string()
            .min(1)
            .max(200)
            .optional()
            .describe(
              'Instead of `quantity`, as people say it: "34 each per m2", "1 roll covers 9.2 m2", "5.5 m per hour".',
            ),
          of: formula.optional().describe('What the consumption goes by; the driver if absent.'),
          piece: formula.optional().describe('Length of one piece, where the item is sold in lengths.'),
          per: z
            .enum(LINE_RUNS)
            .optional()
            .describe(
              'Runs once for each opening, layer or junction, the results are added up; or once for all elements of a room or of the project, whose figures are added up.',
            ),
          crew: z
            .number()
            .positive()
            .max(50)
            .optional()
            .describe('People who work together, where hours are those of a crew.'),
          when: formula.optional(),
          wastePercent: percent.optional(),
          note: z.string().optional(),
        })
        .refine((l) => (l.item === undefined) !== (l.assembly === undefined), {
          error: 'A line has either an item or an assembly.',
        })
        .refine((l) => (l.quantity === undefined) !== (l.consumption === undefined), {
          error: 'A line has either a formula or a consumption.',
        })
        .refine((l) => l.assembly === undefined || !isSharedRun(l.per), {
          error: 'A line with an assembly does not run once for several elements; let the lines inside it run so.',
        }),
    ),
  })
  .describe('Turns one measured thing into many priced ones.');

export const namedValueSchema = z
  .strictObject({
    name: z
      .string()
      .trim()
      .regex(/^\p{L}[\p{L}\p{N}_ ]*$/u, 'A name begins with a letter and has letters, digits and spaces only.')
      .max(60),
    unit: unit.describe('Unit of the figure, e.g. EUR/day.'),
    value: formula.min(1, 'A value needs a figure.').describe('A figure in the unit, or a formula of named values.'),
    note: z.string().max(500).optional(),
  })
  .describe('A figure or price with a name, used in formulas and rates.');

export const classificationSchema = z
  .strictObject({
    name: z.string().trim().min(1, 'A classification needs a name.').max(120),
    classes: z
      .array(z.strictObject({ code: z.string().trim().min(1).max(60), title: z.string().max(300) }))
      .min(1, 'A classification has at least one class.')
      .max(20_000),
  })
  .describe('A coding system that items and assemblies are sorted by.');

const scaleRange = z
  .strictObject({ from: z.number().optional(), to: z.number().optional() })
  .describe('From (inclusive) and to (exclusive) in the unit of the key; an absent end is open.');

export const scaleSchema = z
  .strictObject({
    name: z.string().trim().min(1, 'A scale needs a name.').max(60),
    unit: unit.describe('Unit of what it gives.'),
    keys: z
      .array(
        z.strictObject({
          name: z.string().trim().min(1).max(60),
          unit: unit.optional().describe('Unit of the figures it is looked up by; absent for texts.'),
          step: z.number().positive('A step is more than 0.').optional().describe('Started steps count whole.'),
        }),
      )
      .min(1)
      .max(2),
    rows: z
      .array(
        z.strictObject({
          at: z
            .array(z.union([scaleRange, z.string().max(200)]))
            .min(1)
            .max(2),
          value: z.number(),
        }),
      )
      .max(500),
    isSliced: z.boolean().optional().describe('Each slice at the value of its own range.'),
    note: z.string().max(500).optional(),
  })
  .refine((s) => s.rows.every((r) => r.at.length === s.keys.length), {
    error: 'Every row says something for each key.',
  })
  .describe('A figure looked up by one or two others.');

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

export const conditionSchema: z.ZodType<Condition> = z
  .lazy(() =>
    z.union([
      fieldConditionSchema,
      z.strictObject({ all: z.array(conditionSchema) }),
      z.strictObject({ any: z.array(conditionSchema) }),
      z.strictObject({ not: conditionSchema }),
    ]),
  )
  .meta({ id: 'Condition', description: 'Which elements are caught.' });

const pricedWith = {
  item: code.optional(),
  assembly: code.optional(),
  driver: formula.optional().describe('Formula of the driving quantity.'),
  parameters: z.record(z.string(), formula).optional(),
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
    forType: z.boolean().optional(),
    isOff: z.boolean().optional(),
    ...pricedWith,
  })
  .refine(saysOne, SAY_ONE)
  .refine((r) => r.leaveOut !== undefined || (r.section !== undefined && r.driver !== undefined), {
    error: 'A rule that prices needs a section and a driver.',
  })
  .describe('Scope + work section + what it is priced with + driver.');

export const pinSchema = z
  .strictObject({ id: code, element: z.number().int(), section: z.string(), ...pricedWith })
  .refine(saysOne, SAY_ONE)
  .describe('A decision for one element.');

export const sectionSchema = z.strictObject({ id: code, name: z.string().min(1) }).describe('Work section.');

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
  functionalUnits: z
    .array(z.strictObject({ name: z.string().trim().min(1, 'A unit needs a name.').max(80), scope: conditionSchema }))
    .max(30)
    .optional()
    .describe('What is counted for costs per unit: rooms of a use, seats, racks.'),
});

export const templateSchema = z
  .strictObject({
    format: z.literal('crisp-tally-template/1'),
    name: z.string(),
    settings: settingsSchema,
    sections: z.array(sectionSchema),
    items: z.array(costItemSchema),
    assemblies: z.array(assemblySchema),
    values: z.array(namedValueSchema).default([]),
    scales: z.array(scaleSchema).default([]),
    classifications: z.array(classificationSchema).default([]),
    rules: z.array(ruleSchema),
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
  for (const [list, key] of [
    ['items', 'code'],
    ['assemblies', 'code'],
    ['rules', 'id'],
    ['sections', 'id'],
    ['values', 'name'],
    ['scales', 'name'],
    ['classifications', 'name'],
  ] as const) {
    const seen = new Set<string>();
    for (const [i, entry] of parsed.data[list].entries()) {
      const id = String((entry as Record<string, unknown>)[key]).toLowerCase();
      if (seen.has(id))
        return failure('template-duplicate', `Template, ${list}[${i}]: "${id}" is there twice.`, {
          path: `${list}[${i}]`,
          remedy: 'Rename or remove one.',
        });
      seen.add(id);
    }
  }
  return success(parsed.data);
}

/** The basis that a template prices with; it has no pins. */
export function templateToBasis(template: Template): PricingBasis {
  const { settings, sections, items, assemblies, values, scales, rules, classifications } = template;
  const { currency, factors, exchange } = settings;
  const classification = chooseClassification(settings.classification, classifications);
  return { currency, factors, exchange, sections, items, assemblies, values, scales, rules, classification, pins: [] };
}

/** A template as entries of a project. */
export function templateToEntries(template: Template): Entry[] {
  const { settings, sections, items, assemblies, values, scales, rules, classifications } = template;
  return [
    { kind: 'settings', id: 'project', body: settings },
    ...items.map((body) => ({ kind: 'item', id: body.code, body })),
    ...assemblies.map((body) => ({ kind: 'assembly', id: body.code, body })),
    ...values.map((body) => ({ kind: 'value', id: body.name, body })),
    ...scales.map((body) => ({ kind: 'scale', id: body.name, body })),
    ...classifications.map((body) => ({ kind: 'classification', id: body.name, body })),
    ...sections.map((body) => ({ kind: 'section', id: body.id, body })),
    ...rules.map((body) => ({ kind: 'rule', id: body.id, body })),
    { kind: 'order', id: 'sections', body: sections.map((s) => s.id) },
    { kind: 'order', id: 'rules', body: rules.map((r) => r.id) },
  ];
}

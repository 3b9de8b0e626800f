import { z } from 'zod';
import { isSharedRun, LINE_RUNS, TEXT_UNIT } from '../book/assembly.ts';
import { MOST_WASTE } from '../book/cost-item.ts';
import { ITEM_KINDS } from '../book/item-kind.ts';
import { isWholeSplit } from '../book/kind-split.ts';
import { parseRate } from '../book/parse-rate.ts';
import { FLOOR_AREA } from '../book/price-band.ts';
import { nameKey } from '../units/code-key.ts';
import { parseUnit } from '../units/unit.ts';

export const code = z
  .string()
  .trim()
  .min(1)
  .max(60)
  .describe('Code, unique in its list; codes that differ in capital letters only are refused.');
export const formula = z.string().max(2000).describe('Formula; see docs/formulas.md.');
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
  .regex(/^\p{L}[\p{L}\p{M}\p{N}_]*$/u, 'Such a name is one word.')
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

const isPrice = (text: string): boolean => {
  const read = parseRate(text);
  return read.ok && read.value >= 0;
};
/** A rate that cannot be read is told of elsewhere. */
const isRateSignRight = (text: string, isDeduction: boolean): boolean => {
  const read = parseRate(text);
  return !read.ok || (isDeduction ? read.value <= 0 : read.value >= 0);
};

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
      .refine(isPrice, { error: 'A price is a figure such as 12.50, not below 0.' })
      .optional()
      .describe('Price of one pack; the rate follows from it.'),
    lengthPrices: z
      .array(z.string().refine(isPrice, { error: 'A price is a figure such as 12.50, not below 0.' }))
      .optional()
      .describe('Price of a piece of each length, in their order; the rate follows from the longest.'),
    cut: z
      .strictObject({
        kerf: z.number().min(0, 'A cut takes away 0 or more.').max(1000).optional(),
        keepOver: z.number().positive('An offcut that is kept is longer than 0.').optional(),
        joined: z.boolean().optional(),
      })
      .optional()
      .describe(
        'Of lengths: pieces are cut by a list over all of them, and that is what is bought. In the unit of the item.',
      ),
    perStorey: z.boolean().optional().describe('Packs are made up for each storey.'),
  })
  .refine((s) => (s.pack === undefined) !== (s.lengths === undefined), {
    error: 'An item is sold in packs or in lengths.',
  })
  .refine((s) => s.cut === undefined || s.lengths !== undefined, { error: 'Only lengths are cut by a list.' })
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
    isDeduction: z.boolean().optional().describe('It is taken off: its rate is below 0.'),
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
  .refine((i) => i.rate === null || isRateSignRight(i.rate, i.isDeduction === true), {
    error: 'A rate is not below 0, unless the item is a deduction; that of a deduction is not above 0.',
    path: ['rate'],
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
          unit: z
            .string()
            .refine((u) => u === TEXT_UNIT || parseUnit(u).ok, {
              error: `There is no such unit; for a text write ${TEXT_UNIT}.`,
            })
            .describe('Unit of a figure, or "text".'),
          value: formula,
          choices: z.array(formula.min(1)).min(1).max(30).optional().describe('What a rule can choose from.'),
          note: z.string().optional(),
        }),
      )
      .refine((list) => new Set(list.map((p) => nameKey(p.name))).size === list.length, {
        error: 'Two parameters have one name; capital letters do not tell them apart.',
      })
      .optional(),
    lines: z.array(
      z
        .strictObject({
          id: z
            .string()
            .min(1)
            .max(200)
            .optional()
            .describe(
              'Its own, kept for ever; the code of its item or assembly with its ordinal among equals if absent.',
            ),
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
          parameters: z
            .record(z.string(), formula)
            .optional()
            .describe('Parameters handed to the assembly of the line, as formulas of this assembly.'),
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
      .regex(/^\p{L}[\p{L}\p{M}\p{N}_ ]*$/u, 'A name begins with a letter and has letters, digits and spaces only.')
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

const money = z.string().refine((text) => parseRate(text).ok && Number(text) >= 0, { error: 'A price is 0 or more.' });

export const bandSchema = z
  .strictObject({
    of: z.string().trim().min(1, 'Say the class or the element code.').max(80),
    unit: z.enum(['m2', 'm3', 'm', 'kg', 'each', FLOOR_AREA]),
    low: money,
    usual: money,
    high: money,
    currency: z
      .string()
      .regex(/^[A-Z]{3}$/)
      .optional(),
    note: z.string().max(300).optional(),
  })
  .refine((b) => Number(b.low) <= Number(b.usual) && Number(b.usual) <= Number(b.high), {
    error: 'Low is not more than usual, usual not more than high.',
    path: ['usual'],
  })
  .describe('What elements of a class, or of an element code, usually cost per unit.');

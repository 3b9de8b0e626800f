import { z } from 'zod';
import { readGroupField } from '../plan/group-labels.ts';
import { PLAN_ROWS } from '../plan/plan-fields.ts';
import { conditionSchema } from './template.ts';

export { targetSchema } from './target.ts';

/** Units that figures of elements are in. */
const SI_UNITS = ['m', 'm2', 'm3', 'kg', 'each', 'h', 'number'] as const;

/** Levels that a plan can be grouped by. */
const MOST_LEVELS = 8;

const who = { by: z.string().max(120).optional(), at: z.string().max(40).optional() };

/** What a mark is on. */
export const markedSchema = z.union([
  z.strictObject({ element: z.number().int() }),
  z
    .strictObject({
      path: z
        .array(
          z.strictObject({
            by: z
              .string()
              .max(200)
              .refine((by) => readGroupField(by) !== null, 'A plan is not grouped by that.'),
            is: z.string().min(1).max(300),
          }),
        )
        .max(MOST_LEVELS),
      section: z.string().max(80).nullable().optional(),
      item: z.string().min(1).max(120).optional(),
    })
    .refine((on) => on.path.length > 0 || on.item !== undefined, { error: 'Say what is checked.' }),
]);

export const checkedSchema = z
  .strictObject({
    on: markedSchema,
    signature: z.string().min(1, 'What is not in the plan cannot be checked.').max(80),
    amount: z.number(),
    ...who,
  })
  .describe('What somebody looked at and found right, as it was then.');

export const swapSchema = z
  .strictObject({
    from: z.string().min(1).max(80),
    to: z.string().min(1).max(80),
    section: z.string().min(1).max(80).optional(),
    ...who,
  })
  .refine((s) => s.from !== s.to, { error: 'An item does not take its own place.' })
  .describe('An item that takes the place of another in the plan.');

/** Beyond it a figure cannot be meant: no element of a building has as much of anything, SI. */
const MOST = 1e7;

export const givenSchema = z
  .record(
    z.string().trim().min(1).max(80),
    z.strictObject({
      value: z.number().min(0, 'A figure is not less than nothing.').max(MOST, 'No element has that much.'),
      unit: z.enum(SI_UNITS),
      was: z.number().nullable(),
      reason: z.string().trim().min(1, 'Say why.').max(300),
      ...who,
    }),
  )
  .describe('Figures set by hand in place of the model\u2019s.');

export const noteSchema = z
  .strictObject({ text: z.string().trim().min(1).max(1000), ...who })
  .describe('What somebody noted on a line of the plan.');

export type PlanNote = z.infer<typeof noteSchema>;

/** How a plan is looked at: what it is grouped by, what a row is, which elements it is limited to. */
export const planViewSchema = z.strictObject({
  by: z
    .array(
      z
        .string()
        .max(300)
        .refine((text) => readGroupField(text) !== null, {
          error: (issue) => `A plan cannot be grouped by "${String(issue.input)}".`,
        }),
    )
    .max(MOST_LEVELS, `A plan can be grouped ${MOST_LEVELS} levels deep.`),
  rows: z.enum(PLAN_ROWS).optional(),
  /** Only elements that it catches. */
  scope: conditionSchema.optional(),
  /** Only elements of these sources. */
  sources: z.array(z.string().max(100)).max(200).optional(),
});

export type PlanView = z.infer<typeof planViewSchema>;

/** A plan that was frozen: its file holds all that it was made of, and what came of it. */
export const baselineSchema = z
  .strictObject({
    name: z.string().trim().min(1, 'A baseline needs a name.').max(120),
    /** Content hash of its file. */
    file: z.string().regex(/^[0-9a-f]{64}$/, 'A file is named by its hash.'),
    /** The state of the project that it is of. */
    seq: z.number().int().min(0),
    currency: z.string().min(1).max(8),
    /** In minor units. */
    total: z.number().int(),
    engine: z.string().min(1).max(40),
    /** It is the plan that was agreed on. */
    isContract: z.boolean().optional(),
    ...who,
  })
  .describe('A frozen plan.');
export type BaselineBody = z.infer<typeof baselineSchema>;

/** What somebody said about an element that came under another id: the key of the one it is, or null if it is none of before. */
export const identitySchema = z
  .strictObject({ was: z.number().int().positive().nullable(), ...who })
  .describe('Whether an element that came under another id is one of before.');

export const optionSchema = z
  .strictObject({
    name: z.string().trim().min(1, 'An option needs a name.').max(80),
    note: z.string().max(1000).optional(),
    isAway: z.boolean().optional(),
    ...who,
  })
  .describe('A named alternative to the plan.');

/** What an option has in place of an entry; its parts are checked as the entry they are of. */
export const differenceSchema = z
  .strictObject({
    option: z.string().min(1).max(60),
    kind: z.string().min(1).max(40),
    id: z.string().min(1).max(200),
    from: z.unknown(),
    to: z.unknown(),
  })
  .describe('What an option has otherwise than its project.');

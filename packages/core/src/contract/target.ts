import { z } from 'zod';
import { parseRate } from '../book/parse-rate.ts';
import { readGroupField } from '../plan/group-labels.ts';
import { TARGET_PER, type Target } from '../plan/hold-targets.ts';

/** What the client wants to spend, for the whole or for one group of the plan. */
export const targetSchema: z.ZodType<Target> = z
  .strictObject({
    by: z
      .string()
      .max(200)
      .refine((by) => readGroupField(by) !== null, 'A plan is not grouped by that.')
      .optional(),
    is: z.string().min(1).max(300).optional(),
    amount: z
      .string()
      .refine((t) => parseRate(t).ok, 'A target is a figure such as 620000.')
      .refine((t) => !parseRate(t).ok || Number(t) > 0, 'A target is more than 0. Take it away where there is none.')
      .refine((t) => !parseRate(t).ok || Number(t) < 1e13, 'No building costs that much.'),
    per: z.enum(TARGET_PER).optional(),
    counted: z.string().max(80).optional(),
    note: z.string().max(300).optional(),
  })
  .refine((t) => (t.by === undefined) === (t.is === undefined), { error: 'A target of a group names the group.' })
  .refine((t) => t.per !== 'unit' || t.counted !== undefined, { error: 'Say which functional unit is counted.' });

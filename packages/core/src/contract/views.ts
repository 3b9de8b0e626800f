import { z } from 'zod';
import { TAKEOFF_ROWS } from '../reports/takeoff-row.ts';
import { unit } from './book-schemas.ts';
import { conditionSchema } from './template.ts';

/** A takeoff table as it is saved: what a row is, which rows, columns, groups, order. */
export const viewSchema = z.strictObject({
  name: z.string().trim().min(1, 'A table needs a name.').max(120),
  row: z.enum(TAKEOFF_ROWS),
  scope: conditionSchema.nullable(),
  columns: z
    .array(
      z.strictObject({
        field: z.string(),
        heading: z.string().max(80).optional(),
        unit: unit.optional(),
        digits: z.number().int().min(0).max(6).optional().describe('Decimals; those of the unit if absent.'),
      }),
    )
    .max(60),
  groups: z.array(z.string()).max(5),
  sort: z.strictObject({ field: z.string(), isDescending: z.boolean() }).nullable(),
  isBundled: z.boolean(),
  isAmong: z.boolean().optional().describe('Junctions are looked for among the shown walls only.'),
  only: z
    .enum(['open', 'priced', 'leftOut', 'came', 'changed'])
    .optional()
    .describe('Rows of elements in one state of the plan, or of those that the last revision brought or changed.'),
  within: z.string().max(80).optional().describe('Name of the limit that the quantities are limited to.'),
});

export type TakeoffView = z.infer<typeof viewSchema>;

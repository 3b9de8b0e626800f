import { z } from 'zod';
import { baseSchema } from './base-seq.ts';
import { conditionSchema } from './template.ts';

/** Elements that one attribute is given to, at most. */
export const MOST_GIVEN = 200_000;

export const attributeNameSchema = z.string().trim().min(1).max(80);
export const attributeValueSchema = z.union([z.string().max(500), z.number(), z.boolean()]);

/**
 * Gives one attribute to many elements, as one change: to those of some keys, or to all that a scope catches as the plan has them now.
 * Null takes it away. `base` is the sequence number it was made on.
 */
export const giveAttributeSchema = z.strictObject({
  base: baseSchema,
  name: attributeNameSchema,
  value: attributeValueSchema.nullable(),
  of: z.union([
    z.strictObject({ keys: z.array(z.number().int()).min(1).max(MOST_GIVEN) }),
    z.strictObject({ scope: conditionSchema }),
  ]),
});
export type GiveAttributeRequest = z.infer<typeof giveAttributeSchema>;

import { z } from 'zod';

/** Sequence number of the state that a change was made on. */
export const baseSchema = z
  .number()
  .int()
  .min(0)
  .max(2 ** 31 - 1);

import { z } from 'zod';

export const deskSchema = z.strictObject({
  bays: z.number(),
  storeyHeight: z.number(),
  outerWall: z.enum(['timber-clad', 'rendered']),
  partition: z.enum(['plain', 'acoustic']),
  windowHeight: z.number(),
  hasEndWindows: z.boolean(),
  rafterSpacing: z.number(),
  floorPanel: z.number(),
  changingFloor: z.string().max(60),
  changingWall: z.string().max(60),
  clubFloor: z.string().max(60),
  isRedrawn: z.boolean(),
});

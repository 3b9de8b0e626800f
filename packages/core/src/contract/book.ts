import { z } from 'zod';
import type { SkippedClass } from '../book/classification.ts';
import type { CostClass } from '../book/cost-class.ts';

export const pinnedBookSchema = z.strictObject({
  bookId: z.string().min(1).max(100),
  version: z.number().int().min(1),
  /** Content hash of the version. */
  hash: z.string().regex(/^[0-9a-f]{64}$/),
});

export type PinnedBook = z.infer<typeof pinnedBookSchema>;

/** Sharing a project's prices: as a new book with a name, or as the next version of the one it stands on. */
export const publishBookSchema = z.strictObject({
  name: z.string().trim().min(1, 'A book needs a name.').max(120).optional(),
  note: z.string().trim().max(300).default(''),
});

/** A shared book with its newest version. */
export interface BookDto {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly hash: string;
}

/** One immutable version of a book. */
export interface BookVersionDto {
  readonly number: number;
  readonly hash: string;
  readonly note: string;
  readonly author: string;
  readonly at: string;
}

/** A list of classes that was brought. */
export interface ClassListDto {
  readonly name: string;
  readonly classes: readonly CostClass[];
  readonly skipped: readonly SkippedClass[];
}

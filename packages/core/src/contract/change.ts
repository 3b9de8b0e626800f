import { z } from 'zod';
import type { EntryDiff } from '../changes/entry-diff.ts';
import type { MoveCause } from '../changes/move-causes.ts';
import { baseSchema } from './base-seq.ts';
import { diffSchema } from './entries.ts';

/** A change of entries; `base` is the sequence number it was made on. */
export const changeSchema = z.strictObject({
  base: baseSchema,
  cause: z.string().trim().min(1).max(300),
  diff: diffSchema,
});

/** A change of prices or rules whose effect is asked for before it is made. */
export const previewSchema = z.strictObject({ diff: diffSchema });

export interface MoveDto {
  readonly before: number;
  readonly after: number;
  readonly move: number;
  readonly causes: Readonly<Record<MoveCause, number>>;
}

export interface ChangeDto {
  readonly id: number;
  readonly projectId: string;
  readonly seq: number;
  readonly author: string;
  readonly cause: string;
  readonly undoes: number | null;
  readonly isUndone: boolean;
  readonly at: string;
  /** How many entries it touches. */
  readonly entryCount: number;
  /** Another revision of a source counts by it. */
  readonly isRevision: boolean;
  /** The option that it was made in; null for the project itself. */
  readonly option: string | null;
  /** Null until the plan has been recalculated after it. */
  readonly move: MoveDto | null;
}

/** What a change of shared prices would do to another project. `diff` is the change it would take there, made on `seq`. */
export interface ProjectEffectDto {
  readonly projectId: string;
  readonly name: string;
  readonly currency: string;
  readonly seq: number;
  /** Prices that it has otherwise. */
  readonly prices: number;
  readonly diff: EntryDiff;
  /** Null if it cannot be calculated there; `problem` says why. */
  readonly move: MoveDto | null;
  readonly problem: string | null;
}

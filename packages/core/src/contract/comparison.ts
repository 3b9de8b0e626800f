import { z } from 'zod';
import type { BaselineDrift } from '../baselines/hold-baseline.ts';
import type { ElementChange, ElementChangeKind } from '../changes/list-element-changes.ts';
import type { MoveCause } from '../changes/move-causes.ts';
import type { ExplainedElement } from '../plan/explain-element.ts';
import type { MoveDto } from './change.ts';

/** A group on both sides, in whole minor units. */
export interface GroupMoveDto {
  readonly label: string;
  readonly from: number;
  readonly to: number;
  readonly move: number;
  readonly causes: Readonly<Record<MoveCause, number>>;
}

/** What differs between two states of a project, or of two. Moves of elements are in 1/10,000 of a minor unit, all else in minor units. */
export interface ComparisonDto {
  readonly currency: string;
  readonly minorDigits: number;
  readonly move: MoveDto;
  readonly groups: readonly GroupMoveDto[];
  readonly counts: Readonly<Record<ElementChangeKind, number>> & { readonly identified: number };
  /** The most money first; those that there is no room for are counted in `rest`. */
  readonly elements: readonly ElementChange[];
  readonly rest: { readonly count: number; readonly move: number };
  /** What of the move is no element's: packs left over. */
  readonly surplus: number;
  /** Revisions of models on each side. */
  readonly revisions: readonly [readonly string[], readonly string[]];
  /** By what a frozen plan, worked out again by this version, differs from what was frozen; null where it does not, or the side is no frozen plan. */
  readonly drift: readonly [BaselineDrift | null, BaselineDrift | null];
  /** Floor area of each side, m2; null where it is not known. */
  readonly floorAreaM2: readonly [number | null, number | null];
}

/** An element on both sides of a comparison; null where it is not. */
export interface ComparedElementDto {
  readonly before: ExplainedElement | null;
  readonly after: ExplainedElement | null;
}

/** A state of a project that can be compared: the plan of now, after a change, a revision in place of the counting one, a frozen plan, an option. */
export const stateRefSchema = z
  .string()
  .max(300)
  .regex(
    /^(live|base|seq:\d{1,10}|revision:.+|baseline:.+|option:.+)$/,
    'Say live, base, seq:12, revision:…, baseline:… or option:….',
  );

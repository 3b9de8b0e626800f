import type { ChangeDto } from './change.ts';

/** Body of an error answer, RFC 9457. */
export interface ProblemDto {
  readonly type: 'about:blank';
  readonly status: number;
  readonly title: string;
  readonly code: string;
  readonly detail: string;
  readonly remedy?: string;
  /** On a conflict: what others changed since. */
  readonly changes?: readonly ChangeDto[];
}

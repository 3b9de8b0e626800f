/**
 * Outcome of an operation that may fail because of its input. Misuse of an API throws instead.
 * @example const r = parseUnit('m2'); if (r.ok) use(r.value); else show(r.problem);
 */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem };

/** Place in a text as offsets of its first character and the one after its last. */
export interface Span {
  readonly start: number;
  readonly end: number;
}

/** What went wrong, where, and what to do about it, in words for the user. */
export interface Problem {
  /** Stable machine-readable name, e.g. `formula-dimension`. */
  readonly code: string;
  readonly message: string;
  /** What the user can do. */
  readonly remedy?: string;
  /** Place in the text that was read. */
  readonly span?: Span;
  /** Place in a structure, e.g. `items[3].rate`. */
  readonly path?: string;
}

/** Wraps a value as success. */
export function success<T>(value: T): Result<T> {
  return { ok: true, value };
}

/** Wraps a problem as failure. */
export function failure<T>(code: string, message: string, more: Partial<Problem> = {}): Result<T> {
  return { ok: false, problem: { code, message, ...more } };
}

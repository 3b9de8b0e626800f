import type { Condition } from './condition.ts';

/** A scope with a name, for rules and tables to use: changed once, it is changed wherever it is used. */
export interface NamedScope {
  readonly id: string;
  readonly name: string;
  readonly scope: Condition;
}

/**
 * A condition in which named scopes carry what they stand for (`is`) and their name (`title`). What names none is the very object that came in; one that is not there, or that
 * uses itself, stays without: it catches nothing.
 */
export function resolveScope(condition: Condition, scopes: readonly NamedScope[], within: readonly string[] = []): Condition {
  if ('field' in condition) return condition;
  if ('named' in condition) {
    const { named } = condition;
    const found = within.includes(named) ? undefined : scopes.find((s) => s.id === named);
    return found ? { named, title: found.name, is: resolveScope(found.scope, scopes, [...within, named]) } : { named };
  }
  if ('not' in condition) {
    const not = resolveScope(condition.not, scopes, within);
    return not === condition.not ? condition : { not };
  }
  const list = 'all' in condition ? condition.all : condition.any;
  const resolved = list.map((c) => resolveScope(c, scopes, within));
  if (resolved.every((c, i) => c === list[i])) return condition;
  return 'all' in condition ? { all: resolved } : { any: resolved };
} // biome-ignore format: one head

/** Things with scopes, these resolved. */
export const resolveScopes = <T extends { readonly scope: Condition }>(list: readonly T[], scopes: readonly NamedScope[]): T[] =>
  list.map((one) => {
    const scope = resolveScope(one.scope, scopes);
    return scope === one.scope ? one : { ...one, scope };
  }); // biome-ignore format: one head

/** A body as it is kept: named scopes in it without what they stand for. What has none is the very object that came in. */
export function forgetResolved<T>(body: T): T {
  if (Array.isArray(body)) {
    const list = body.map(forgetResolved);
    return list.every((one, i) => one === body[i]) ? body : (list as T);
  }
  if (body === null || typeof body !== 'object') return body;
  const { named } = body as { readonly named?: unknown };
  if (typeof named === 'string' && 'is' in body) return { named } as T;
  const fields = Object.entries(body).map(([key, value]) => [key, forgetResolved(value), value] as const);
  return fields.every(([, now, before]) => now === before)
    ? body
    : (Object.fromEntries(fields.map(([key, now]) => [key, now])) as T);
}

/** Whether a condition uses a named scope, itself or through another. */
export function usesScope(condition: Condition, id: string): boolean {
  if ('field' in condition) return false;
  if ('named' in condition)
    return condition.named === id || (condition.is !== undefined && usesScope(condition.is, id));
  if ('not' in condition) return usesScope(condition.not, id);
  return ('all' in condition ? condition.all : condition.any).some((c) => usesScope(c, id));
}
